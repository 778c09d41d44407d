"""Weaving: strands that pass over and under each other."""

from kagami.geometry.weave.alternation import Alternation, alternate
from kagami.geometry.weave.passes import Crossing, Passage, Strand, StrandsMeet, passes_of
from kagami.geometry.weave.woven import Woven, woven

__all__ = ["Alternation", "Crossing", "Passage", "Strand", "StrandsMeet", "Woven", "alternate", "passes_of", "woven"]
