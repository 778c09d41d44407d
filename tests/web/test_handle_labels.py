"""Where the values of a step's handles are written on the sheet."""

from __future__ import annotations

import math

from django.test import SimpleTestCase

from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan
from web.bench.handles import Handle, handles_of
from web.bench.sheet import frame_of


def handles(sentence: str) -> dict[str, Handle]:
    """The lengths and angles of the one step of a plan, by field."""
    plan = load_plan(f"Mark: Bell buoy\nModule: 3 mm\n\n{sentence}\n".encode())
    result = evaluate(plan, Cache())
    frame, _window = frame_of(plan, result)
    found = handles_of(plan.steps[0], result, frame)
    return {handle.field: handle for handle in found if handle.form in ("length", "angle")}


def away(handle: Handle, other: Handle) -> float:
    """From where a value is written to another handle, in SVG units."""
    return math.hypot(float(handle.label_x) - float(other.x), float(handle.label_y) - float(other.y))


class Labels(SimpleTestCase):
    def test_a_width_is_not_written_where_the_handle_of_the_turn_lies(self) -> None:
        for sentence, field in (
            ("Oval bell on O, 4u wide and 3u high, turned by 0°.", "width"),
            ("Oval bell on O, 12u wide and 6u high, turned by 30°.", "width"),
            ("Box bell, 4u wide and 3u high, its centre on O, turned by 0°.", "width"),
            ("Square bell of side 4u, its centre on O, turned by 200°.", "side"),
        ):
            found = handles(sentence)
            width, angle = found[field], found["angle"]
            gap = math.hypot(float(width.x) - float(angle.x), float(width.y) - float(angle.y))
            self.assertGreater(away(width, angle), gap + 1, sentence)  # on this side of the width's own handle
            self.assertEqual((width.label_dy, width.anchor), ("0.95em", "middle"), sentence)

    def test_what_has_room_beyond_its_tip_is_written_there(self) -> None:
        found = handles("Oval bell on O, 4u wide and 3u high, turned by 0°.")
        height = found["height"]
        self.assertEqual((height.label_x, height.label_y), (height.x, height.y))
        lying = handles("Oval bell on O, 3u wide and 9u high, turned by 0°.")
        width = lying["width"]
        self.assertEqual((width.label_x, width.label_y), (width.x, width.y))
