"""Live answers: what a value would do, the same as when it is done; nothing is stored, and nobody else is answered."""

from __future__ import annotations

import json
import re
import time

from django.contrib.auth import get_user_model
from django.test import Client, TransactionTestCase
from django.urls import reverse
from websockets.exceptions import ConnectionClosed, InvalidStatus

from kagami.plan.language.text import parse_text
from tests.plan.marks import beams
from tests.web.server import Server, asked
from tests.web.studio import StudioCase
from web.bench import preview as module
from web.bench.live.answers import answer
from web.bench.live.tokens import token_for
from web.evaluation.door import HERE
from web.marks.models import Mark
from web.marks.services.shelving import make_brand, make_mark

TRIAL = """Mark: Trial
Module: 3 mm
Sheet: 24u
Measure: gap = u/4
Measure: span = width of rim
Tone: dark = #1f2c4a
Tone: pale = 40% lighter than dark

Circle rim on O with radius 6u.
Circle eye on 1u right and gap up from O with radius width of rim / 6.
Bar beam from top of eye at 90°, 1u wide and 5u long.
Turn beam round O, 6 copies: beams.
Of rim and beams keep nothing, the rest kept: piece light.
Fill every second copy of beams with dark and pale: pieces toned.
"""
RADIUS = {"step": "rim", "field": "radius", "value": "5u"}


class Answers(StudioCase):
    def setUp(self) -> None:
        super().setUp()
        self.trial = self.mark(parse_text(TRIAL))

    def ask(self, kind: str, given: dict, **more: object) -> dict:
        token = token_for(self.owner, self.trial.pk, self.trial.current.number, self.trial.brand.studio_id)
        return answer({"seq": 1, "token": token, "kind": kind, "given": given, **more})

    def paths(self, view: str = "both", step: str = "") -> dict[tuple[str, str, str], str]:
        """The paths of the page as it is stored now."""
        address = reverse("bench-state", args=[self.trial.pk])
        sheet = self.client.get(address, {"view": view, "step": step}).json()["parts"]["sheet"]
        found = {}
        for line, data in re.findall(r'(?s)<g\s+id="l-([\w-]+)".*?class="hair"\s+d="([^"]*)"', sheet):
            found["line", line, ""] = data
        for ink, tone, data in re.findall(r'(?s)<path\s+id="i-([\w-]+?)-(\w*)"\s+data-step.*?\sd="([^"]*)"', sheet):
            found["ink", ink, tone] = data
        for region, data in re.findall(r'(?s)data-region="([^"]+)".*?\sd="([^"]*)"', sheet):
            found["region", region, ""] = data
        return found

    def test_what_is_tried_looks_as_what_is_made(self) -> None:
        tries = [
            ("set-field", RADIUS),
            ("set-field", {"step": "beams", "field": "copies", "value": "8"}),
            ("set-field", {"step": "beam", "field": "foot", "value": "O"}),
            ("set-measure", {"name": "gap", "value": "2u"}),
            ("retype-step", {"step": "eye", "text": "Square eye of side 3u, its centre on O, turned by 0°."}),
        ]
        for kind, given in tries:
            with self.subTest(kind, **given):
                before = self.paths()
                found = self.ask(kind, given, whole=True)
                self.assertNotIn("error", found)
                self.change(self.trial, kind, **given)
                after = self.paths()
                lines = found["lines"]
                self.assertFalse({"light", "toned"} & lines.keys())  # their lines are not on the sheet
                same_frame = before["line", "rim", ""] == after["line", "rim", ""] or "rim" in lines
                self.assertTrue(same_frame)
                for step, data in lines.items():
                    self.assertEqual(data, after.get(("line", step, ""), ""), step)
                unchanged = {place for place in before if place[0] == "line"} - {("line", s, "") for s in lines}
                for place in unchanged:
                    self.assertEqual(before[place], after[place], place)
                self.post("bench-undo", self.trial)
                self.trial.refresh_from_db()

    def test_what_is_carved_shows_its_lines_while_it_is_open(self) -> None:
        for step, carved in (("light", True), ("toned", False)):
            for view, shown in (("both", carved), ("lines", carved), ("regions", False)):
                with self.subTest(step, view=view):
                    state = {"view": view, "step": step}
                    before = self.paths(view, step)
                    self.assertEqual(("line", step, "") in before, shown)
                    found = self.ask("set-field", RADIUS, state=state, whole=True)["lines"]
                    self.assertEqual(step in found, shown)
                    if shown:
                        self.assertNotEqual(found[step], before["line", step, ""])
        there = {step for kind, step, _tone in self.paths("both", "rim") if kind == "line"}
        self.assertFalse(there & {"light", "toned"})

    def test_ink_has_its_tones_and_the_area_of_what_is_made(self) -> None:
        found = self.ask("set-field", {"step": "toned", "field": "tones", "value": "pale and dark"}, whole=True)
        tones = {(ink["step"], ink["tone"]): ink for ink in found["ink"]}
        self.assertEqual({("toned", "dark"), ("toned", "pale")} <= set(tones), True)
        self.assertEqual(tones["toned", "dark"]["fill"], "#1f2c4a")

    def test_regions_faults_and_measures(self) -> None:
        state = {"view": "regions", "step": "light"}
        found = self.ask("set-field", RADIUS, state=state, whole=True)
        self.assertEqual(len(found["regions"]), len([p for p in self.paths("regions", "light") if p[0] == "region"]))
        self.assertEqual(found["texts"], {"measure:span": "30 mm"})
        found = self.ask("set-field", {**RADIUS, "value": "0u"}, whole=True)
        self.assertIn("must be more than 0", found["faults"]["rim"])
        self.assertIn("waits", found["faults"]["light"])
        self.assertEqual(found["lines"]["rim"], "")

    def test_a_step_that_could_not_be_drawn_says_so_before_it_is_added(self) -> None:
        sentence = "From eye take rim: piece crescent."
        said = self.ask("add-sentence", {"text": sentence})["said"]
        self.assertTrue(said.startswith(sentence), said)
        self.assertIn("Nothing is left of eye", said.removeprefix(sentence))
        begun = self.ask("add-step", {"step_kind": "segment", "fields": {}})
        self.assertEqual(begun["said"], "Segment segment from O to O.")  # its places are still to be given
        self.assertIn("one place", begun["faults"]["segment"])

    def test_a_step_that_could_not_be_drawn_takes_no_ink_away_before_it_is_added(self) -> None:
        given = {"text": "From eye take rim: piece crescent."}
        self.assertEqual(self.ask("add-sentence", given, whole=True)["ink"], [])
        mirror = self.ask("add-sentence", given, rested=True)["mirror"]
        self.assertNotIn("wants mending", mirror)
        self.assertEqual(mirror, self.ask("set-field", {**RADIUS, "value": "6u"}, rested=True)["mirror"])
        sound = self.ask("add-sentence", {"text": "From rim take eye: piece crescent."}, whole=True)
        self.assertIn("crescent", [ink["step"] for ink in sound["ink"]])

    def test_gradients_of_the_same_tones_along_other_lines_are_areas_of_their_own(self) -> None:
        text = (
            "Tone: kelp = #123456\nTone: sand = #e0d0b0\nCentre lines axes through O.\n"
            "Circle disc on 4u right from O with radius 3u.\n"
            "Fill disc from left of disc to right of disc with a gradient of kelp and sand: toned.\n"
            "Reflect toned across the upright line of axes, the original kept: both.\n"
        )
        self.trial = make_mark(self.owner, self.trial.brand, parse_text(text))
        address = reverse("bench-state", args=[self.trial.pk])
        sheet = self.client.get(address, {"view": "both"}).json()["parts"]["sheet"]
        ink = re.search(r'(?s)<g class="ink">(.*?)</g>', sheet)
        assert ink is not None
        ids, data = (re.findall(pattern, ink[1]) for pattern in (r'\sid="([^"]*)"', r'\sd="([^"]*)"'))
        self.assertEqual((len(set(ids)), len(set(data))), (2, 2))
        given = {"step": "disc", "field": "radius", "value": "2u"}
        found = self.ask("set-field", given, whole=True)["ink"]
        self.assertEqual([(entry["step"], entry["nth"]) for entry in found], [("both", 0), ("both", 1)])
        self.assertEqual(len({entry["d"] for entry in found}), 2)

    def test_a_place_that_is_dragged_is_joined_to_where_it_was(self) -> None:
        given = {"step": "eye", "field": "centre", "place": [-6.0, 0.0], "scale": 40}
        state = {"view": "both", "step": "eye"}
        handles = self.ask("drag", given, state=state, whole=True)["handles"]
        (place,) = re.findall(r'(?s)class="handle place.*?</g>', handles)[:1]
        line = re.search(r'class="measure-line" d="M(\S+) (\S+)L(\S+) (\S+)"', place)
        assert line is not None
        x, y, to_x, to_y = (float(line[k]) for k in range(1, 5))
        self.assertLess(to_x, x)
        self.assertGreater(abs(to_y - y), 0)
        still = self.ask("drag", {"step": "rim", "field": "radius", "place": [5.0, 0.0]}, state=state, whole=True)
        self.assertNotIn(
            "place", re.findall(r'class="handle (\w+)[^>]*>\s*<path class="measure-line"', still["handles"])
        )

    def test_the_mirror_follows_when_the_hand_rests(self) -> None:
        found = self.ask("set-field", RADIUS, rested=True)
        self.assertIn("Symmetry", found["mirror"])
        self.assertNotEqual(found["mirror"], self.ask("set-field", {**RADIUS, "value": "4u"}, rested=True)["mirror"])

    def test_what_cannot_be_made_is_told_and_what_takes_long_comes_in_two(self) -> None:
        self.assertEqual(self.ask("set-field", {**RADIUS, "value": "3u +"})["code"], "unfinished-value")
        self.assertEqual(self.ask("remove-step", {"step": "rim"})["code"], "bad-request")
        self.assertEqual(self.ask("set-field", {"step": "nobody", "field": "radius", "value": "1u"})["code"], "no-step")
        seconds, module.FIRST_SECONDS = module.FIRST_SECONDS, -1.0
        try:
            first = self.ask("set-field", RADIUS)
        finally:
            module.FIRST_SECONDS = seconds
        self.assertEqual((first["more"], first["lines"], first["ink"]), (True, {}, []))
        rest = self.ask("set-field", RADIUS, whole=True)
        self.assertFalse(rest["more"])
        self.assertIn("rim", rest["lines"])

    def test_nothing_is_stored_and_no_cache_keeps_what_was_passed(self) -> None:
        self.ask("set-field", RADIUS, whole=True)
        drawings = len(HERE.drawings)
        for value in range(200):
            self.ask("set-field", {**RADIUS, "value": f"{4 + value / 100:.2f}u"}, whole=True)
        self.assertEqual(len(HERE.drawings), drawings)
        self.assertLess(sum(passing.weight for passing in module._passing.values()), 8 * 17_000_000)
        self.assertEqual(self.trial.revisions.count(), 1)

    def test_a_warm_answer_looks_into_no_database(self) -> None:
        self.ask("set-field", RADIUS)
        with self.assertNumQueries(1):  # without evaluators the plan is read each time, and that is all
            self.ask("set-field", {**RADIUS, "value": "4u"})

    def test_a_token_of_another_or_none_is_of_no_use(self) -> None:
        for token in ("", "x", token_for(self.owner, self.trial.pk, 1, self.trial.brand.studio_id)[:-2] + "aa"):
            found = answer({"seq": 3, "token": token, "kind": "set-field", "given": RADIUS})
            self.assertEqual((found["seq"], found["code"]), (3, "stale-token"))

    def test_by_a_plain_request(self) -> None:
        found = self.post("bench-try", self.trial, kind="set-field", given=RADIUS, seq=9, whole=True).json()
        self.assertEqual(found["seq"], 9)
        self.assertIn("rim", found["lines"])
        again = answer({"seq": 1, "token": found["token"], "kind": "set-field", "given": RADIUS, "whole": True})
        self.assertEqual(again["lines"], found["lines"])
        self.assertEqual(
            self.post("bench-try", self.trial, self.stranger, kind="set-field", given=RADIUS).status_code, 404
        )
        self.assertEqual(self.post("bench-try", self.trial, base=99, kind="set-field", given=RADIUS).status_code, 400)


class Sockets(TransactionTestCase):
    """The real server, and two of them side by side."""

    def setUp(self) -> None:
        self.owner = get_user_model().objects.create_user("designer", password="a long password")
        self.mark = make_mark(self.owner, make_brand(self.owner, "Vennik Light Trust"), beams().plan)
        self.token = token_for(self.owner, self.mark.pk, 1, self.mark.brand.studio_id)

    def server(self) -> Server:
        server = Server("--evaluators", "1")
        self.addCleanup(server.stop)
        server.wait()
        return server

    def question(self, value: str, seq: int = 1, token: str = "") -> dict:
        given = {"step": "rim", "field": "radius", "value": value}
        return {"seq": seq, "token": token or self.token, "kind": "set-field", "given": given, "whole": True}

    def test_questions_are_answered_and_those_overtaken_are_not(self) -> None:
        server = self.server()
        with server.talk() as talk:
            self.assertIn("rim", asked(talk, **self.question("7u"))["lines"])
            for number in range(2, 60):
                talk.send(json.dumps(self.question(f"{5 + number / 100}u", number)))
            answered = []
            while not answered or answered[-1] != 59:
                answered.append(json.loads(talk.recv(timeout=20))["seq"])
            self.assertEqual(answered, sorted(answered))
            self.assertLess(len(answered), 58)
            talk.send("no JSON")
            talk.send('["a list"]')
            self.assertEqual(asked(talk, **self.question("7u", 99))["seq"], 99)
        with self.assertRaises((ConnectionClosed, InvalidStatus)), server.talk("http://elsewhere.example") as talk:
            asked(talk, **self.question("7u"))

    def test_a_hand_that_moves_on_does_not_wait_for_what_was_asked_when_it_rested(self) -> None:
        import os
        import signal

        server = self.server()
        (heavy,) = (pid for pid in server.evaluators() if os.getpriority(os.PRIO_PROCESS, pid) >= 10)
        with server.talk() as talk:
            asked(talk, **self.question("7u"))
            os.kill(heavy, signal.SIGSTOP)
            try:
                talk.send(json.dumps({**self.question("6u", 2), "rested": True}))
                self.assertEqual(asked(talk, **self.question("5u", 3))["seq"], 3)
            finally:
                os.kill(heavy, signal.SIGCONT)
            late = json.loads(talk.recv(timeout=20))
            self.assertEqual(late["seq"], 2)
            self.assertIn("mirror", late)

    def test_an_editor_moves_between_two_machines_in_the_middle_of_a_drag(self) -> None:
        one, other = self.server(), self.server()
        client = Client()
        client.force_login(self.owner)
        with one.talk() as talk:
            first = [asked(talk, **self.question(f"{7 - k / 10:.1f}u", k))["lines"] for k in range(5)]
        with other.talk() as talk:
            second = [asked(talk, **self.question(f"{7 - k / 10:.1f}u", k))["lines"] for k in range(5)]
            self.assertEqual(first, second)
            given = {"step": "rim", "field": "radius", "value": "6.5u"}
            body = json.dumps({"base": 1, "kind": "set-field", "given": given})
            made = client.post(reverse("bench-change", args=[self.mark.pk]), body, content_type="application/json")
            token = made.json()["token"]
            after = asked(talk, **self.question("7u", 7, token))
        with one.talk() as talk:
            self.assertEqual(asked(talk, **self.question("7u", 7, token)), after)
        self.assertEqual(Mark.objects.get().current.number, 2)

    def test_a_killed_evaluator_is_not_noticed_in_a_talk(self) -> None:
        import os
        import signal

        server = self.server()
        with server.talk() as talk:
            before = asked(talk, **self.question("7u"))
            for pid in server.evaluators()[1:]:
                os.kill(pid, signal.SIGKILL)
            time.sleep(0.2)
            self.assertEqual(asked(talk, **self.question("7u")), before)
