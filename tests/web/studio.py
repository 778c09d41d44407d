"""A designer with a brand and a mark, and the requests that the pages make."""

from __future__ import annotations

import json
from typing import Any

from django.contrib.auth import get_user_model
from django.test import Client, TestCase
from django.urls import reverse

from kagami.plan.document import Plan
from tests.plan.marks import beams
from web.marks.models import Mark
from web.marks.services.shelving import make_brand, make_mark


class StudioCase(TestCase):
    """A signed-in designer, and another one with nothing to do with them."""

    def setUp(self) -> None:
        users = get_user_model().objects
        self.owner = users.create_user("designer", password="a long password")
        self.other = users.create_user("neighbour", password="another password")
        self.brand = make_brand(self.owner, "Vennik Light Trust")
        self.client.force_login(self.owner)
        self.stranger = Client()
        self.stranger.force_login(self.other)

    def mark(self, plan: Plan | None = None) -> Mark:
        return make_mark(self.owner, self.brand, plan or beams().plan)

    def post(self, name: str, mark: Mark, client: Client | None = None, **body: Any):
        body.setdefault("base", Mark.objects.get(pk=mark.pk).current.number)
        return (client or self.client).post(
            reverse(name, args=[mark.id]), json.dumps(body), content_type="application/json"
        )

    def change(self, mark: Mark, kind: str, client: Client | None = None, base: int | None = None, **given: Any):
        extra = {} if base is None else {"base": base}
        return self.post("bench-change", mark, client, kind=kind, given=given, **extra)

    def plan_of(self, mark: Mark) -> Plan:
        return Mark.objects.get(pk=mark.pk).current.load()
