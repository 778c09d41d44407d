"""The palette of a brand: named tones that serve all its marks."""

from typing import Final

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from kagami.plan import limits
from kagami.plan.errors import ChangeRefused
from kagami.plan.tones.mixing import colour_of
from kagami.plan.wording.names import sayable
from kagami.plan.wording.texts import on_a_line, on_one_line
from web.marks.access import require_designer
from web.marks.models import Brand

MOST: Final = 24
MOST_BYTES: Final = 900_000
"""Of a photograph whose colours are taken."""


@transaction.atomic
def take_in(actor: AbstractBaseUser, brand: Brand, name: str, colour: str) -> None:
    """A tone of the palette: a new one, or another colour under a name that is there.

    Raises:
        PlanError: it is no name or no colour, or the palette is full.
    """
    require_designer(actor, brand.studio_id)
    name = on_a_line(name)[: limits.NAME_LENGTH]
    if not name:
        raise ChangeRefused("empty-name")
    if not sayable(name) or not on_one_line(name):
        raise ChangeRefused("name-with-quotes", name=name)
    found = colour_of(colour, {})
    held = Brand.objects.select_for_update().get(pk=brand.pk)
    known = {entry["name"]: entry["colour"] for entry in held.palette}
    other = next((one for one, same in known.items() if same == found and one != name), None)
    if other is not None:
        raise ChangeRefused("doubled-tone", name=other, colour=found)
    known[name] = found
    if len(known) > MOST:
        raise ChangeRefused("too-many", what="tones of a palette", most=MOST)
    _keep(held, known)


@transaction.atomic
def take_out(actor: AbstractBaseUser, brand: Brand, name: str) -> None:
    """Without a tone; marks that use it keep it among their own."""
    require_designer(actor, brand.studio_id)
    held = Brand.objects.select_for_update().get(pk=brand.pk)
    _keep(held, {entry["name"]: entry["colour"] for entry in held.palette if entry["name"] != name})


def _keep(brand: Brand, tones: dict[str, str]) -> None:
    brand.palette = [{"name": name, "colour": colour} for name, colour in tones.items()]
    brand.save(update_fields=["palette"])
