"""What was checked of the finished mark, as rows of readings with their places on the sheet."""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from kagami.exchange.svg import Frame
from kagami.geometry.measure.distance import Approach
from kagami.geometry.measure.joints import Fault
from kagami.geometry.point import Point
from kagami.plan.document import Plan
from kagami.plan.evaluation.checks import Checks
from kagami.plan.messages import number_text

MOST_MARKS: Final = 200
FAULTS: Final = {
    Fault.NEEDLESS: "needless",
    Fault.DOUBLED: "doubled",
    Fault.TOO_NEAR: "too near",
    Fault.STILL: "still",
}


@dataclass(frozen=True)
class Row:
    """A reading; `marks` is the path that shows its places on the sheet, empty where there is nothing to show."""

    name: str
    value: str
    marks: str
    hint: str = ""
    good: bool = False
    mends: tuple[tuple[str, str], ...] = ()
    """Changes that mend it by one click, and their words."""


def check_rows(checks: Checks, plan: Plan, frame: Frame) -> Sequence[Row]:
    """The rows, in the order in which a designer looks: gaps, thickness, joints, nodes."""
    return tuple(_rows(checks, plan, frame))


def _rows(checks: Checks, plan: Plan, frame: Frame) -> Iterable[Row]:
    gaps, equal = checks.gaps, checks.equal_gaps if checks.gaps else 0
    if gaps:
        yield Row(_("Narrowest gap"), *_length(gaps[0].distance, _lines(gaps[:1], frame), plan))
    if len(gaps) > 1:
        shown = gaps if equal == len(gaps) else gaps[equal:]
        text = _("{equal} of {all}").format(equal=equal, all=len(gaps))
        hint = "" if equal == len(gaps) else _("shown: those that are wider")
        yield Row(_("Gaps equal"), text, _lines(shown, frame), hint, equal == len(gaps))
    if checks.touching:
        count = len(checks.touching)
        hint = _("pieces that meet without a gap: unite them, or part them")
        mends = (("unite-meeting", _("unite")), ("part-meeting", _("part")))
        yield Row(_("Pieces touch"), _times(count), _dots(checks.touching, frame), hint, mends=mends)
    if checks.thinnest is not None:
        way = checks.thinnest
        yield Row(_("Thinnest part"), *_length(way.distance, _lines([way], frame), plan))
        kinks = len(checks.kinks)
        hint = _("turns of less than 8°, that are most likely meant to be smooth") if kinks else ""
        smooth = _times(kinks) if kinks else _("none")
        yield Row(_("Kinks"), smooth, _dots(checks.kinks, frame), hint, not kinks)
        kinds = Counter(FAULTS[fault.fault] for fault in checks.nodes)
        words = ", ".join(f"{count} {_(word)}" for word, count in kinds.items())
        places = [fault.place for fault in checks.nodes]
        yield Row(
            _("Nodes to mend"), str(len(places)) if places else _("none"), _dots(places, frame), words, not places
        )


def _times(count: int) -> str:
    return ngettext("{count} place", "{count} places", count).format(count=count)


def _length(value: float, marks: str, plan: Plan) -> tuple[str, str, str]:
    """A length in u, the path that shows it, and the real length."""
    module = plan.module
    return f"{number_text(value)}u", marks, f"{number_text(value * module.size)} {module.unit}"


def _lines(ways: Sequence[Approach], frame: Frame) -> str:
    return "".join(f"M{frame.place(way.first)}L{frame.place(way.second)}" for way in ways[:MOST_MARKS])


def _dots(places: Sequence[Point], frame: Frame) -> str:
    return "".join(f"M{frame.place(place)}h0" for place in places[:MOST_MARKS])
