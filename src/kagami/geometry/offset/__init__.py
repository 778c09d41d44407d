"""Parallels of curves and what is made of them: offsets of outlines, and bands along lines."""

from kagami.geometry.offset.band import Ends, Place, band
from kagami.geometry.offset.corners import Corners
from kagami.geometry.offset.outset import offset, offsets

__all__ = ["Corners", "Ends", "Place", "band", "offset", "offsets"]
