"""A mark is held while it is changed, and a change is made once."""

from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.utils.translation import gettext as _

from web.marks.access import designed_by, require_designer
from web.marks.models import Handled, Mark


class MarkGone(Exception):
    """The mark was removed in the meantime."""


def held(actor: AbstractBaseUser, mark: Mark) -> Mark:
    """The mark, held against other changes until the transaction ends; the actor may change it.

    Raises:
        PermissionDenied: they may only look.
        MarkGone: the mark was removed.
    """
    # One that waited for the lock would join the row's new state with revisions of before the wait: so no revision is
    # joined, but memberships may be.
    found = designed_by(actor).select_for_update(of=("self",)).filter(pk=mark.pk).first()
    if found is not None:
        found.brand = mark.brand  # marks stay with their brand, and a revision never changes: what was read still holds
        if found.current_id == mark.current_id:
            found.current = mark.current
        return found
    require_designer(actor, mark.brand.studio_id)
    raise MarkGone(_("This mark was removed in the meantime."))


def handled(mark: Mark, identity: UUID | None) -> Handled | None:
    """The change of an id, where it was made already."""
    return mark.handled.filter(change=identity).first() if identity else None


def remember(mark: Mark, identity: UUID | None, step: str | None = None) -> None:
    """Note that the change of an id is made, and which step it was about."""
    if identity:
        Handled.objects.create(mark=mark, change=identity, step=step or "")
