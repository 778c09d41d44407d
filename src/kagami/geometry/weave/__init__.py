"""Weaving: strands that pass over and under each other."""

from kagami.geometry.weave.alternation import Alternation, alternate
from kagami.geometry.weave.passes import Crossing, Passage, Strand, StrandsMeet, crowded, passes_of
from kagami.geometry.weave.shades import Shaded, shaded
from kagami.geometry.weave.woven import Pieces, inlaid, woven

__all__ = [
    "Alternation",
    "Crossing",
    "Passage",
    "Pieces",
    "Shaded",
    "Strand",
    "StrandsMeet",
    "alternate",
    "crowded",
    "inlaid",
    "passes_of",
    "shaded",
    "woven",
]
