"""The demo studio: the harbour of Vennik, from the plans in examples/."""

import pathlib
from typing import Final

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.models import AbstractBaseUser

from kagami.exchange.sketches.checking import checked_picture
from kagami.exchange.sketches.lying import Lying
from kagami.geometry.point import Point
from kagami.plan.files import load_plan
from web.delivery.services.ordering import order
from web.marks.access import brands_of
from web.marks.models import Mark
from web.marks.services.palettes import take_in
from web.marks.services.shelving import make_brand, make_mark
from web.sketches.services import bring

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
PALETTES: Final = {
    "Vennik Light Trust": {
        "night": "#1f2c4a",
        "lamp": "#e2a93b",
        "sail": "#f3e7d0",
        "signal": "#b3301e",
        "slate": "#4a5560",
        "fog": "#dfe4e6",
    },
    "Tidehouse Museum": {
        "tide": "#17555c",
        "shell": "#efe4d6",
        "kelp": "#2f5233",
        "dusk": "#3b2f4a",
        "sand": "#d8b98a",
        "foam": "#e6efe6",
    },
    "Ropewalk Works": {
        "tar": "#2a2420",
        "hemp": "#c9a56a",
        "ochre": "#8f5518",
        "sky": "#b4ccd6",
        "flax": "#f0e7d3",
        "harbour": "#1f4a5a",
    },
    "Oar & Anvil Boatyard": {
        "smoke": "#33383d",
        "birch": "#e6d6b8",
        "ember": "#9c4221",
        "sea": "#1e5a73",
        "bone": "#f4eee2",
        "moss": "#4d5a33",
    },
    "Saltpan Cooperative": {
        "brine": "#1d3b4a",
        "clay": "#a8502f",
        "pan": "#ece6da",
        "rock": "#55636b",
        "dawn": "#f0c9a8",
        "reed": "#4a6b4f",
    },
    "Lateen Ferries": {
        "deep": "#14283a",
        "wave": "#1f6a8c",
        "canvas": "#f3eadb",
        "buoy": "#c2432a",
        "mist": "#dbe6ea",
        "rope": "#b98d4f",
    },
}
SKETCHES: Final = {
    "jobs/j16-harbour-arch.plan": (
        "harbour-arch-sketch.jpg",
        Lying(Point(0.3261, -0.2174), 32.6087, -2.0),
    )
}
"""What lay on the table when a mark was begun, and how it lies under its sheet; see docs/draw_sketch.py."""
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
            for tone, colour in PALETTES[name].items():
                take_in(user, brand, tone, colour)
            for file in files:
                plan = load_plan((FOLDER / file).read_bytes())
                mark = make_mark(user, brand, plan, "taken from the demo")
                if file in SKETCHES:
                    _lay_sketch(user, mark, *SKETCHES[file])
                if plan.variants:
                    order(user, mark)
    return user


def _lay_sketch(user: AbstractBaseUser, mark: Mark, file: str, lying: Lying) -> None:
    picture = checked_picture((FOLDER / file).read_bytes())
    sketch = bring(user, mark, "page from the notebook.jpg", picture, lying.wide)
    sketch.lying, sketch.darkness = lying, 60
    sketch.save()
