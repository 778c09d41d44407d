"""What the page Faces shows of a plan: work for evaluators (see `web.evaluation.door`)."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Final

from kagami.lettering.errors import LetteringError
from kagami.lettering.metrics import cap_height
from kagami.lettering.preview import EM, Preview, preview
from kagami.lettering.shaping import missing_from
from kagami.lettering.shelf import face_named, face_names
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from kagami.plan.lettering.laying import Lettering
from kagami.plan.lettering.setting import LINE_BREAK, Setting
from kagami.plan.messages import number_text
from kagami.plan.steps import Step
from kagami.plan.translation import tr
from web.evaluation.lent import BROUGHT

WIDE, HIGH = 300.0, 110.0
"""The size of a card's picture in its own units."""
ROOM: Final = (264.0, 74.0)
"""How much of it words may fill."""
CAPS: Final = 46.0
"""How high capitals are at the most."""


@dataclass(frozen=True)
class Card:
    """A face with a mark's words: their glyphs, what the face is like, and what it lacks for them."""

    name: str
    sort: str
    by: str
    """The map from glyphs to the card."""
    glyphs: tuple[tuple[str, str], ...]
    """Path data, each with its own map."""
    weight: str
    stem: str
    """Of the words at the size at which the mark has them; empty where the face has none."""
    lacks: str
    now: bool


@dataclass(frozen=True)
class Said:
    """Words of the mark whose face can be chosen."""

    step: str
    name: str
    text: str
    now: bool


@dataclass(frozen=True)
class Spread:
    """All that the page shows of a plan. `step` is the one whose face is chosen, empty where the mark has no words."""

    step: str
    text: str
    face: str
    weight: str
    size: str
    said: tuple[Said, ...]
    cards: tuple[Card, ...]


def spread_of(plan: Plan, cache: Cache, at: str) -> Spread:
    """The mark's words, or its name where it has none, in every face at hand."""
    result = evaluate(plan, cache)
    steps = [step for step in plan.steps if "face" in type(step).model_fields]
    step = next((one for one in steps if one.id == at), steps[0] if steps else None)
    setting, text = _words(step, result, plan)
    said = tuple(Said(one.id, one.name, str(one["text"]), one is step) for one in steps)
    return Spread(
        step="" if step is None else step.id,
        text=text,
        face="" if step is None else str(step["face"]),
        weight=number_text(setting.weight),
        size=number_text(setting.caps),
        said=said,
        cards=tuple(_cards(text, setting, "" if step is None else str(step["face"]))),
    )


def _words(step: Step | None, result: Result, plan: Plan) -> tuple[Setting, str]:
    """How words are set now, and what they say."""
    usual = Setting(face_named(face_names()[-1]))
    if step is None:
        return usual, plan.title
    outcome = result.outcomes[step.id]
    detail = outcome.drawing.detail if outcome.drawing else None
    text = str(step["text"]).strip() or plan.title
    return (detail.setting if isinstance(detail, Lettering) else usual), text


def _cards(text: str, setting: Setting, now: str) -> Iterable[Card]:
    """A card a face: the capitals are as high in all of them, so that they can be compared."""
    line = " ".join(text.replace(LINE_BREAK, " ").split())
    seen = [_seen(line, replace(setting, face=face_named(name), by="caps", tracking=0.0)) for name in face_names()]
    # Thousandths of the em to units of a card, for capitals of one height.
    most = min(
        (
            min(ROOM[0] / one.box.width, ROOM[1] / one.box.height) * cap_height(dressed.cut)
            for dressed, one in seen
            if one is not None
        ),
        default=0.0,
    )
    high = min(most, CAPS / EM)
    for dressed, one in seen:
        scale = high / cap_height(dressed.cut)
        sized = replace(dressed, size=setting.caps)
        missing = " ".join(missing_from(line, dressed.cut))
        sort = "" if dressed.face.sort == BROUGHT else tr(dressed.face.sort)
        weight = number_text(dressed.cut.weight)
        name = dressed.face.name
        yield Card(name, sort, *_placed(one, scale), weight, _stem(sized), missing, name == now)


def _seen(line: str, setting: Setting) -> tuple[Setting, Preview | None]:
    """Words in a face; nothing where it cannot set them, which the card says."""
    try:
        return setting, preview(line, setting.cut, setting.dress)
    except LetteringError:
        return setting, None


def _placed(seen: Preview | None, scale: float) -> tuple[str, tuple[tuple[str, str], ...]]:
    """The map that puts words in the middle of a card, and their glyphs, each with its own."""
    if seen is None:
        return "", ()
    x = WIDE / 2 - scale * (seen.box.left + seen.box.right) / 2
    y = HIGH / 2 + scale * (seen.box.bottom + seen.box.top) / 2
    glyphs = tuple((path, f"translate({right:.1f} {up:.1f})") for path, right, up in seen.glyphs)
    return f"translate({x:.2f} {y:.2f}) scale({scale:.5f} {-scale:.5f})", glyphs


def _stem(setting: Setting) -> str:
    try:
        return number_text(round(setting.stem, 3))
    except LetteringError:
        return ""
