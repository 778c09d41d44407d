"""The one place for tolerances, each named by what it measures.

Coordinates are module units on a sheet of about 100 u. Double precision leaves about 1e-14 u of noise there, so
that there is ample room on both sides: noise is far below LENGTH, and the smallest thing a designer draws far above.
"""

from __future__ import annotations

from typing import Final

SHEET: Final = 100.0
"""Size of a usual sheet in module units; tolerances of length are a share of it."""

LENGTH: Final = 1e-9 * SHEET
"""Points closer than this are one point; curves that miss touching by less touch."""

COINCIDENT: Final = 4 * LENGTH
"""Edges between the same vertices whose middles are closer than this are one edge (both ends may be off by LENGTH)."""

JOINT: Final = 8 * LENGTH
"""Ends of curves that follow each other in an outline are one joint when they are nearer than this."""

CRUMB: Final = 10 * LENGTH
"""Results hold no curve shorter and no area narrower than this: the next operation might take it for nothing."""

SCALES: Final = (1.0, 1 / 8, 64.0, 1 / 64, 1 / 512)
"""Scales at which curves are arranged in turn until the certificate holds: on a smaller drawing the same tolerance
takes more for one place, on a larger one less (which tells curves apart that run along each other by their making).
"""

CERTAIN: Final = 32 * LENGTH
"""Areas of an arrangement add up to within this width along all its curves, and edges end this near to their vertices.
"""

TIE_ANGLE: Final = 1e-3
"""Directions round a vertex nearer than this are ordered by their chords instead of their tangents (radians)."""

GRAZE: Final = 1e-6
"""A ray that meets an edge this near to its end (as a length in u) or to its tangent (as a sine) is cast anew."""

SAME: Final = 1e-7
"""Shapes whose features agree to this many units are called symmetric images of each other."""

FLAT: Final = 0.02
"""A stretch of a cubic whose handles lie this near to its chord, as a share of it, is straight enough for Newton."""

NEAR_PARALLEL: Final = 1e-3
"""Curves that meet at a lesser sine than this may touch; meetings this near to each other (u) are then one touch."""


FITTED: Final = 1e-6
"""Cubics that stand for other curves (offsets of ellipses and cubics) are no further from them than this, in u."""

SMOOTH: Final = 1e-6
"""Curves that follow each other with a lesser turn than this join smoothly (radians)."""

BLUNT: Final = 1e-9
"""By this share of its speed a parallel may run backwards and still be taken to stand still: an arc as sharp as the
curve that it touches.
"""

SQUARE_ON: Final = 1e-3
"""A way that is less off a right angle to an edge than this (as a cosine) goes straight across."""

KINK: Final = 0.14
"""A joint that turns by less than this (8 degrees, as radians) but is not smooth was most likely meant to be smooth."""

ROUNDING: Final = 1e-12
"""Relative noise of a value that came out of a few arithmetic operations."""

STRAIGHT: Final = LENGTH / 4
"""A cubic whose control points are no further beside its chord than this is a stretch of a line."""

TOGETHER: Final = 0.9 * LENGTH
"""Curves no further apart than this all along a stretch run together there."""

APART: Final = 1e-6
"""Tangents that differ by more than this sine are told apart."""

CUSP: Final = 1e-9
"""Where a cubic is slower than this share of its size it turns back."""

SLOW: Final = 1e-4
"""A cubic that is nowhere slower than this share of its size, where it turns back in x or y, has no cusp."""

SAME_STOP: Final = 1e-6
"""Parameters of a cubic that are nearer than this are one: places at which it turns back, and what lies at its ends."""

STILL: Final = 1e-7
"""Slower than this share of its size, a curve stands still."""

UNMOVED: Final = 1e-9
"""A number that changes a value by less than this moves it not; two values no further apart are one."""

PROBE: Final = 1e-3
"""A number is tried so much further (as a share of it, 1 at the least) to see by how much its value goes."""

ON_THE_WAY: Final = 1e-3
"""Parameters that are only a start for the next step of a way are settled to this."""

OVERSHOOT: Final = 1e-3
"""What must reach a line is drawn so much longer, as a share of it."""

SPARED: Final = 5e-5
"""Curves of a finished mark are drawn as fewer where none of them is further than this from where it was, in u."""

STATED_ERROR: Final = 5e-5
"""No point of an SVG document is further than this (in its units) from where it should be."""

READ_POINT: Final = 5e-4
"""A reader of PDF that rounds places gives them no further off than this, in millimetres."""

READ_EXACT: Final = 1e-6
"""A reader of text gives places no further off than this, in millimetres, or as a share of a size."""

READ_AREA: Final = 1e-5
"""Areas that a reader finds agree to this share, besides what outlines are off."""

READ_SHARE: Final = 1e-5
"""Shares of inks that a reader finds agree to this."""

IN_LINE: Final = 1e-4
"""Two lines that turn by a lesser sine are one; two arcs whose circles agree to this share of their radius too."""

MATCHED: Final = 1e-4
"""Stems are as thick as asked to this share: the weight of a face goes in steps (F2Dot14, OpenType 1.9.1, Font
variations common table formats)."""

DRAWN_APART: Final = 2e-3
"""The share of their pixels in which two rasterisers may draw the same outlines apart."""

LIKE_A_CIRCLE: Final = 3e-4
"""A closed outline of a drawing that is brought is a circle if it strays from one by no more than this share of its
size: four cubics that were drawn for a circle stray by 1.4e-4 of it (Riškus 2006, see `exchange.arcs`).
"""

MEANT_SMOOTH: Final = 5e-3
"""The sine of the angle, a third of a degree, up to which the handles of a node of such a drawing are meant to lie in
one line: its numbers are rounded.
"""
