"""Where curves meet, batched by pair of kinds. One file a pair of kinds; the swap of a pair happens in `find` alone."""

from kagami.geometry.crossings.find import Crossings, find

__all__ = ["Crossings", "find"]
