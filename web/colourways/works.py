"""What the Colourways page shows of a plan: work for evaluators (see `web.evaluation.door`)."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from kagami.exchange.svg import Frame, path_data
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import Piece, ink_box
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.roles import dressed, one_colour_of, roles_of
from kagami.plan.evaluation.standing_out import standing_out
from kagami.plan.language.colourways import colourway_text, given_text, roles_in_words
from kagami.plan.tones.colourways import DROPPED, IN_ONE, Colourway, colours_in
from kagami.plan.tones.listed import GROUND, ToneColours
from kagami.plan.tones.notation import names_in
from kagami.plan.tones.seeing import ENOUGH, EYES, grey_of, seen_with
from web.pictures.paint import paint_of
from web.pictures.picture import picture_frame

WIDE, HIGH = 250.0, 150.0
"""The size of a plate in its own units."""
ROOM: Final = (170.0, 104.0)
"""How much of it a mark may fill."""
CLEAR: Final = 0.75
"""The share of the outline that must stand out."""
GREY: Final = "in grey"


@dataclass(frozen=True)
class Plate:
    """A colourway as it is shown. `group` is the id of its drawing; `contrast` is that of mark and ground, in words."""

    name: str
    group: str
    ground: str
    words: str
    contrast: str
    low: str
    """What is said where the contrast is too low."""
    chosen: bool = False


@dataclass(frozen=True)
class RoleLine:
    """A role of the colourway that is looked at: its tone as typed (empty for its own), and what it comes to."""

    role: str
    given: str
    own: str
    colour: str
    ground: bool
    fault: str


@dataclass(frozen=True)
class Seen:
    """The colourway with other eyes."""

    label: str
    group: str
    ground: str


@dataclass(frozen=True)
class Spread:
    """All that the page needs of a plan."""

    defs: SafeString
    place: str
    """The transform that lays a mark of the square of 100 into a plate."""
    plates: tuple[Plate, ...]
    at: Plate
    beside: Plate | None
    roles: tuple[RoleLine, ...]
    eyes: tuple[Seen, ...]
    tones: tuple[tuple[str, str], ...]
    form: str
    note: str
    sentence: str
    gap: str
    without: tuple[str, ...]
    proposed: bool
    all_roles: tuple[str, ...]
    inked: bool
    earlier: int = 0
    later: int = 0
    """The places, counted from 0, to which it would move."""

    @property
    def pair(self) -> tuple[Plate, ...]:
        """The one that is looked at, and the one beside it."""
        return (self.at, self.beside) if self.beside else (self.at,)


def spread_of(plan: Plan, cache: Cache, at: str, beside: str) -> Spread:
    """The page with the colourway looked at that is named `at`, or the mark's own tones; `beside` is the group of one
    to be seen beside it.
    """
    result = evaluate(plan, cache)
    drawn = _Drawn(result)
    own = Colourway(name=_("as it is built"))
    listed: list[tuple[Colourway, bool]] = [(own, True), *((one, False) for one in plan.colourways)]
    plates = [drawn.plate(one, f"cw-{k}", is_own) for k, (one, is_own) in enumerate(listed)]
    by_name = {"": 0, **{one.name: k for k, one in enumerate(plan.colourways, 1)}}
    now = by_name.get(at, 0)
    colourway, is_own = listed[now]
    form = one_colour_of(result)
    roles = [role.name for role in roles_of(result)]
    return Spread(
        defs=_defs(drawn, None if is_own else colourway),
        place=drawn.place,
        plates=tuple(plates),
        at=plates[now],
        beside=next((plate for k, plate in enumerate(plates) if plate.group == beside and k != now), None),
        roles=tuple(_role_lines(plan, colourway, roles, result)),
        eyes=tuple(_eyes(plan, colourway)),
        tones=tuple(colours_in(plan.tones, None).colours.items()),
        form=colourway.form,
        note=colourway.note,
        sentence="" if now == 0 else colourway_text(colourway),
        gap=form.gap,
        without=form.without,
        proposed=plan.one_colour is None,
        all_roles=tuple(dict.fromkeys([*roles, *(tone.name for tone in plan.tones if _is_laid(tone.name, result))])),
        inked=drawn.frame is not None,
        earlier=max(now - 2, 0),
        later=now,
    )


def _is_laid(name: str, result: Result) -> bool:
    return any(name == tone or name in names_in(tone) for piece in dressed(result, None) for tone in piece.tones)


class _Drawn:
    """Drawings of one mark in several colourways: each shape is written once, and used by all."""

    def __init__(self, result: Result) -> None:
        self.result = result
        self.frame: Frame | None = picture_frame(result)
        self.parts: list[SafeString] = []
        self.known: dict[int, str] = {}
        box = ink_box(dressed(result, None))
        side = max(box.width, box.height) if box else 1.0
        width, height = (100 * box.width / side, 100 * box.height / side) if box else (100.0, 100.0)
        scale = min(ROOM[0] / max(width, 1.0), ROOM[1] / max(height, 1.0))
        self.place = f"translate({WIDE / 2:g} {HIGH / 2:g}) scale({scale:.4f}) translate(-50 -50)"

    def plate(self, colourway: Colourway, group: str, own: bool) -> Plate:
        """A plate; its drawing is added to the parts."""
        colours = colours_in(self.result.plan.tones, None if own else colourway)
        pieces = dressed(self.result, None if own else colourway)
        self.parts.append(self.group(group, pieces))
        ground = colours.known[GROUND]
        text, low = _contrast(pieces, ground)
        words = _("the mark's own tones") if own else _words(colourway)
        return Plate("" if own else colourway.name, group, ground, words, text, low, colourway.chosen)

    def group(self, identifier: str, pieces: Sequence[Piece], of: Callable[[str], str] = str) -> SafeString:
        """A drawing under an id; `of` turns each colour into the one that is seen."""
        if self.frame is None:
            return format_html('<g id="{}"></g>', identifier)
        uses = []
        for piece in pieces:
            seen = replace(
                piece,
                colour=of(piece.colour),
                gradient=piece.gradient and piece.gradient.coloured(of),
            )
            fill, paint = paint_of(seen, self.frame)
            uses.append((paint, self._shape(piece), fill))
        return format_html('<g id="{}">{}</g>', identifier, format_html_join("", '{}<use href="#{}" fill="{}"/>', uses))

    def _shape(self, piece: Piece) -> str:
        assert self.frame is not None
        key = id(piece.shape)
        if key not in self.known:
            self.known[key] = f"shape-{len(self.known)}"
            self.parts.append(
                format_html('<path id="{}" d="{}"/>', self.known[key], path_data(piece.shape, self.frame))
            )
        return self.known[key]


def _words(colourway: Colourway) -> str:
    if colourway.form == IN_ONE:
        return _("in one colour")
    return roles_in_words(colourway)


def _contrast(pieces: Sequence[Piece], ground: str) -> tuple[str, str]:
    """The mark's contrast along its outline in words, and what is said where it is low."""
    found = standing_out(pieces, ground)
    if found is None:
        return "", ""
    low, high = f"{found.least:.1f}", f"{found.greatest:.1f}"
    text = f"{high} : 1" if low == high else f"{low}–{high} : 1"
    if found.greatest < ENOUGH:
        return text, _("too low for a mark; 3 : 1 is the least")
    if found.clear < CLEAR:
        said = _("only {share} % of its outline stands out from this ground")
        return text, said.format(share=round(100 * found.clear))
    return text, ""


def _role_lines(plan: Plan, colourway: Colourway, roles: Sequence[str], result: Result) -> Iterable[RoleLine]:
    colours: ToneColours = colours_in(plan.tones, colourway)
    given = {entry.role: entry.tone for entry in colourway.roles}
    listed = {tone.name: tone.colour for tone in plan.tones}
    for role in dict.fromkeys([*roles, *(role for role in given if role != GROUND), GROUND]):
        tone = given.get(role, "")
        fault = str(colours.errors[role]) if role in colours.errors else ""
        own = given_text(listed[role]) if role in listed else colours_in(plan.tones, None).known.get(role, "")
        colour = "" if tone == DROPPED else colours.of(role)
        yield RoleLine(role, given_text(tone) if tone else "", own, colour, role == GROUND, fault)


def _eyes(plan: Plan, colourway: Colourway) -> Iterable[Seen]:
    ground = colours_in(plan.tones, colourway).known[GROUND]
    for k, (eyes, of) in enumerate(_seeing().items()):
        yield Seen(_(eyes), f"eyes-{k}", of(ground))


def _defs(drawn: _Drawn, colourway: Colourway | None) -> SafeString:
    """All drawings, those for other eyes too."""
    pieces = dressed(drawn.result, colourway)
    groups = [drawn.group(f"eyes-{k}", pieces, of) for k, of in enumerate(_seeing().values())]
    return format_html_join("", "{}", ((part,) for part in (*drawn.parts, *groups)))


def _seeing() -> Mapping[str, Callable[[str], str]]:
    """How each of the other eyes sees a colour."""
    found: dict[str, Callable[[str], str]] = {eyes: lambda colour, e=eyes: seen_with(colour, e) for eyes in EYES}
    return {**found, GREY: grey_of}
