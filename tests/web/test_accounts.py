"""Signing in is throttled; an account can be removed, with its password."""

from __future__ import annotations

from django.contrib.auth import get_user_model
from django.test import Client, override_settings
from django.urls import reverse

from tests.web.studio import StudioCase
from web.marks.models import Brand, Mark


@override_settings(AXES_ENABLED=True)
class Throttle(StudioCase):
    def attempt(self, name: str, password: str, address: str = "127.0.0.1"):
        given = {"username": name, "password": password}
        return Client(REMOTE_ADDR=address).post(reverse("sign-in"), given)

    def test_too_many_wrong_passwords_lock_the_name_for_that_address_alone(self) -> None:
        codes = [self.attempt("designer", "wrong").status_code for _ in range(9)]
        self.assertEqual(codes[0], 200)
        self.assertEqual(codes[-1], 429)
        self.assertEqual(self.attempt("designer", "a long password").status_code, 429)
        self.assertEqual(self.attempt("designer", "a long password", "127.0.0.2").status_code, 302)
        self.assertEqual(self.attempt("neighbour", "another password").status_code, 302)


class Removal(StudioCase):
    def test_an_account_goes_with_all_that_it_owns_and_nothing_else(self) -> None:
        mark = self.mark()
        self.change(mark, "set-field", step="rim", field="radius", value="5u")
        answer = self.client.post(reverse("account"), {"password": "wrong"})
        self.assertContains(answer, "not the password", status_code=422)
        self.assertTrue(Mark.objects.exists())
        self.assertRedirects(self.client.post(reverse("account"), {"password": "a long password"}), reverse("sign-in"))
        self.assertFalse(Mark.objects.exists() or Brand.objects.exists())
        self.assertEqual([user.username for user in get_user_model().objects.all()], ["neighbour"])
        self.assertEqual(self.client.get(reverse("shelf")).status_code, 302)


class Health(StudioCase):
    def test_whoever_watches_is_answered_without_signing_in(self) -> None:
        for name in ("health", "ready"):
            self.assertContains(Client().get(reverse(name)), "ok")
