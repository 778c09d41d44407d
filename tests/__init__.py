"""All tests. `KAGAMI_NIGHTLY=1` makes the random ones try two thousand cases each instead of a few dozen."""

import os

from hypothesis import HealthCheck, settings

settings.register_profile("normal", max_examples=40, deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.register_profile("nightly", max_examples=2000, deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("nightly" if os.environ.get("KAGAMI_NIGHTLY") == "1" else "normal")
