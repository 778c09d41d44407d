"""The geometry as servers run it: answered by compiled loops. `compiled` holds these to the columns."""

from kagami.geometry.loading import use_compiled

use_compiled()
