"""The arrangement of curves: vertices, edges with their owners, faces with the shapes that cover them."""

from kagami.geometry.arrangement.arrange import arrange, arrange_columns
from kagami.geometry.arrangement.arrangement import Arrangement

__all__ = ["Arrangement", "arrange", "arrange_columns"]
