"""Changes to an outline's own curves and nodes."""

from kagami.geometry.reshape.nodes import with_corner, with_smooth, without_node
from kagami.geometry.reshape.recognise import recognised
from kagami.geometry.reshape.sides import Bow, bowed, pointed, stretched
from kagami.geometry.reshape.stroke import fitted_stroke

__all__ = [
    "Bow",
    "bowed",
    "fitted_stroke",
    "pointed",
    "recognised",
    "stretched",
    "with_corner",
    "with_smooth",
    "without_node",
]
