"""Each figure's own hue: one of eight, in the order of the plan; a repeat has that of what it repeats."""

from typing import Final

from kagami.plan.document import Plan
from kagami.plan.steps import Chapter, Turn

HUES: Final = 8
PIECE: Final = "piece"
GUIDE: Final = "guide"


def hues_of(plan: Plan) -> dict[str, str]:
    """The class that colours each step's name, glyph and lines."""
    found: dict[str, str] = {}
    count = 0
    for step in plan.steps:
        if step.always_guide:
            found[step.id] = GUIDE
        elif step.chapter in (Chapter.CARVE, Chapter.TONE):
            found[step.id] = PIECE
        elif isinstance(step, Turn) and step.figure in found:
            found[step.id] = found[step.figure]
        else:
            found[step.id] = f"hue-{count % HUES + 1}"
            count += 1
    return found
