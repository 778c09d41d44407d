"""Changes sent again, changes made at one time, and what becomes of a mark that is removed meanwhile."""

from __future__ import annotations

import threading
import uuid
from collections import Counter

from django.db import connection
from django.test import TransactionTestCase

from tests.plan.marks import beams
from tests.web.studio import StudioCase
from web.marks.models import Mark
from web.marks.services import history
from web.marks.services.shelving import make_brand, make_mark, remove_mark
from web.signing.removal import remove_account


class SentAgain(StudioCase):
    def test_a_change_with_the_same_id_is_made_once(self) -> None:
        mark, identity = self.mark(), str(uuid.uuid4())
        given = {"step": "rim", "field": "radius", "value": "7u"}
        for _ in range(3):
            answer = self.post("bench-change", mark, id=identity, base=1, kind="set-field", given=given)
            self.assertEqual((answer.status_code, answer.json()["revision"]), (200, 2))
        self.assertEqual(mark.revisions.count(), 2)

    def test_an_undo_with_the_same_id_goes_back_once(self) -> None:
        mark, identity = self.mark(), str(uuid.uuid4())
        for value in ("7u", "6u"):
            self.change(mark, "set-field", step="rim", field="radius", value=value)
        for _ in range(2):
            self.assertEqual(self.post("bench-undo", mark, id=identity, base=3).status_code, 200)
        self.assertEqual(self.plan_of(mark).step("rim").radius, "7u")

    def test_a_new_step_that_is_sent_again_is_the_active_one(self) -> None:
        mark, identity = self.mark(), str(uuid.uuid4())
        body = {"id": identity, "base": 1, "kind": "add-sentence", "given": {"text": "Circle dot on O with radius 1u."}}
        states = [self.post("bench-change", mark, **body).json()["state"]["step"] for _ in range(2)]
        self.assertEqual(states, ["dot", "dot"])


class AtOneTime(TransactionTestCase):
    def setUp(self) -> None:
        from django.contrib.auth import get_user_model

        self.owner = get_user_model().objects.create_user("designer", password="a long password")
        self.mark = make_mark(self.owner, make_brand(self.owner, "Vennik Light Trust"), beams().plan)

    def together(self, *tasks) -> list[str]:
        found: list[str] = []
        gate = threading.Barrier(len(tasks))

        def run(task) -> None:
            gate.wait()
            try:
                task()
                found.append("made")
            except Exception as error:  # noqa: BLE001  (which one it was is what is asked)
                found.append(type(error).__name__)
            finally:
                connection.close()

        threads = [threading.Thread(target=run, args=(task,)) for task in tasks]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return found

    def test_one_of_many_wins_and_the_others_are_told(self) -> None:
        def change(value: int):
            given = {"step": "rim", "field": "radius", "value": f"{value}u"}
            return lambda: history.make_change(self.owner, self.mark, 1, "set-field", given)

        found = Counter(self.together(*(change(value) for value in range(2, 8))))
        self.assertEqual(found, {"made": 1, "StaleRevision": 5})
        self.assertEqual(self.mark.revisions.count(), 2)

    def test_a_change_to_a_mark_that_is_removed_meanwhile_is_told_so(self) -> None:
        given = {"step": "rim", "field": "radius", "value": "5u"}
        found = self.together(
            lambda: history.make_change(self.owner, self.mark, 1, "set-field", given),
            lambda: remove_mark(self.owner, self.mark),
        )
        self.assertLessEqual(set(found), {"made", "MarkGone"})
        self.assertFalse(Mark.objects.exists())

    def test_an_account_is_removed_with_all_that_it_owns(self) -> None:
        history.make_change(self.owner, self.mark, 1, "set-field", {"step": "rim", "field": "radius", "value": "5u"})
        remove_account(self.owner)
        self.assertFalse(Mark.objects.exists())
