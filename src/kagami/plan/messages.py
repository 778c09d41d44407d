"""Errors in words: what is wrong, where, and a way to mend it. The one place where texts of errors stand."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from kagami.plan import limits
from kagami.plan.translation import tr

TEXTS: Final[dict[str, str]] = {
    # values
    "no-place-here": "A place is missing here, such as O, top of lens or crossing 1 of lens and rim.",
    "no-name-here": "The name of a figure is missing here.",
    "word-missing": "Here “{word}” is missing.",
    "no-reading": "{name} has no {what} that could be measured.",
    "no-reading-here": "The {what} of a figure cannot be read here.",
    "empty-value": "There is no value here. Type a number, such as 3u, or a measure.",
    "value-too-long": "This value is {length} characters long; " + str(limits.EXPRESSION_LENGTH) + " is the most. "
    "Make a measure of a part of it.",
    "value-too-deep": "This value nests brackets or powers more than " + str(limits.EXPRESSION_DEPTH) + " deep. "
    "Make a measure of a part of it.",
    "decimal-comma": "Decimals stand behind a point: 1.5u.",
    "numbers-side-by-side": "Two numbers stand side by side. One and a half is 1.5; a product is 2 * 3.",
    "unexpected-sign": "“{found}” cannot stand here. Values are written like 3u, gap*2 or (lens + gap)/2.",
    "unfinished-value": "The value stops too soon: {wanted} is missing at the end.",
    "unknown-name": "There is no measure “{name}”. {known}",
    "wrong-arguments": "{name} takes {wanted}, not {given}.",
    "division-by-zero": "“{part}” comes to 0, and nothing can be divided by 0. Divide by something else.",
    "not-a-number": "“{part}” has no real value here. {mend}",
    "value-too-large": "“{part}” comes to more than a thousand million. Use smaller numbers or powers.",
    "measure-cycle": "These measures wait for each other: {cycle}. Give one of them a value of its own.",
    "measure-waits": "The measure “{name}” reads {figure}, which is drawn only later. Move this step behind it.",
    "measure-failed": "The measure “{name}” has no value itself: {reason}",
    # text
    "bad-line": "Line {line}: {reason}",
    "heading-unread": "“{value}” cannot stand here; {wanted} does.",
    # sentences
    "empty-sentence": "There is nothing typed yet. A sentence is typed like: Circle lens on O with radius 3u.",
    "sentence-too-long": "This sentence is {length} characters long; that is too much for one step.",
    "sentence-stops-at": "{reason}",
    "did-you-mean": "Did you mean “{mended}”? Enter takes it.",
    "sentence-unread": "“{found}” does not fit here. What can stand here is {wanted}.",
    "sentence-breaks-off": "The sentence is not at its end yet. What can stand next is {wanted}.",
    "no-node-behind": "This node is the last one: there is nothing behind it on which another could lie.",
    "too-few-nodes": "An outline of this form needs {least} nodes. Remove the outline itself instead.",
    "nodes-together": "This node and both beside it lie at one place, with no direction. Draw one of them away.",
    "order-to-step": "{name} stands already: choose its step, and take “{words}” below it.",
    "unknown-figure": "There is no figure “{name}” before this step.",
    "small-origin": "There is no figure “{name}” before this step. The middle of the sheet is “O”, a capital letter.",
    "choice-missing": "Here stands one of: {known}.",
    "number-missing": "Whole numbers stand here, such as 2, 5, or “nothing”.",
    "sign-missing": "Here “{sign}” is missing.",
    "pick-missing": "A choice of regions is written like: in lens + beams/1, 1 of 1, all round.",
    # solving
    "range-reversed": "“{name}” is sought from {low}u to {high}u; the first must be less than the second.",
    "solve-fails": "“{name}” cannot be solved: nowhere in its range can both sides be read. {reason}",
    "no-solution": "No value of “{name}” in its range makes both sides equal; nearest is {value}u, where they differ "
    "by {off}u. Widen the range, or begin elsewhere.",
    # fields
    "length-not-positive": "The {what} {expression} comes to {value}u; it must be more than 0. Type a larger value.",
    "not-a-count": "The number of {what} {expression} comes to {value}; "
    "it must be a whole number from {least} to {most}.",
    "out-of-reach": "The {what} {expression} comes to {value}u; nothing lies further out than "
    + f"{limits.SHEET_REACH:,.0f}u. Type a smaller value.",
    "no-figure": "There is no figure “{name}” before this step. Choose another one, or move this step further down.",
    "no-anchor": "{figure} has no anchor “{anchor}”. It has: {known}.",
    "no-point": "{figure} is no point, so its name alone is no place. Say which place of it is meant: {known}.",
    "no-such-place": "There are {count} places to count here, so there is no {what} number {number}. "
    "Choose a lower number, or let the figures meet.",
    "bad-reference": "“{text}” is no reference to a place.",
    "no-such-line": "{figure} has no {way} line. Name one of its lines that there is.",
    "no-copy": "{figure} has {count} copies, so there is no copy {copy}. Choose one from 1 to {count}.",
    "figure-waits": "This step waits for {name}, which cannot be drawn yet. Mend that step first.",
    "no-inside": "{name} is a line and has no inside. Let the band lie on it, or left or right of it.",
    "no-lines": "{name} is a place and has no lines. Choose a figure here.",
    "no-area": "{name} is a line and bounds no area. Choose closed figures here.",
    "too-few-figures": "Too few figures: {given} of at least {least}. Choose more of them.",
    "figure-twice": "{name} is named twice here. Take one of them out.",
    "nothing-left": "Nothing is left of {name}: the others cover it whole. Move or shrink one of them.",
    "radius-too-large": "Arcs of radius {radius}u do not fit into these corners; {largest}u is the largest that does. "
    "Type a smaller radius, or round fewer corners.",
    "geometry-refuses": "This cannot be drawn: {reason}. Change a value or a figure of this step.",
    "not-a-line": "{name} has no straight line to go by. Choose a line, a segment or a polygon.",
    "not-an-oval": "{name} is no whole circle or oval. Choose one.",
    "one-outline": "{name} has {count} outlines; this works on one. Choose a piece of it first.",
    "no-inner-node": "Node {number} of {name} is an end of it. Choose from {least} to {most}.",
    "no-node-to-spare": "{name} has too few nodes for this. Choose a figure with corners or more curves.",
    "nothing-there": "There is no {what} of {name} at that place. Choose a place on it.",
    "same-place": "{what} are one place; they must lie apart.",
    "same-angle": "Start and end are both at {angle}°. Let them differ, or draw a circle or a ring.",
    "ring-reversed": "The outer radius {outer}u must be more than the inner one, {inner}u.",
    "too-few-places": "This needs at least {least} places; there are {given}. Add some.",
    "tip-inside": "The tip is {distance}u from the centre, within the radius {radius}u. Move it further out.",
    "shield-too-small": "The shield is too small for its cut shoulders and straight sides. Make these shorter.",
    "bow-too-large": "A side cannot be bowed by {bow}u: an arc goes up to half the side's length. Type less.",
    "factor-not-positive": "The factor comes to {value}; it must be more than 0.",
    "radii-missing": "Name a radius for each corner, such as 1u; 0.5u; 0. None may be less than 0.",
    "sizes-missing": "A size is missing for each copy. Type them one after the other, such as 1; 0.8; 0.6.",
    "tones-missing": "Name at least one tone here, such as “dark”. Tones are listed above the steps.",
    "no-tone": "There is no tone “{name}”. There are: {known}.",
    "no-tone-here": "A tone is missing here: the name of a listed one, a colour such as #1c6b57, 60% for a share of "
    "black, or 20% lighter than a tone.",
    "ramp-no-room": "“{name}” is so {way} that further tones could not be told apart from it. Take fewer tones, or "
    "another base, such as 50%.",
    "not-a-share": "{expression} comes to {value}; a share is a number from 0 to 100.",
    "no-space-between": "There is no space between {first} and {second} there. Choose two figures that lie apart, or "
    "another place.",
    "length-negative": "The {what} {expression} comes to {value}u; it must be 0 or more.",
    "stops-too-few": "A gradient needs two tones or more, such as: dark and light.",
    "stops-not-rising": "The places of a gradient's tones must rise, from 0% to 100%.",
    "no-colourway": "There is no colourway “{name}”. There are: {known}.",
    "no-role": "No piece of this mark has the role “{name}”. Its roles are: {known}.",
    "colourway-unread": "“{text}” is no colourway. It is written like: Colourway night: ink is lamp, ground is night.",
    "no-tone-before": "There is no tone “{name}” before this one, and it is no colour such as #1c6b57 or 60%. Name a "
    "tone that stands before it, or type a colour.",
    "bad-tone": "“{text}” is no tone. A tone is a colour such as #1c6b57, rgb(28 107 87), hsl(165 59% 26%), "
    "oklch(47% 0.09 168) or cmyk(74% 0% 19% 58%), a share of black such as 60%, or made from another: 20% lighter than "
    "dark, dark turned 30°, dark with 40% of light, tone 2 of 5 about dark.",
    "name-with-a-meaning": "“{name}” means something else where tones are named. Choose another name.",
    "no-palette": "There is no tone to take. List one, or add one to the brand's palette.",
    "no-ink-yet": "The mark has no ink yet. Draw a figure that bounds an area first.",
    "variant-unread": "This is no variant. It is written like: Variant small, in night, below 24 px: gap is 0.4u; "
    "as svg.",
    "package-unread": "This tells no package. It is written like: {{brand}}-{{mark}}-{{variant}}-{{size}}, 16 and "
    "32 px.",
    "no-step-named": "There is no step “{name}” in this plan.",
    "instead-of-nothing": "“{name}” is no step of this kind, so that nothing can stand in its place. "
    "End the sentence with the name of the step, such as “: lens”.",
    "no-variant": "There is no variant “{name}”. There are: {known}.",
    "variant-alters-more": "A variant has the steps and tones of the mark, with other values. "
    "To add, move or remove steps, leave the variant “{name}” first.",
    "pattern-word": "There is no “{word}” to name files by. There are: {known}.",
    "pattern-signs": "File names cannot hold “{sign}”.",
    "no-colourway-made": "These tones give no colourway that is not there already and stands out from its ground.",
    "dropped-role": "“{name}” is left out here, so it has no tone to give. Give it one first.",
    "no-piece-here": "No piece lies there. Click a piece that carries ink, or draw a line across some.",
    "ramp-there": "The ramp of “{name}” is listed already.",
    "doubled-tone": "The tone “{name}” is {colour} already. Use that one.",
    "words-missing": "Here words stand in quotes, such as “Vennik Harbour”.",
    "words-too-long": "These words are {length} characters long; {most} is the most. Set them in several steps.",
    "face-missing": "Here stands the name of a face. At hand are: {known}.",
    "no-face": "There is no face “{name}” at hand. There are: {known}. Choose one, or bring it on the page Faces.",
    "face-lacks": "{face} has no letter for {letters}. These faces have: {others}.",
    "faces-lack": "Neither {face} nor any other face at hand has a letter for {letters}. Bring one on the page Faces, "
    "or leave that out.",
    "no-words": "There are no words to set. Type some between the quotes.",
    "font-too-large": "This file is {size} bytes long; {most} is the most. Bring a font with fewer letters.",
    "font-collection": "This file holds several fonts. Bring one of them as a file of its own.",
    "no-font": "This is no font: a TrueType, OpenType, WOFF or WOFF2 file is.",
    "font-too-many": "This font has {count} glyphs; {most} is the most. Bring one with fewer scripts.",
    "font-lacks": "This font lacks what setting it needs: {tables}. Export it anew.",
    "font-no-outlines": "This font holds pictures of letters, and no outlines. Bring one with outlines.",
    "font-too-slow": "This font takes more time or memory than any should, and was not taken.",
    "font-broken": "This font is broken: {reason}. Export it anew, or ask whom it is from.",
    "font-nameless": "This font has no name. Give it one and export it anew.",
    "font-name-taken": "There is a face called {name} already. Take that away first, or rename this one.",
    "too-many-faces": "A studio keeps at most {most} faces. Take one away first.",
    "face-in-use": "{name} is used by {users}. Choose another face there first.",
    "sketch-unread": "This is no picture that can be read. Bring a scan or a photograph as one of: {formats}.",
    "sketch-too-heavy": "This file is larger than {most} MB. Save the picture smaller, or as a JPEG.",
    "sketch-too-large": "This picture has more than {most} million pixels. Scan it at fewer dots an inch.",
    "sketch-too-small": "This picture has only {width} × {height} pixels; {least} are the least either way.",
    "sketch-none": "Choose a picture first: a scan or a photograph of the sketch.",
    "sketch-no-place": "There is no such place on the sheet. Press on it again.",
    "sketch-nothing-here": "Nothing is drawn on the sketch near here. Press closer to a stroke, or bring a darker "
    "picture.",
    "sketch-not-round": "What is drawn here is neither round nor straight for long enough. Draw along it instead.",
    "sketch-way-short": "Draw along a stroke for longer, or press on it.",
    "sketch-way-tangled": "This is too much to be one line. Draw along it in parts.",
    "sketch-nothing-along": "Nothing is drawn on the sketch for long enough along this way. Keep closer to a stroke.",
    "sketch-line-short": "A line that tells how long something is must have a length. Draw it from end to end.",
    "sketch-no-rectangle": "These are not the four corners of a rectangle. Press on each corner once, on the picture, "
    "well apart.",
    "sketch-too-long": "A rectangle here is at most {most} times as long as wide. Type its true width and height.",
    "sketch-too-askew": "This was taken from too far aside to be squared up. Bring one that was taken from above.",
    "sketch-out-of-bounds": "There a sketch could not be seen any more: its width is from {least}u to {most}u, and its "
    "middle at most {most}u from O.",
    "sketch-number": "A number stands here, such as {example}.",
    "sketch-darkness": "How dark a sketch is, is from {least}% to {most}%.",
    "svg-none": "This is no SVG. Bring a drawing that was saved as SVG; of another kind, save it as SVG first.",
    "svg-unread": "This SVG cannot be read: line {line}, {reason}. Save it anew from where it was drawn.",
    "svg-too-heavy": "This drawing has more than {most} MB. Take pictures out of it, and save it anew.",
    "svg-too-many": "This drawing has more than {most} elements. Bring it in parts.",
    "svg-too-many-figures": "This drawing has more than {most} figures. Bring it in parts.",
    "svg-too-many-steps": "These would be {count} steps more, and a mark has {most} at most. Bring it in parts.",
    "svg-too-deep": "In line {line} this drawing is nested more than {most} deep. Take groups out of it.",
    "svg-in-circles": "In line {line} of this drawing something is used within itself. Take that out.",
    "svg-nothing": "Nothing is drawn in this SVG that a figure could be made of. Words are turned to outlines before.",
    "svg-missing": "Choose a drawing first: a file that was saved as SVG.",
    "svg-width": "A drawing comes to be up to {most}u wide. Type a width such as 20u.",
    "svg-words": "Line {line}: words ({count}). Turn them to outlines, or set them here.",
    "svg-picture": "Line {line}: pictures of pixels ({count}).",
    "svg-foreign": "Line {line}: what is not of SVG ({count}).",
    "svg-moving": "Line {line}: movement ({count}).",
    "svg-clipped": "Line {line}: cut-outs by a clip or mask ({count}). What they cut is drawn whole.",
    "svg-filtered": "Line {line}: effects ({count}). What they lie on is drawn without.",
    "svg-gradient": "Line {line}: gradients and patterns ({count}). A gradient has its first tone.",
    "svg-marked": "Line {line}: marks along lines ({count}). The lines are there.",
    "svg-dashed": "Line {line}: dashes ({count}). The lines run through.",
    "svg-stretched": "Line {line}: lines stretched unevenly ({count}). They are equally wide all along.",
    "svg-see-through": "Line {line}: tones that are seen through ({count}). They are full.",
    "svg-colour": "Line {line}: colours that cannot be read ({count}). They are black, or none for lines.",
    "svg-value": "Line {line}: values that cannot be read ({count}). What stands before them is there.",
    "svg-lost": "Line {line}: what is used and not there ({count}).",
    "svg-crumb": "Line {line}: crumbs that would be smaller than 0.01u ({count}).",
    "svg-tangled": "Line {line}: outlines that cross too closely ({count}). Draw them with fewer crossings.",
    "svg-too-many-nodes": "Line {line}: outlines of too many nodes ({count}). Bring them in parts.",
    "too-many-sketches": "A mark keeps at most {most} sketches. Take one away first.",
    "no-sketch": "This sketch is not there any more. Reload the page.",
    "no-stem": "{face} has no upright stem to measure: none of the letters I, l, H, h and n. Choose another face.",
    "weight-out-of-range": "A weight is a number from 1 to 1000, not {weight}; 400 is regular and 700 bold.",
    "not-words": "{name} is no words, or its letters are outlines by now. Choose words that were set.",
    "no-course": "{name} has no line for words to run along. Choose a circle, a line or an outline.",
    "one-line-along": "Words along a figure are one line. Set the others in a step of their own.",
    "too-long-for-course": "The words are {width}u long, and the line comes round after {length}u. Set them smaller, "
    "or track them less.",
    "runs-off": "The words are {width}u long and run {by}u beyond the end of the line. Set them smaller, hold them "
    "elsewhere, or lengthen the line.",
    "no-room-within": "Letters {size}u high find no room on this side: the line bends more closely than that. Set them "
    "smaller, or on the other side.",
    "nothing-follows": "There are {count} letters, and none follows letter {letter} in its line. Choose another one.",
    "not-on-a-circle": "Only words along a circle or an arc of one span an angle. Fit these to a width.",
    "no-size-fits": "No size does this. Ask for more room, or track the words less.",
    "one-letter": "A single letter is not tracked. Fit it by its size.",
    "words-meet": "The words overlap the figure. Move them clear of it first.",
    "not-held": "These words cannot be held at {clear}u: they came as near as {gap}u. Choose another distance.",
    "offset-too-far": "Step {step} of the offset, at {distance}u, leaves nothing. Take fewer or smaller steps.",
    "strands-meet": "More than two strands pass through one place, {x}u right and {y}u up from O. Move one of them.",
    "no-such-crossing": "There are {count} crossings, so there is none with the number {number} to turn over.",
    "line-misses": "{line} does not cut {name} in two. Let it cross the whole figure.",
    "not-a-weave": "{name} is no weave, so it has no strands to lay anything along. Choose a weave.",
    "three-figures": "Three lines or circles settle this circle; there are {given}. Choose three.",
    "no-line-or-circle": "{name} has neither a straight line nor a circle that another circle could touch.",
    "plan-too-heavy": "The steps before this one hold {curves} lines and arcs together; {most} is the most that "
    "is drawn. Take fewer copies somewhere.",
    "plan-too-slow": "The steps before this one took more than {most} seconds to draw; “{name}” alone took {seconds}. "
    "Take fewer copies or figures there.",
    "too-much": "This step would hold {count} {what} at once; {most} is the most. Use fewer copies or figures.",
    "too-many-copies": "This step would make {count} copies; {most} is the most. Use fewer.",
    "out-of-memory": "There was too little memory for this step. Use fewer copies or figures.",
    "step-broke": "This step could not be drawn; that is a fault of Kagami, noted under the number {number}. All else "
    "is drawn. Change a value of the step, undo, or tell us the number.",
    "too-large": "This step would make {curves} lines and arcs; {most} is the most. Use fewer copies or figures.",
    # documents
    "not-json": "This is not a plan: it is not readable as JSON ({reason} at line {line}, column {column}).",
    "not-storable": "This plan holds signs that cannot be kept, such as a null sign or half of a pair. Take them out.",
    "too-large-document": "This plan is {size} bytes long; " + f"{limits.DOCUMENT_BYTES:,} is the most.",
    "not-text": "This is not a plan: it is neither JSON nor readable text (at byte {position}). Save it as UTF-8.",
    "newer-schema": "This plan was written by a newer Kagami (schema {schema}; this one reads up to {known}).",
    "unknown-field": "The plan has a field that is not known: {path}. Take it out, or correct its name.",
    "missing-field": "The plan lacks a field: {path}.",
    "bad-field": "The plan's field {path} is not right: {reason}.",
    "unknown-kind": "The plan's step {path} has the kind “{kind}”, which is not known. Known are: {known}.",
    "doubled-id": "Two steps have the id “{id}” ({path}). Give one of them another id.",
    "doubled-name": "The name “{name}” is taken already. Choose another one.",
    "bad-name": "“{name}” cannot be the name of a measure. A name is a letter followed by letters, digits or _, "
    "and is not u, a unit or a function.",
    "sentence-word": "A measure cannot be called “{name}”: that word follows values in sentences. Choose another name.",
    # changes
    "nothing-drawn": "Nothing is drawn for it yet. Press on the sheet, and draw.",
    "no-step": "There is no such step any more.",
    "no-measure": "There is no measure “{name}”.",
    "not-movable": "Nothing in {value} can be dragged: it is read from figures, or solved. Type a number instead.",
    "not-begun-by-hand": "A step of kind {kind} is not begun on the sheet. Fill in its sentence.",
    "moved-too-early": "{name} stands on {other}, so it must come after that. Change what it stands on first.",
    "moved-too-late": "{other} stands on {name}, so that must come before it. Change what {other} stands on first.",
    "nothing-to-unite": "Fewer than two of what was crossed bound an area. Begin on one piece and draw on to the next.",
    "nothing-meets": "No two pieces meet without a gap any more.",
    "nothing-here": "No area lies there. Click inside a piece, near the line along which it is to be split.",
    "nothing-crosses": "Nothing cuts {name} in two. Draw a line across the whole of it first.",
    "draw-on": "Draw on: {field} is where the hand lets go.",
    "draw-over": "Draw over the sheet as far as it is to go.",
    "pasted-line": "Line {line} of what was pasted: {reason} Nothing was added.",
    "no-dimension": "{field} has no place on the sheet that could be dragged just now. Type its value.",
    "no-field": "This step has no field “{name}”.",
    "text-not-plain": "This {what} holds signs that cannot be shown, such as a line break. Leave them out.",
    "needed-by": "{name} is used by {users}. Change or remove that first.",
    "needed-by-values": "{name} is used by {users}. Change those first, or freeze what they take from it as it stands.",
    "made-from": "{users} are made from {name} itself, which cannot be frozen. Remove those first, or type them anew "
    "from another figure.",
    "nothing-to-freeze": "What {name} gives to others cannot be computed now, so it cannot be frozen. Mend it first.",
    "range-count": "A range shows from 2 to {most} marks, not {given}.",
    "grid-count": "A grid shows at most {most} marks, not {given}. Take fewer values one way.",
    "range-too-slow": "{done} of {count} marks were drawn in {seconds} seconds; that is as long as one sheet may take. "
    "Show again to go on, or take fewer values.",
    "range-twice": "{name} cannot vary both ways. Choose another value for one of them.",
    "no-crumbs": "No region of {name} is too small to be meant.",
    "no-region": "That region is not there any more. The sheet was drawn anew: choose again.",
    "too-many": "A plan has at most {most} {what}.",
    "not-a-choice": "“{value}” is not one of {known}.",
    "text-too-long": "A {what} has at most {most} characters; this one has {length}.",
    "name-with-quotes": "A name cannot hold quotes. Leave them out.",
    "solve-unread": "A measure is solved by: solve A = B between C and D, near E, with values for all of these.",
    "empty-name": "A name cannot be empty.",
    "no-such-change": "This change is not known: {kind}.",
    "bad-change": "This change is not complete: {path} {reason}.",
}


def explain(code: str, values: Mapping[str, object]) -> str:
    """An error in words, by its code and the values that the message needs."""
    texts = {key: tr(_text(value)) if key == "what" else _text(value) for key, value in values.items()}
    return tr(TEXTS[code]).format(**texts)


def number_text(value: float) -> str:
    """A number with at most four decimals, a true minus sign, and no zeros at its end."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text in ("", "-0") else text.replace("-", "−")


def listing(words: list[str], joiner: str = "and") -> str:
    """Words as a list in a sentence: “a, b and c”."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} {tr(joiner)} {words[-1]}"


def _text(value: object) -> str:
    if isinstance(value, int) and not isinstance(value, bool) and value >= 10_000:
        return f"{value:,}"
    return number_text(value) if isinstance(value, float) else str(value)
