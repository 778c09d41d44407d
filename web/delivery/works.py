"""What Delivery has made of a plan: work for evaluators (see `web.evaluation.door`)."""

from dataclasses import dataclass

from django.utils.translation import gettext as _

from kagami.exchange.finished import artwork
from kagami.exchange.png import write_png
from kagami.exchange.svg import write_svg
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from web.faults import Fault, guarded
from web.pictures.mirror import NO_MIRROR, Mirror, draw_mirror


@dataclass(frozen=True)
class Offered:
    """What can be taken away: the mark's Mirror, its real size in words, and whether the plan is sound."""

    mirror: Mirror
    size: str
    sound: bool


def offered(plan: Plan, cache: Cache) -> Offered:
    """What the page shows."""
    result = evaluate(plan, cache)
    drawn = guarded("the Mirror", lambda: draw_mirror(result))
    mirror = NO_MIRROR if isinstance(drawn, Fault) else drawn
    size = next((reading.value for reading in mirror.readings if reading.name == _("Size")), "")
    return Offered(mirror, size, result.sound)


def svg_file(plan: Plan, cache: Cache) -> bytes:
    """The SVG file.

    Raises:
        NothingToDraw: no piece carries ink.
    """
    return write_svg(artwork(plan, evaluate(plan, cache))).encode()


def png_file(plan: Plan, cache: Cache, size: int) -> bytes:
    """A PNG file, transparent round the ink.

    Raises:
        NothingToDraw: no piece carries ink.
    """
    return write_png(artwork(plan, evaluate(plan, cache)), size)
