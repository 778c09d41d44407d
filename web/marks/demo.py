"""The demo studio: the harbour of Vennik, from the plans in examples/."""

import pathlib
from typing import Final

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.models import AbstractBaseUser

from kagami.plan.files import load_plan
from web.marks.access import brands_of
from web.marks.services.shelving import make_brand, make_mark

FOLDER: Final = pathlib.Path(settings.BASE_DIR) / "examples"
BRANDS: Final = {
    "Vennik Light Trust": [
        "demo/vennik-light-trust.json",
        "jobs/j20-harbour-seal.plan",
        "jobs/j21-lighthouse-keeper.plan",
    ],
    "Tidehouse Museum": ["demo/tidehouse-museum.json", "jobs/j09-tide-rose.json", "jobs/j16-harbour-arch.plan"],
    "Ropewalk Works": ["jobs/j07-mooring-knot.plan", "jobs/j04-interlaced-cross.plan"],
    "Oar & Anvil Boatyard": ["jobs/j01-net-loft.plan", "jobs/j03-pair-of-oars.plan", "demo/oar-and-anvil.json"],
    "Saltpan Cooperative": ["demo/saltpan-cooperative.json", "jobs/j11-ships-wheel.plan", "jobs/j10-heap-of-salt.plan"],
    "Lateen Ferries": ["jobs/j02-berth-plate.plan", "jobs/j05-breaking-wave.plan"],
}
NAME: Final = "harbour"


def load_demo(password: str) -> AbstractBaseUser:
    """The demo designer and brands; those that are there already stay as they are, only the password is set anew."""
    user, _ = get_user_model().objects.get_or_create(username=NAME)
    if not user.check_password(password):
        user.set_password(password)
        user.save()
    if not brands_of(user).exists():
        for name, files in BRANDS.items():
            brand = make_brand(user, name)
            for file in files:
                make_mark(user, brand, load_plan((FOLDER / file).read_bytes()), "taken from the demo")
    return user
