"""The arrangement of curves: vertices, edges with their owners, faces with the shapes that cover them."""

from kagami.geometry.arrangement.arrange import arrange
from kagami.geometry.arrangement.arrangement import Arrangement

__all__ = ["Arrangement", "arrange"]
