"""What the strip offers for what is chosen: each kind can begin with it, and draws something."""

from __future__ import annotations

from unittest import TestCase

from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text
from kagami.plan.steps import KINDS
from web.bench.beginnings import begun
from web.bench.offered import OFFERED

AREAS = "Box plate, 6u wide and 4u high, its centre on 1u right and 0u up from O, turned by 0°.\n"
DISC = "Circle disc on O with radius 3u.\n"
AXIS = "Line axis through O at 90°.\n"
RUN = "Segment run from 7u left and 0u up from O to 7u right and 1u up from O.\n"
BOW = "Arc bow on 10u right and 0u up from O with radius 10u from 120° to 240°.\n"
WORDS = "Set “Vennik” in Jost, its middle at 3u up from O: name.\n"
BASE = "Segment base from 9u left and 0u up from O to 9u right and 0u up from O.\n"
TONED = f"Tone: sea = #2f7f86\n{AXIS}{AREAS}{DISC}Fill disc with sea: pieces tinted.\n"
CHOSEN = {
    "area": (f"{AXIS}{DISC}{AREAS}", ("plate",)),
    "toned": (TONED, ("tinted",)),
    "areas": (f"{DISC}{AREAS}", ("disc", "plate")),
    "line": (f"{DISC}{RUN}", ("run",)),
    "lines": (f"{AXIS}{RUN}{BOW}", ("axis", "run", "bow")),
    "mixed": (f"{DISC}{BOW}{RUN}", ("disc", "run")),
    "words": (f"{DISC}{BASE}{WORDS}", ("name",)),
    "amid": (f"{WORDS}{BASE}{AREAS}", ("name", "plate")),
}


class Offered(TestCase):
    def test_every_sort_has_an_example(self) -> None:
        self.assertEqual(set(OFFERED), set(CHOSEN))

    def test_what_is_offered_can_begin_with_what_is_chosen(self) -> None:
        for sort, kinds in OFFERED.items():
            text, chosen = CHOSEN[sort]
            plan = parse_text(text)
            result = evaluate(plan)
            for kind in kinds:
                with self.subTest(sort, kind=kind):
                    step = begun(plan, result, KINDS[kind], len(plan.steps), chosen)
                    self.assertTrue(set(chosen) & set(step.figure_ids() + step.beside_ids()), "it is done with them")
                    made = evaluate(plan.model_copy(update={"steps": (*plan.steps, step)})).outcomes[step.id]
                    said = write_sentence(step, plan.names())
                    self.assertIsNone(made.error, f"{said} {made.error}")
