"""One step of every kind, over figures that it can be made from."""

from __future__ import annotations

from typing import Final

BASE: Final = """
Tone: black = 100%
Tone: grey = 50%
Circle disc on O with radius 3u.
Circle moon on right of disc with radius 2u.
Square plate of side 4u, its centre on 1u right and 1u up from O, turned by 0°.
Line floor through bottom of disc at 0°.
Line slant through O at 30°.
Segment way from left of disc to 1u right and 5u up from O.
Circle one on -1u right and 0.5u up from O with radius 4u.
Circle two on 2u right and 0.25u up from O with radius 4u.
Weave one and two, 0.8u wide, ends butt and corners mitred, with gap 0.15u, turning over nothing: plait.
Point mark, 7.3u right and 1.7u up from O.
Set “Vennik” in Jost, caps 0.5u high, its middle at 2u right and 7u up from O: words.
Set “Light” in Jost, caps 0.5u high, along disc, its middle at top of disc, outside it by 0.25u: ringed.
"""

SAMPLES: Final = {
    "centre-lines": "Centre lines x through O.",
    "diagonals": "Diagonals x through O.",
    "guide-line": "Line x through O at 25°.",
    "line-between": "Line x through O and top of disc.",
    "parallel": "Line x parallel to slant, 1.5u to its left.",
    "point": "Point x, 2u right and 1u up from O.",
    "polar-point": "Point x, 3u away from O at 40°.",
    "grid": "Grid x on O, square, 6 cells of 1.5u each way.",
    "polar-grid": "Polar grid x on O: 4 rings 1u apart and 9 rays.",
    "circle": "Circle x on O with radius 2u.",
    "circle-through": "Circle x on O through top of moon.",
    "circle-diameter": "Circle x over the diameter from O to top of moon.",
    "circle-three": "Circle x through the places top of disc, left of disc and bottom of moon.",
    "circle-touching": "Circle x touching disc, moon and floor, number 1 by size.",
    "circle-touching-two": "Circle x of radius 1u touching disc and floor, number 4 from the left.",
    "circle-between": "Circle x filling the space between floor and disc at top of disc.",
    "circle-fitted": "Circle x fitted to disc.",
    "oval": "Oval x on O, 6u wide and 2u high, turned by 20°.",
    "ring": "Ring x on O from radius 2u to 3u.",
    "arc": "Arc x on O with radius 3u from 20° to 110°.",
    "wedge": "Wedge x on O with radius 3u from 20° to 110°.",
    "ring-part": "Ring part x on O from radius 2u to 3u, from 20° to 110°.",
    "bar": "Bar x from O at 60°, 1u wide and 5u long.",
    "bar-between": "Bar x from O to top of moon, 1u wide.",
    "box": "Box x, 6u wide and 4u high, its bottom left on O, turned by 10°.",
    "box-between": "Box x from corner O to corner top of moon.",
    "square": "Square x of side 4u, its top on O, turned by 10°.",
    "polygon": "Polygon x of 5 sides on O, corners 4u out, the first at 90°.",
    "standing-polygon": "Polygon x of 5 sides with side 3u, its centre on O, standing on a side.",
    "star": "Star x of 5 points on O, tips 5u and notches 2u out, the first tip at 90°.",
    "star-polygon": "Star x of 7 points on O, tips 5u out, each joined 2 tips on, the first tip at 90°.",
    "segment": "Segment x from O to top of moon.",
    "path": "Path x, open, through O; top of disc; right of moon.",
    "leaf": "Leaf x from O to top of moon, 1u wide.",
    "drop": "Drop x on O with radius 2u, its tip on top of disc.",
    "shield": (
        "Shield x with its top on O, 6u wide and 8u high, cut 1u at its shoulders, straight for 3u, its foot bowed by "
        "0.5u."
    ),
    "free-outline": "Outline x, closed, drawn from O through 0u, 0u; 4u, 0u [-1u, 0u | 1u, 1u]; 2u, 3u; top of moon.",
    "free-stroke": (
        "Stroke x, open, drawn from O near 0u, 0u; 1u, 1u; 2u, 1u; 3u, 0u, to within 0.05u, steadied over 0.1u."
    ),
    "turn": "Turn moon round O, 5 copies: x.",
    "turn-part": "Turn moon round O in steps of 40°, 3 altogether: x.",
    "turn-reflect": "Turn moon round O, 5 copies, each reflected across the line at 80°: x.",
    "turn-sizes": "Turn plate round O in steps of 40°, sized 1; 0.8; 0.6, 0.5: x.",
    "reflect": "Reflect moon across slant, the original kept: x.",
    "march": "March moon by 2u right and 1u up, 4 altogether: x.",
    "spread": "Spread moon from O to top of disc, 4 altogether: x.",
    "echo": "Echo plate from O at 0.7 times its size, 3 altogether, bands kept 0.2u thick: x.",
    "open": "Open disc and moon about bottom of disc by 10° each: x.",
    "let-go": "Let copy 2 of plait go: x.",
    "move": "Move moon by 2u right and 1u up: x.",
    "place": "Place moon with centre of moon on top of disc: x.",
    "rotate": "Rotate moon about O by 30°: x.",
    "scale": "Scale moon from O by 1.5: x.",
    "against": "Set moon against the left of disc, 0.5u away: x.",
    "align": "Align moon with the top left of disc: x.",
    "size": "Size moon to 5u by 3u, its left held: x.",
    "size-in-proportion": "Size moon in proportion to 5u across, its top held: x.",
    "widen": "Move the right side of plate by 1u, cut at O: x.",
    "carve": "Of disc and moon keep nothing, the rest kept: piece x.",
    "union": "Unite disc and moon: piece x.",
    "difference": "From disc take moon: piece x.",
    "intersection": "Keep what disc and moon have in common: piece x.",
    "exclusion": "Of disc and moon leave out every second overlap: piece x.",
    "divide": "Divide disc and moon: pieces x.",
    "split": "Split disc along slant: pieces x.",
    "group": "Group disc and moon: x.",
    "band": "Band x, 1u wide, on way, ends butt and corners mitred.",
    "taper": "Tapering band x left of way, from 1u to 0.5u wide, ends butt.",
    "offset": "Offset plate by 0.5u, 2 steps, corners mitred: x.",
    "gap": "Part disc and moon by 0.25u, each giving half: x.",
    "weave": "Weave one and two, 0.8u wide, ends butt and corners mitred, with gap 0.15u, turning over nothing: x.",
    "inlay": "Lay a band 0.3u wide along the middles of plait: x.",
    "round": "Round all corners of plate by 0.5u: x.",
    "round-far": "Round all corners of plate by 0.5u as far as it goes: x.",
    "round-each": "Round the corners of plate one by one by 0.5u; 0.25u: x.",
    "round-one": "Round the corner of plate at corner 1 of plate by 0.5u, there alone: x.",
    "cast": "Cast moon over 3u at -45°, the figure itself left out: x.",
    "bow": "Bow the sides of plate outward by 0.3u, as arcs: x.",
    "draw-to-points": "Draw moon to points at both ends: x.",
    "node-out": "Take node 2 out of plate: x.",
    "node-form": "Make node 2 of plate smooth: x.",
    "true": "Make lines and arcs of plate true, to within 0.05u: x.",
    "order": "Bring moon farthest of all: x.",
    "fill": "Fill disc with black: pieces x.",
    "grade": "Grade the copies of disc from black to grey: pieces x.",
    "gradient": "Fill disc from left of disc to right of disc with a gradient of black and grey: pieces x.",
    "gradient-round": "Fill disc from O out to 3u with a gradient of black, grey at 40% and 9% lighter than black: x.",
    "light": "Light disc and moon from 130° with 5 tones about grey, by direction: pieces x.",
    "half": "To the right of slant, make disc lighter by 30 %: pieces x.",
    "rim": "Rim disc, 0.5u wide, lit from 130° with 5 tones about grey: pieces x.",
    "shadow": "Shade disc by plate over 3u at -45°, 30 % lighter: pieces x.",
    "overlap": "Where disc and moon overlap, mix their tones as multiplied: pieces x.",
    "crossing-shade": "Shade the crossings of plait over 0.4u, 30 % lighter: pieces x.",
    "flat": "Flatten disc and moon, gradients in 8 bands, neighbours overlapping by 0.05u: pieces x.",
    "set-line": (
        "Set “Tide” in Jost, weight 500, caps 1u high, tracked 0.1u, its middle at top of moon, turned by 20°: x."
    ),
    "set-along": (
        "Set “Tide” in Jost, weight 500, caps 0.5u high, tracked 0.1u, along moon, its middle at top of moon, "
        "outside it by 0.25u, reading upright: x."
    ),
    "set-like": "Set “Tide” like words, its middle at top of moon, turned by 20°: x.",
    "set-like-along": (
        "Set “Tide” like words, along moon, its middle at top of moon, outside it by 0.25u, reading upright: x."
    ),
    "compose": (
        "Compose words with capitals as typed, figures lining, kerning off, letters 100% wide, drawn for size 24, "
        "lines 140% apart: x."
    ),
    "kern": "Kern words by 0.1u after letters 2, 3: x.",
    "fit-width": "Fit words to a width of 6u by its tracking: x.",
    "fit-span": "Span 90° with ringed by its tracking: x.",
    "match-stems": "Match the stems of words to 0.1u: x.",
    "hold": "Hold ringed at 0.5u from moon: x.",
    "one-by-one": "Take the letters of words one by one: x.",
    "as-outlines": "Take words as outlines: x.",
}
"""By kind; each makes `x`."""
