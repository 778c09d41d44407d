"""Bringing faces into a studio, and taking them away."""

from typing import Final

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from kagami.exchange.fonts.checking import Checked
from kagami.lettering.errors import LetteringError
from kagami.lettering.shelf import SHIPPED
from kagami.plan.messages import listing
from web.accounts.models import Studio
from web.evaluation.lent import keep_file
from web.faces.models import Typeface, write_down
from web.marks.access import require_designer
from web.marks.models import Mark

MOST_FACES: Final = 60


@transaction.atomic
def bring(actor: AbstractBaseUser, studio_id: int, font: Checked) -> Typeface:
    """Keep a font that was checked as a face of a studio.

    Raises:
        LetteringError: its name is taken, or the studio has as many as may be.
    """
    require_designer(actor, studio_id)
    studio = Studio.objects.select_for_update().get(pk=studio_id)
    known = Typeface.objects.filter(studio=studio)
    taken = {name.casefold() for name in (*SHIPPED, *known.values_list("name", flat=True))}
    if font.name.casefold() in taken:
        raise LetteringError("font-name-taken", name=font.name)
    if len(known) >= MOST_FACES:
        raise LetteringError("too-many-faces", most=MOST_FACES)
    keep_file(studio_id, font.digest, font.data)
    made = Typeface.objects.create(
        studio=studio,
        name=font.name,
        digest=font.digest,
        weight=font.weight,
        glyphs=font.glyphs,
        bytes=len(font.data),
        embedding=font.embedding,
        restricted=font.restricted,
        licence=font.licence,
        author=actor,
    )
    transaction.on_commit(lambda: write_down(studio_id))
    return made


@transaction.atomic
def take_away(actor: AbstractBaseUser, studio_id: int, name: str) -> None:
    """Take a face of a studio away.

    Raises:
        Typeface.DoesNotExist: there is none of that name.
        LetteringError: a mark of the studio uses it.
    """
    require_designer(actor, studio_id)
    Studio.objects.select_for_update().get(pk=studio_id)
    face = Typeface.objects.get(studio=studio_id, name=name)
    users = users_of(face)
    if users:
        raise LetteringError("face-in-use", name=name, users=listing(users))
    face.delete()


def users_of(face: Typeface) -> list[str]:
    """The names of the marks that use a face as they stand."""
    used = Mark.objects.filter(brand__studio=face.studio_id, current__plan__steps__contains=[{"face": face.name}])
    return list(used.values_list("name", flat=True))
