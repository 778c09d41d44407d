"""Loops that cannot be columns, as small functions of plain numbers that numba compiles.

They are plain Python: with NUMBA_DISABLE_JIT=1 the same source runs uncompiled, which a test compares. What is compiled
is kept on disk, in NUMBA_CACHE_DIR where that is set; set-up and servers compile before anybody waits. This package is
imported only by what needs it, since numba takes half a second to load.
"""
