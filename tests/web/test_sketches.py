"""Sketches: brought, laid, shown to their studio alone; and nothing of them in the plan or in what leaves."""

from __future__ import annotations

import math
import uuid
from typing import Any

from django.contrib.auth import get_user_model
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse

from kagami.exchange.sketches.lying import Lying
from kagami.geometry.point import Point
from kagami.plan.language.text import parse_text
from tests.exchange.sketches.scans import ring, scan, stroke
from tests.exchange.sketches.test_checking import picture
from tests.web.studio import StudioCase
from web.accounts.models import Membership, Role
from web.marks.models import Mark
from web.sketches.models import Sketch
from web.sketches.services import MOST_SKETCHES

PLAN = "Mark: Pilot light\nSheet: 24u\nCircle disc on O with radius 3u.\n"


class SketchCase(StudioCase):
    def setUp(self) -> None:
        super().setUp()
        self.lit = self.mark(parse_text(PLAN))
        self.viewer = Client()
        user = get_user_model().objects.create_user("viewer", password="a third password")
        Membership.objects.create(studio=self.brand.studio, user=user, role=Role.VIEWER)
        self.viewer.force_login(user)

    def bring(self, data: bytes | None = None, client: Client | None = None, name: str = "page one.png"):
        file = SimpleUploadedFile(name, picture() if data is None else data)
        address = reverse("bench-sketch-bring", args=[self.lit.id])
        return (client or self.client).post(address, {"sketch": file})

    def do(self, doing: str, client: Client | None = None, identity: str | None = None, **given: Any):
        body = {"doing": doing, "given": given, **({"id": identity} if identity else {})}
        with self.captureOnCommitCallbacks(execute=True):
            return self.post("bench-sketch-change", self.lit, client, **body)

    @property
    def sketch(self) -> Sketch:
        return Sketch.objects.get(mark=self.lit, under=True)


class Bringing(SketchCase):
    def test_it_lies_under_the_sheet(self) -> None:
        answer = self.bring()
        self.assertEqual(answer.status_code, 200)
        self.assertEqual((self.sketch.name, self.sketch.width, self.sketch.height), ("page one", 60, 40))
        self.assertEqual(self.sketch.lying, Lying(Point(0.0, 0.0), 24.0, 0.0))
        address = reverse("bench-sketch", args=[self.lit.id, self.sketch.pk])
        parts = answer.json()["parts"]
        self.assertIn(f'<image id="under-picture" href="{address}" x="-120.000"', parts["sheet"])
        self.assertIn('opacity="40%"', parts["sheet"])
        self.assertIn('value="24u"', parts["plan"])
        page = self.client.get(reverse("bench", args=[self.lit.id])).content.decode()
        self.assertIn(address, page)

    def test_its_picture_is_for_its_studio_alone(self) -> None:
        self.bring()
        address = reverse("bench-sketch", args=[self.lit.id, self.sketch.pk])
        answer = self.client.get(address)
        self.assertEqual(answer["Content-Type"], "image/jpeg")
        self.assertIn("private", answer["Cache-Control"])
        self.assertEqual(b"".join(answer.streaming_content)[:2], b"\xff\xd8")
        self.assertEqual(self.viewer.get(address).status_code, 200)
        self.assertEqual(self.stranger.get(address).status_code, 404)
        self.assertEqual(Client().get(address).status_code, 302)
        elsewhere = reverse("bench-sketch", args=[self.mark().id, self.sketch.pk])
        self.assertEqual(self.client.get(elsewhere).status_code, 404)

    def test_who_may_only_look_brings_and_changes_nothing(self) -> None:
        self.assertEqual(self.bring(client=self.viewer).status_code, 403)
        self.assertEqual(self.bring(client=self.stranger).status_code, 404)
        self.bring()
        for client, status in ((self.viewer, 403), (self.stranger, 404)):
            self.assertEqual(self.do("set", client, field="wide", value="3u").status_code, status)
            self.assertEqual(self.do("take-away", client, sketch=self.sketch.pk).status_code, status)
        self.assertEqual(self.post("bench-sketch-pull", self.lit, self.stranger, at=[0, 0]).status_code, 404)
        self.assertEqual(self.sketch.wide, 24.0)

    def test_what_cannot_be_read_says_why_and_nothing_is_kept(self) -> None:
        for data in (b"no picture", picture()[:60]):
            answer = self.bring(data)
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "sketch-unread"))
        empty = self.client.post(reverse("bench-sketch-bring", args=[self.lit.id]))
        self.assertEqual(empty.json()["code"], "sketch-none")
        self.assertFalse(Sketch.objects.exists())

    def test_another_one_lays_the_first_aside(self) -> None:
        self.bring()
        first = self.sketch
        self.bring(name="page_two-b.jpg")
        self.assertEqual((self.sketch.name, self.lit.sketches.count()), ("page two b", 2))
        self.assertEqual(self.do("lay-under", sketch=first.pk).status_code, 200)
        self.assertEqual(self.sketch, first)
        self.do("lay-aside")
        self.assertFalse(self.lit.sketches.filter(under=True).exists())

    def test_a_picture_that_is_gone_is_said_to_be(self) -> None:
        self.bring()
        default_storage.delete(self.sketch.path)
        self.assertEqual(self.client.get(reverse("bench-sketch", args=[self.lit.id, self.sketch.pk])).status_code, 404)
        self.assertEqual(self.post("bench-sketch-pull", self.lit, at=[0, 0]).json()["code"], "no-sketch")
        self.assertEqual(self.client.get(reverse("bench", args=[self.lit.id])).status_code, 200)

    def test_a_mark_keeps_so_many(self) -> None:
        for _ in range(MOST_SKETCHES):
            self.assertEqual(self.bring().status_code, 200)
        self.assertEqual(self.bring().json()["code"], "too-many-sketches")

    def test_names_of_every_kind(self) -> None:
        names = {"../../etc/passwd.png": "passwd", "x" * 150 + ".png": "x" * 40, ".png": ".png", "<b>.png": "<b>"}
        for name, called in names.items():
            with self.subTest(name):
                self.assertEqual(self.bring(name=name).status_code, 200)
                self.assertEqual(self.sketch.name, called)
        self.assertNotIn("<b>", self.bring(name="<b>.png").json()["parts"]["plan"])


class Laying(SketchCase):
    def setUp(self) -> None:
        super().setUp()
        self.bring()

    def test_values_are_typed(self) -> None:
        for field, value, got in (
            ("darkness", "70%", 70),
            ("wide", "12.5u", 12.5),
            ("turned", "-3", -3.0),
            ("right", "1u", 1.0),
            ("up", "−2u", -2.0),
            ("name", "  The   second ", "The second"),
        ):
            self.assertEqual(self.do("set", field=field, value=value).status_code, 200)
            self.assertEqual(getattr(self.sketch, field), got)

    def test_what_cannot_be_taken_says_why(self) -> None:
        before = Sketch.objects.values().get()
        for given, code in (
            ({"field": "wide", "value": "wide"}, "sketch-number"),
            ({"field": "wide", "value": "0"}, "sketch-out-of-bounds"),
            ({"field": "darkness", "value": "2%"}, "sketch-darkness"),
        ):
            answer = self.do("set", **given)
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, code))
        for doing, given in (
            ("move", {}),
            ("move", {"line": [0, 0, "1", 1]}),
            ("move", {"line": [0, 0, 1e300, 1]}),
            ("measure", {"line": [1, 1, 1, 1], "length": "3u"}),
            ("measure", {"line": None, "length": "3u"}),
            ("lay-under", {"sketch": "x"}),
            ("take-away", {"sketch": 10**30}),
        ):
            self.assertEqual(self.do(doing, **given).status_code, 422, (doing, given))
        self.assertEqual(self.do("dance").status_code, 400)
        self.assertEqual(self.do("set", field="key", value="1").status_code, 400)
        self.assertEqual(Sketch.objects.values().get(), before)

    def test_a_line_of_known_length(self) -> None:
        line = [0.0, -4.0, 0.0, 4.0]
        told = self.post("bench-sketch-line", self.lit, line=line).json()
        self.assertEqual((told["length"], told["way"]), ("8u", "upright"))
        self.do("measure", line=line, length="12u", straight=True, on_middle=True)
        self.assertEqual(self.sketch.lying, Lying(Point(0.0, 0.0), 36.0, 0.0))

    def test_moved_and_as_before_and_after(self) -> None:
        self.do("move", line=[1.0, 1.0, 3.0, 0.0])
        after = Lying(Point(2.0, -1.0), 24.0, 0.0)
        self.assertEqual(self.sketch.lying, after)
        self.do("as-before")
        self.assertEqual(self.sketch.lying, Lying(Point(0.0, 0.0), 24.0, 0.0))
        self.do("as-before")
        self.assertEqual(self.sketch.lying, after)

    def test_what_is_sent_again_is_done_once(self) -> None:
        identity = str(uuid.uuid4())
        for _ in range(3):
            self.assertEqual(self.do("move", identity=identity, line=[0.0, 0.0, 1.0, 0.0]).status_code, 200)
        self.assertEqual(self.sketch.right, 1.0)

    def test_hidden_it_is_not_sent(self) -> None:
        parts = self.do("show", shown=False).json()["parts"]
        self.assertNotIn("under-picture", parts["sheet"])
        self.assertIn('aria-pressed="false">sketch', parts["sheet"])
        self.assertIn("under-picture", self.do("show", shown=True).json()["parts"]["sheet"])

    def test_taken_away_its_file_goes_too(self) -> None:
        path, row = self.sketch.path, self.sketch.pk
        self.assertTrue(default_storage.exists(path))
        self.do("lay-aside")
        self.assertTrue(default_storage.exists(path))
        self.do("take-away", sketch=row)
        self.assertFalse(default_storage.exists(path))
        self.assertEqual(self.do("set", field="wide", value="3u").json()["code"], "no-sketch")

    def test_a_mark_that_goes_takes_its_files(self) -> None:
        path = self.sketch.path
        with self.captureOnCommitCallbacks(execute=True):
            Mark.objects.filter(pk=self.lit.pk).update(current=None)
            Mark.objects.get(pk=self.lit.pk).delete()
        self.assertFalse(default_storage.exists(path))

    def test_a_copy_of_the_mark_lies_over_a_copy_of_it(self) -> None:
        self.do("set", field="wide", value="5u")
        self.client.post(reverse("copy-mark", args=[self.lit.id]))
        other = Sketch.objects.exclude(mark=self.lit).get()
        self.assertEqual((other.wide, other.under, other.name), (5.0, True, "page one"))
        self.assertNotEqual(other.path, self.sketch.path)
        with self.captureOnCommitCallbacks(execute=True):
            self.sketch.delete()
        self.assertTrue(default_storage.exists(other.path))

    def test_nothing_of_it_is_in_the_plan(self) -> None:
        """It makes no change of the mark, so that no file, variant or copy of the plan can hold it."""
        self.do("set", field="wide", value="5u")
        mark = Mark.objects.get(pk=self.lit.pk)
        self.assertEqual(mark.current.number, 1)
        self.assertNotIn("sketch", str(mark.current.plan).lower())


class Pulling(SketchCase):
    """The scan is 1600 pixels wide, and lies 24u wide."""

    EACH = 24 / 1600

    def setUp(self) -> None:
        super().setUp()
        self.bring(scan(ring(800, 600, 400), stroke(800, 600, 1200, 600), seed=3), name="scan.jpg")

    def pull(self, x: float, y: float):
        return self.post("bench-sketch-pull", self.lit, at=[x, y])

    def test_a_circle_and_what_else_it_may_be(self) -> None:
        found = self.pull(0.0, 6.0).json()["found"]
        self.assertEqual(found[0]["text"], "Circle circle on O with radius 6u.")
        self.assertIn("a circle, within", found[0]["said"])
        self.assertEqual(self.change(self.lit, "add-sentence", text=found[0]["text"]).status_code, 200)
        line = self.pull(4.5, 0.0).json()["found"][0]
        self.assertEqual(line["text"], "Segment segment from O to right of circle.")

    def test_what_was_pulled_already_comes_last(self) -> None:
        """Where the stroke ends on the ring, each is told first that is not in the plan yet."""
        here = (5.96, 0.0)
        firsts = [self.pull(*here).json()["found"][0]["text"]]
        self.change(self.lit, "add-sentence", text=firsts[0])
        firsts.append(self.pull(*here).json()["found"][0]["text"])
        self.assertEqual({text.split()[0] for text in firsts}, {"Circle", "Segment"})
        self.assertIn(firsts[0].split()[0], [one["text"].split()[0] for one in self.pull(*here).json()["found"]])

    def test_as_it_lies_now(self) -> None:
        self.do("set", field="turned", value="90")
        self.do("set", field="right", value="2u")
        self.do("set", field="wide", value="12u")
        found = self.pull(2.0, 3.0).json()["found"]
        self.assertEqual(found[0]["text"], "Circle circle on 2u right from O with radius 3u.")

    def test_where_nothing_is(self) -> None:
        answer = self.pull(-3.0, 0.5)
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "sketch-nothing-here"))
        for at in (None, [1], [1, "2"], [1e300, 0]):
            self.assertEqual(self.post("bench-sketch-pull", self.lit, at=at).json()["code"], "sketch-no-place")
        self.do("lay-aside")
        self.assertEqual(self.pull(0.0, 6.0).json()["code"], "no-sketch")

    def along(self, *way: object):
        return self.post("bench-sketch-pull", self.lit, way=list(way))

    def test_along_a_way(self) -> None:
        """Somebody's way round the circle, up to half a u beside it, and along the line."""
        turns = [0.05 * k for k in range(128)]
        way = [[(6 + 0.4 * math.sin(3 * t)) * math.cos(t), (6 + 0.4 * math.sin(3 * t)) * math.sin(t)] for t in turns]
        found = self.along(*way).json()["found"]
        self.assertEqual(found[0]["text"], "Circle circle on O with radius 6u.")
        self.assertIn("a free line of", found[1]["said"])
        for one in found:
            self.assertEqual(self.change(self.lit, "add-sentence", text=one["text"]).status_code, 200)
        line = self.along(*([0.25 * k, 0.2 if k < 12 else -0.2] for k in range(2, 22))).json()["found"][0]
        self.assertTrue(line["text"].startswith("Segment segment from"), line)

    def test_ways_that_lead_nowhere(self) -> None:
        for way, code in (
            ([], "sketch-no-place"),
            ([[0, 0]], "sketch-no-place"),
            ([[0, 0], [1, None]], "sketch-no-place"),
            ([[0, 0], [1e300, 0]], "sketch-no-place"),
            ([[0, 0], [0.01, 0]], "sketch-way-short"),
            ([[-5, 2], [5, 2]], "sketch-nothing-along"),
            ([[k % 9, 0] for k in range(2001)], "sketch-way-tangled"),
        ):
            answer = self.along(*way)
            with self.subTest(code=code, length=len(way)):
                self.assertEqual((answer.status_code, answer.json()["code"]), (422, code))
        self.assertEqual(self.post("bench-sketch-pull", self.lit, way="O").json()["code"], "sketch-no-place")
        self.assertEqual(self.post("bench-sketch-pull", self.lit, self.stranger, way=[[0, 0], [5, 0]]).status_code, 404)


class SquaringUp(SketchCase):
    """The scan is 1600 by 1200 pixels, and lies 24u wide: a trapezium on it is told to be a square."""

    CORNERS = ((-6, -6), (6, -6), (4, 6), (-4, 6))

    def setUp(self) -> None:
        super().setUp()
        self.bring(scan(ring(800, 600, 400), stroke(800, 600, 1200, 600), seed=3), name="scan.jpg")

    def square(self, identity: str = "", **given: object):
        body = {"corners": self.CORNERS, "wide": "10u", "high": "10u", "cut": True, "on_middle": True, **given}
        return self.post("bench-sketch-square", self.lit, id=identity or str(uuid.uuid4()), **body)

    def test_what_it_seems_to_be(self) -> None:
        answer = self.post("bench-sketch-corners", self.lit, corners=[[-6, -4], [6, -4], [6, 4], [-6, 4]]).json()
        self.assertEqual((answer["wide"], answer["high"]), ("12u", "8u"))
        self.assertIn("about 12u by 8u", answer["text"])

    def test_it_lies_in_place_of_the_other(self) -> None:
        self.do("set", field="darkness", value="70")
        before = self.sketch
        self.assertEqual(self.square().status_code, 200)
        made = self.sketch
        self.assertNotEqual(made.pk, before.pk)
        self.assertEqual((made.wide, made.lying.middle, made.turned), (10.0, Point(0, 0), 0.0))
        self.assertEqual((made.width, made.name, made.darkness), (made.height, "scan from above", 70))
        before.refresh_from_db()
        self.assertFalse(before.under)
        self.do("lay-under", sketch=before.pk)
        self.assertEqual(self.sketch.pk, before.pk)

    def test_what_lies_around_comes_along(self) -> None:
        self.square(cut=False, on_middle=False, wide="20u", high="20u")
        made = self.sketch
        self.assertGreater(made.wide, 21.0)
        self.assertLess(made.wide, 61.0)
        self.assertTrue(default_storage.exists(made.path))

    def test_the_middle_stays_where_it_was(self) -> None:
        corners = [[1, 1], [5, 1], [5, 4], [1, 4]]
        self.square(corners=corners, wide="4u", high="3u", on_middle=False)
        self.assertAlmostEqual(self.sketch.lying.middle.distance(Point(3, 2.5)), 0.0, delta=1e-3)
        self.assertAlmostEqual(self.sketch.wide, 4.0, delta=1e-3)

    def test_it_is_done_once(self) -> None:
        """Sent again, it is not told that its corners are none of the new picture."""
        corners, identity = [[1, 1], [5, 1], [5, 4], [1, 4]], str(uuid.uuid4())
        for _ in range(2):
            answer = self.square(corners=corners, wide="4u", high="3u", identity=identity)
            self.assertEqual(answer.status_code, 200)
        self.assertEqual(self.lit.sketches.count(), 2)
        self.assertEqual(self.square(corners=corners).json()["code"], "sketch-no-rectangle")

    def test_what_is_refused_changes_nothing(self) -> None:
        for given, code in (
            ({"corners": [[0, 0]] * 4}, "sketch-no-rectangle"),
            ({"corners": None}, "sketch-no-place"),
            ({"corners": [[0, 0], [1, 0], [1, 1]]}, "sketch-no-place"),
            ({"corners": [[0, 0], [1, 0], [1, 1], [0, "1"]]}, "sketch-no-place"),
            ({"corners": [[0, 0], [1e300, 0], [1, 1], [0, 1]]}, "sketch-no-place"),
            ({"wide": "ten"}, "sketch-number"),
            ({"wide": "0"}, "sketch-out-of-bounds"),
            ({"high": "-3u"}, "sketch-out-of-bounds"),
            ({"wide": "10000u", "cut": False, "high": "9000u"}, "sketch-out-of-bounds"),
            ({"wide": "100u", "high": "1u"}, "sketch-too-long"),
        ):
            answer = self.square(**given)
            with self.subTest(given=given):
                self.assertEqual((answer.status_code, answer.json()["code"]), (422, code))
        self.assertEqual(self.lit.sketches.count(), 1)
        self.assertTrue(self.sketch.under)

    def test_only_so_many(self) -> None:
        for number in range(MOST_SKETCHES - 1):
            self.bring(picture(), name=f"{number}.png")
        self.assertEqual(self.square().json()["code"], "too-many-sketches")

    def test_for_those_who_may_build_alone(self) -> None:
        body = {"corners": self.CORNERS, "wide": "10u", "high": "10u"}
        for client, status in ((self.viewer, 403), (self.stranger, 404)):
            self.assertEqual(self.post("bench-sketch-square", self.lit, client, **body).status_code, status)
        self.assertEqual(self.post("bench-sketch-corners", self.lit, self.stranger, **body).status_code, 404)
        self.do("lay-aside")
        self.assertEqual(self.square().json()["code"], "no-sketch")
