"""The arrangement of curves: vertices, edges with their owners, faces with the shapes that cover them."""

from kagami.geometry.arrangement.arrange import Arrangement, arrange

__all__ = ["Arrangement", "arrange"]
