"""Write docs/plan.md and docs/plan.schema.json from the code (with src on the path: python docs/draw_plan.py).

Each kind of step has its sentence, its fields and a picture that the core draws. A test says when they are stale.
"""

from __future__ import annotations

import pathlib
import re
import textwrap
from typing import Final

from kagami.exchange.artwork import Shading
from kagami.exchange.svg import Frame, gradient_element, path_data
from kagami.geometry.measure.size import Box
from kagami.plan.document import schema_json
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text
from kagami.plan.references.spoken import OF_ONE
from kagami.plan.steps import KINDS, Chapter, Step, in_order_of_work, kind_of
from kagami.plan.tones.listed import tone_colours
from kagami.plan.tones.paint import Gradient
from kagami.plan.values.expressions import CONSTANTS, FUNCTIONS
from kagami.plan.wording.names import name_text

FOLDER: Final = pathlib.Path(__file__).parent
PICTURES: Final = FOLDER / "plan"
SIDE: Final = 150
COLUMNS: Final = 3

BASE: Final = """
Tone: dark = 80%
Tone: pale = 50% lighter than dark
Tone: tide = #3f7f8c
Circle disc on O with radius 3u.
Circle moon on right of disc with radius 2u.
Square plate of side 4u, its centre on O, turned by 0°.
Segment cut from left of disc to right of disc.
Line slant through O at 30°.
Line level through bottom of disc at 0°.
Bar beam from top of disc at 90°, 1u wide and 2u long.
Path elbow, open, through left of disc; O; top of disc.
Oval egg on O, 6u wide and 3u high, turned by 0°.
Point far, 3u right and 3u up from O.
Bar leaning from O at 75°, 0.5u wide and 4u long.
"""
WORDS: Final = (
    "Set “TIDE” in Jost, weight 500, caps 1u high, tracked 0.2u, its middle at 0u right and -0.5u up from O: line.\n"
)
ROUND: Final = (
    "Set “TIDE” in Jost, weight 500, caps 0.8u high, tracked 0.3u, along disc, its middle at top of disc, "
    "outside it by 0.3u: “round words”.\n"
)
EXAMPLES: Final = {
    "centre-lines": "Centre lines made through O.",
    "diagonals": "Diagonals made through O.",
    "guide-line": "Line made through O at 30°.",
    "line-between": "Line made through left of disc and far.",
    "parallel": "Line made parallel to slant, 1u to its left.",
    "point": "Point made, 2u right and 1u up from O.",
    "polar-point": "Point made, 2u away from O at 30°.",
    "grid": "Grid made on O, rhombic, 5 cells of 1u each way.",
    "polar-grid": "Polar grid made on O: 3 rings 1u apart and 8 rays.",
    "circle": "Circle made on O with radius 2u.",
    "circle-through": "Circle made on O through far.",
    "circle-diameter": "Circle made over the diameter from O to far.",
    "circle-three": "Circle made through the places O, far and top of disc.",
    "circle-touching": "Circle made touching disc, moon and level, number 2 by size.",
    "circle-touching-two": "Circle made of radius 1u touching disc and level, number 3 from the left.",
    "circle-between": "Circle made filling the space between disc and moon at O.",
    "circle-fitted": "Circle made fitted to elbow.",
    "oval": "Oval made on O, 5u wide and 3u high, turned by 20°.",
    "ring": "Ring made on O from radius 2u to 3u.",
    "arc": "Arc made on O with radius 3u from 20° to 200°.",
    "wedge": "Wedge made on O with radius 3u from 20° to 80°.",
    "ring-part": "Ring part made on O from radius 2u to 3u, from 20° to 200°.",
    "bar": "Bar made from O at 60°, 1u wide and 4u long.",
    "bar-between": "Bar made from O to far, 1u wide.",
    "box": "Box made, 5u wide and 3u high, its bottom on O, turned by 10°.",
    "box-between": "Box made from corner O to corner far.",
    "square": "Square made of side 3u, its bottom left on O, turned by 0°.",
    "polygon": "Polygon made of 6 sides on O, corners 3u out, the first at 90°.",
    "standing-polygon": "Polygon made of 5 sides with side 3u, its centre on O, standing on a side.",
    "star": "Star made of 5 points on O, tips 3u and notches 1.2u out, the first tip at 90°.",
    "star-polygon": "Star made of 7 points on O, tips 3u out, each joined 3 tips on, the first tip at 90°.",
    "segment": "Segment made from O to far.",
    "path": "Path made, closed, through O; right of disc; far; top of disc.",
    "leaf": "Leaf made from O to far, 1.5u wide.",
    "drop": "Drop made on O with radius 1.5u, its tip on far.",
    "shield": "Shield made with its top on top of disc, 5u wide and 6u high, cut 1u at its shoulders, straight for 2u, "
    "its foot bowed by 0.4u.",
    "free-outline": "Outline made, closed, drawn from O through 0u, -3u [-1u, 0u | 1u, 0u]; 3u, 0u [0u, -1u | 0u, 1u]; "
    "0u, 3u; -3u, 0u [0u, 1u | 0u, -1u].",
    "free-stroke": "Stroke made, open, drawn from O near -3u, 0u; -1u, 1.5u; 1u, -1.5u; 3u, 0u, to within 0.05u, "
    "steadied over 0.5u.",
    "turn": "Turn beam round O, 8 copies: made.",
    "fill": "Split plate along slant: pieces halves.\nFill halves with dark and pale: pieces made.",
    "grade": "Turn beam round O, 8 copies: rays.\nGrade the copies of rays from dark to pale: pieces made.",
    "gradient": "Fill disc from left of disc to right of disc with a gradient of dark and pale: pieces made.",
    "gradient-round": "Fill disc from top of disc out to 5u with a gradient of pale, dark at 60% and dark: "
    "pieces made.",
    "light": "Polygon gem of 8 sides on O, corners 3u out, the first at 22.5°.\nLine a through O at 22.5°.\n"
    "Turn a round O, 8 copies: rays.\nDivide gem and rays: pieces facets.\n"
    "Light facets from 130° with 5 tones about tide, by direction: pieces made.",
    "half": "Fill disc with tide: pieces sea.\nTo the right of slant, make sea darker by 40 %: pieces made.",
    "rim": "Fill plate with tide: pieces board.\n"
    "Rim board, 0.6u wide, lit from 130° with 5 tones about tide: pieces made.",
    "shadow": "Scale moon from centre of moon by 0.4: boss.\nFill disc with tide: pieces sea.\n"
    "Shade sea by boss over 4u at 220°, 35 % darker: pieces made.",
    "overlap": "Fill disc with tide: pieces sea.\nFill moon with pale: pieces shine.\n"
    "Where sea and shine overlap, mix their tones at half strength: pieces made.",
    "crossing-shade": "Weave disc and moon, 0.6u wide, ends butt and corners mitred, with gap 0.1u, turning over "
    "nothing: woven.\nFill woven with tide: pieces rope.\nShade the crossings of rope over 0.4u, 50 % darker: "
    "pieces made.",
    "flat": "Fill disc from left of disc to right of disc with a gradient of dark and pale: pieces ball.\n"
    "Flatten ball, gradients in 6 bands, neighbours overlapping by 0.05u: pieces made.",
    "set-line": "Set “Vennik” in EB Garamond, weight 500, caps 1.2u high, tracked 0u, its middle at O, "
    "turned by 15°: made.",
    "set-along": "Set “TIDE” in Jost, weight 600, caps 0.8u high, tracked 0.3u, along disc, "
    "its middle at top of disc, outside it by 0.3u, reading upright: made.",
    "set-like": f"{WORDS}Set “and light” like line, its middle at 0u right and -2u up from O, turned by 0°: made.",
    "set-like-along": f"{ROUND}Set “LIGHT” like “round words”, along disc, its middle at bottom of disc, "
    "outside it by 0.3u, reading upright: made.",
    "compose": "Set “Tide 1847” in EB Garamond, weight 500, caps 1.2u high, tracked 0u, its middle at O: line.\n"
    "Compose line with capitals small capitals, figures old style, kerning on, letters 100% wide, drawn for size 24, "
    "lines 140% apart: made.",
    "kern": f"{WORDS}Kern line by 0.4u after letters 1, 3: made.",
    "fit-width": f"{WORDS}Fit line to a width of 6u by its tracking: made.",
    "fit-span": f"{ROUND}Span 140° with “round words” by its tracking: made.",
    "match-stems": f"{WORDS}Match the stems of line to 0.3u: made.",
    "hold": f"{ROUND}Hold “round words” at 0.6u from disc: made.",
    "one-by-one": f"{WORDS}Take the letters of line one by one: made.",
    "as-outlines": f"{WORDS}Take line as outlines: made.",
    "turn-reflect": "Turn leaning round O, 3 copies, each reflected across the line at 90°: made.",
    "turn-sizes": "Turn beam round O in steps of 25°, sized 1; 0.8; 0.6, 1.2; 0.4: made.",
    "turn-part": "Turn beam round O in steps of 25°, 4 altogether: made.",
    "reflect": "Reflect moon across slant, the original kept: made.",
    "march": "March beam by 1.2u right and -0.4u up, 4 altogether: made.",
    "spread": "Spread moon from right of disc to left of disc, 3 altogether: made.",
    "echo": "Echo moon from O at 0.7 times its size, 4 altogether, bands kept 0u thick: made.",
    "open": "Open beam and moon about O by 20° each: made.",
    "let-go": "Let copy 1 of moon go: made.",
    "move": "Move moon by -2u right and 1u up: made.",
    "place": "Place moon with centre of moon on O: made.",
    "rotate": "Rotate beam about O by 50°: made.",
    "scale": "Scale moon from O by 0.6: made.",
    "against": "Set moon against the left of plate, 0.5u away: made.",
    "align": "Align moon with the top left of plate: made.",
    "order": "Bring disc farthest of all: made.",
    "size": "Size disc to 5u by 3u, its centre held: made.",
    "size-in-proportion": "Size plate in proportion to 2u across, its bottom left held: made.",
    "widen": "Move the right side of plate by 1.5u, cut at O: made.",
    "carve": "Of disc, moon and plate keep in disc + plate, 1 of 1, here; in moon, 1 of 1, here, "
    "the rest dropped: piece made.",
    "union": "Unite disc and moon: piece made.",
    "difference": "From disc take moon: piece made.",
    "intersection": "Keep what disc and moon have in common: piece made.",
    "exclusion": "Of disc, moon and plate leave out every second overlap: piece made.",
    "divide": "Divide disc, moon and slant: pieces made.",
    "split": "Split disc along slant: pieces made.",
    "group": "Group beam and moon: made.",
    "band": "Band made, 0.8u wide, on elbow, ends round and corners mitred.",
    "taper": "Tapering band made on elbow, from 1.2u to 0.2u wide, ends butt.",
    "offset": "Offset plate by 0.4u, 3 steps, corners round: made.",
    "gap": "Part disc and moon by 0.4u, the first keeping its form: made.",
    "weave": "Weave disc and moon, 0.6u wide, ends butt and corners mitred, with gap 0.2u, turning over nothing: made.",
    "inlay": "Lay a band 0.2u wide along the middles of woven: made.",
    "round": "Round all corners of plate by 0.8u: made.",
    "round-far": "Round all corners of plate by 3u as far as it goes: made.",
    "round-each": "Round the corners of plate one by one by 1u; 0.4u; 0u; 1.6u: made.",
    "round-one": "Round the corner of plate at corner 2 of plate by 1u, there alone: made.",
    "cast": "Cast plate over 3u at -30°, the figure itself left out: made.",
    "bow": "Bow the sides of plate outward by 0.5u, as arcs: made.",
    "draw-to-points": "Draw egg to points at both ends: made.",
    "node-out": "Take node 1 out of plate: made.",
    "node-form": "Make node 1 of plate smooth: made.",
    "true": "Make lines and arcs of egg true, to within 0.05u: made.",
}
"""A sentence for every kind, over the figures of BASE; a test asks for all of them."""


def example(kind: str) -> Result:
    """The example of a kind, evaluated."""
    extra = (
        "Weave disc and moon, 0.6u wide, ends butt and corners mitred, with gap 0.2u, turning over nothing: woven.\n"
    )
    return evaluate(parse_text(BASE + (extra if kind == "inlay" else "") + sentence_of(kind) + "\n"))


def sentence_of(kind: str) -> str:
    """The example's sentence, with a name of the kind that it makes."""
    noun = KINDS[kind].noun
    taken = {word for line in BASE.splitlines() for word in line.split()[1:2]}
    name = f"{noun} 2" if noun in taken or " " in noun else noun
    return re.sub(r"\bmade\b", name_text(name), EXAMPLES[kind])


def picture(kind: str) -> str:
    """What the example of a kind makes, over the figures that it is made from."""
    result = example(kind)
    made = result.plan.steps[-1]
    outcome = result.outcomes[made.id]
    assert outcome.figure is not None, str(outcome.error)
    used = [result.outcomes[identifier].figure for identifier in sorted(made.uses())]
    boxes = [Box(-4, -4, 4, 4), *(figure.box for figure in (*used, outcome.figure) if figure and figure.box)]
    half = min(max(max(abs(side) for side in box) for box in boxes), 6.5) + 0.3
    frame = Frame(SIDE / 2 / half, -half, half, 2)
    rows = [
        f'<path fill="none" stroke="#b6a88c" stroke-width="1" d="{path_data(figure.whole, frame)}"/>'
        for figure in used
        if figure and figure.whole
    ]
    inked = outcome.figure.bounds_area and not made.carries_no_ink
    shades = '#1c1a17" fill-opacity="0.85' if len(outcome.figure.copies) == 1 else '#1c1a17" fill-opacity="0.6'
    tones = tone_colours(result.plan.tones)
    laid = []
    for k, paint in enumerate(outcome.figure.tones):
        if isinstance(paint, Gradient):
            found = paint.in_colours(tones.of)
            rows.append(gradient_element(Shading(found.frame, found.round, found.stops), f"shading-{k}", frame))
        colour = f"url(#shading-{k})" if isinstance(paint, Gradient) else tones.of(paint)
        laid.append(f'{colour}" fill-opacity="1')
    fills = laid or [shades] * max(1, len(outcome.figure.copies))
    for shape, fill in zip(outcome.figure.copies if inked else (outcome.figure.whole,), fills, strict=False):
        data = path_data(shape, frame)
        if data and inked:
            rows.append(f'<path fill="{fill}" stroke="#fcfaf4" stroke-width="1" fill-rule="evenodd" d="{data}"/>')
        elif data:
            rows.append(f'<path fill="none" stroke="#a8321f" stroke-width="1.5" d="{data}"/>')
    for name in ("place",) if made.kind in ("point", "polar-point") else ():
        x, y = frame.place_of(*outcome.figure.anchors[name]).split()
        rows.append(f'<circle cx="{x}" cy="{y}" r="3" fill="#a8321f"/>')
    head = f'<svg xmlns="http://www.w3.org/2000/svg" width="{SIDE}" height="{SIDE}" viewBox="0 0 {SIDE} {SIDE}">'
    return "\n".join([head, f"<title>{made.title}</title>", *rows, "</svg>", ""])


def _fields(kind: type[Step]) -> str:
    words = []
    for name, field_kind in kind.field_kinds().items():
        shown = " / ".join(field_kind.words) or field_kind.label
        words.append(f"`{name}` {shown}")
    return ", ".join(words) or "none"


def page() -> str:
    """docs/plan.md."""
    parts = [HEAD, _values(), "## Steps\n"]
    for chapter in Chapter:
        parts.append(f"### {chapter.value}\n")
        for kind in (entry for entry in in_order_of_work() if entry.chapter is chapter):
            word = kind_of(kind)
            plan = example(word).plan
            sentence = write_sentence(plan.steps[-1], plan.names())
            parts.append(
                f"| ![](plan/{word}.svg) | **{kind.title}** (`{word}`). {kind.__doc__}<br>"
                f"*{sentence}*<br>Fields: {_fields(kind)}. |\n|---|---|\n"
            )
    return "\n".join(parts)


HEAD: Final = """# The plan

Made by `docs/draw_plan.py` from the code; a test says when it is stale. The JSON Schema of plan files is
[plan.schema.json](plan.schema.json).

A plan is a mark's construction: its module (with its real size), measures, and steps in order. It is kept as JSON, or
as a text of sentences; `./kagami draw` and `./kagami check` take both, and each reads back to an equal plan. Every step
is one sentence. It can be typed on the Bench as it stands here; the name may be left out, and “, as a guide” before the
point keeps it from carrying ink. “, muted” passes a step over: what it is made from goes on in its place, and a figure
made from nothing lends its places only. `Part: the beams` on a line of its own is the heading of what follows. A name
that is not one word (and perhaps a number) stands in quotes: “old tide line”.

## Places

    place     = O | NAME of a point | anchor of NAME | anchor of copy N of NAME | crossing N of NAME and NAME
              | touch N of NAME from place | nearest place of NAME to place | half way from place to place
              | VALUE right and VALUE up from place (left and down as well, and one of them alone) | (NUMBER, NUMBER)
              | VALUE from place at VALUE° | VALUE of the way from place to place

Anchors are words that a figure knows: centre, top, corner 2, side 1, tip 3, start, end … Every figure has the nine
places of its box (box top left, box centre …) and its nodes (node 5). Crossings and touches are counted from the top
and, at one height, from the left. So a reference means the same when sizes change; where it means nothing any more, the
step that names it says so.

A node of an outline is told by two lengths from where the outline is drawn from, or by a place that it hangs on; behind
it stand, in brackets, the moves to its handles: 2u, 3u [-1u, 0u | 1u, 0u]; top of lens; right of lens.

## Figures and their copies

    figure    = NAME | copy N of NAME | copies N to N of NAME | every second copy of NAME (third, fourth …)
              | every second copy of NAME from copy N | the copies of NAME one by one
              | the upright line of NAME (level, rising, falling)

Pieces of a divided figure are its copies, and may be called pieces. An operation that wants several figures takes a
single repeat as its copies one by one, and says so.
"""


def _values() -> str:
    functions = ", ".join(FUNCTIONS)
    return textwrap.dedent(
        f"""
        ## Values

            sum      = product ((+ | -) product)*          product = signed ((* | /) signed)*
            signed   = - signed | power power*             side by side multiplies: 3u, 2 gap
            power    = atom (^ signed)?                    atom = number | name | function(…) | (sum) | reading
            reading  = ({" | ".join(OF_ONE)}) of NAME
                     | distance from place to place | gap between NAME and NAME

        Units are u, mm, cm, in, px and pt; angles are degrees. Constants: {", ".join(CONSTANTS)}. Functions:
        {functions}. A measure may be solved instead: `solve width of lens = 2u between 1u and 5u, near 3u`.

        ## Tones

            tone     = colour | NAME | share (lighter | darker) than part | part turned degrees
                     | part with share of part | part multiplied by part
                     | tone N of N (about | up from | down from) part
            part     = colour | NAME | ( tone )            share    = number %
            colour   = #rrggbb | #rgb | rgb(…) | hsl(…) | oklch(…) | cmyk(… four shares) | share

        A share alone is a share of black. Lighter, darker and mixed tones are mixed in OKLab; `tone 2 of 5 about salt`
        is one of a ramp whose steps are equal in lightness to the eye (OKLCH), the first being the lightest. What a
        screen cannot show is brought into its gamut, lightness and hue kept. Tones are listed once and laid by name;
        they follow the tones that they are made from. What a piece carries is its **role**: a colourway may give it
        another tone. Pieces without a tone are *ink*, and they lie on the *ground*.

            Colourway night, chosen: ink is lamp, ground is night, mist is none.
            Note on night: for the pier signs
            In one colour: parted by 0.2u, without mist

        A colourway that is drawn `, in one colour` and the reversed form part pieces of different tones by a gap.
        What is made from toned figures has their tones: cut and parted figures each region its own, others that of the
        first.
        """
    )


if __name__ == "__main__":
    (FOLDER / "plan.md").write_text(page(), encoding="utf-8")
    (FOLDER / "plan.schema.json").write_text(schema_json(), encoding="utf-8")
    PICTURES.mkdir(exist_ok=True)
    for word in EXAMPLES:
        (PICTURES / f"{word}.svg").write_text(picture(word), encoding="utf-8")
