"""Reports and verdicts in words."""

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _

from kagami.exchange.delivery.report import Report
from kagami.plan.messages import number_text

_UNIT: Final = re.compile(r"(?<=\d) (%|mm|cm²|m|s|px|kB|MB)(?!\w)")


@dataclass(frozen=True)
class Row:
    """A line of a report: what, what was found, and whether that is as it should be (None where it is just told)."""

    label: str
    value: str
    good: bool | None = None


def told(report: Report) -> str:
    """A report on one line, for pages of contents."""
    if not report.sound:
        return "; ".join(report.faults)
    parts = []
    if report.counts is not None:
        arcs, lines, cubics = report.counts
        parts.append(_("{arcs} arcs, {lines} lines, {cubics} cubics").format(arcs=arcs, lines=lines, cubics=cubics))
    if report.farthest is not None:
        parts.append(_("places within {length} mm").format(length=length_text(report.farthest)))
    if report.area_error is not None:
        parts.append(_("area within {share}").format(share=share_text(report.area_error)))
    if report.pixel_error is not None:
        parts.append(_("{share} of the pixels differ").format(share=share_text(report.pixel_error)))
    return ", ".join(parts) or _("reads well")


def rows_of(report: Report, where: str) -> Sequence[Row]:
    """A report as lines; `where` tells the size at which lengths are: “at 60 mm”."""
    rows = [Row(_("Handed out"), _("yes") if report.sound else _("no"), report.sound)]
    rows += [Row(_("Fault"), fault, False) for fault in report.faults]
    if report.counts is not None:
        arcs, lines, cubics = report.counts
        rows.append(Row(_("Filled outlines only"), _("no") if report.foreign else _("yes"), not report.foreign))
        foreign = ", ".join(report.foreign) or _("none")
        rows.append(Row(_("Strokes, masks, clips, pixels"), foreign, not report.foreign))
        rows.append(Row(_("Arcs / lines / cubics"), f"{arcs} / {lines} / {cubics}"))
        needless = _("none") if report.needless == 0 else str(report.needless)
        rows.append(Row(_("Nodes, needless ones"), f"{report.nodes}, {needless}", report.needless == 0))
    if report.area_error is not None or report.pixel_error is not None:
        # What is wrong stands above as a fault: it may be something else than what is compared here.
        rows.append(Row(_("Read back against the plan"), held_together(_against(report)), report.sound or None))
    unit = "px" if report.pixels else "mm"
    for label, value in ((_("Narrowest gap {where}"), report.gap), (_("Thinnest part {where}"), report.part)):
        if value is not None:
            text = f"{number_text(float(f'{value:.3g}'))} {unit}"
            rows.append(Row(label.format(where=where), text, value >= report.limit - 1e-9))
    if report.hidden:
        rows.append(Row(_("Under others, left out"), ", ".join(report.hidden[:8])))
    if report.contents:
        rows.append(Row(_("Colours, inks, layers") if report.counts else _("Holds"), ", ".join(report.contents[:8])))
    rows.append(Row(_("File"), bytes_text(report.bytes)))
    return rows


def _against(report: Report) -> str:
    parts = []
    if report.farthest is not None:
        parts.append(_("places ± {length} mm").format(length=length_text(report.farthest)))
    if report.area_error is not None:
        parts.append(_("area ± {share}").format(share=share_text(report.area_error)))
    if report.pixel_error is not None:
        parts.append(_("{share} of the pixels differ").format(share=share_text(report.pixel_error)))
    return ", ".join(parts)


def share_text(share: float) -> str:
    """A share in words: percent, to two figures."""
    if share < 5e-10:
        return "0"
    percent = float(f"{share * 100:.2g}")
    return f"{percent:.{max(0, 1 - math.floor(math.log10(percent)))}f} %" if percent < 1 else f"{percent:g} %"


def length_text(length: float) -> str:
    """A length in words, to two figures."""
    if length < 5e-10:
        return "0"
    return f"{length:.{max(0, 1 - math.floor(math.log10(length)))}f}"


def held_together(text: str) -> str:
    """Words in which no line is broken between a number and its unit, nor behind ±."""
    return _UNIT.sub("\u00a0\\1", text).replace("± ", "±\u00a0")


def bytes_text(count: int) -> str:
    """So many bytes: “1.6 kB”."""
    if count < 1000:
        return f"{count} B"
    return f"{count / 1000:.1f} kB" if count < 1_000_000 else f"{count / 1_000_000:.1f} MB"
