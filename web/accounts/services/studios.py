"""Studios and who belongs to them."""

from django.contrib.auth import get_user_model
from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from web.accounts.models import STUDIO_NAME_LENGTH, Membership, Role, Studio


@transaction.atomic
def make_studio(actor: AbstractBaseUser, name: str) -> Studio:
    """A new studio, owned by who makes it."""
    studio = Studio.objects.create(name=name[:STUDIO_NAME_LENGTH])
    Membership.objects.create(studio=studio, user=actor, role=Role.OWNER)
    return studio


@transaction.atomic
def own_studio(actor: AbstractBaseUser) -> Studio:
    """The studio that somebody's new brands go to: the first in which they may change things, else a new one of their
    own.
    """
    get_user_model().objects.select_for_update().get(pk=actor.pk)  # two first brands at once make one studio
    found = actor.memberships.exclude(role=Role.VIEWER).select_related("studio").first()
    return found.studio if found else make_studio(actor, actor.get_username())


def add_member(studio: Studio, user: AbstractBaseUser, role: Role) -> None:
    """Let somebody take part in a studio, or change what they may do there."""
    Membership.objects.update_or_create(studio=studio, user=user, defaults={"role": role})
