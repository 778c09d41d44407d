"""Change a mark, undo, redo. Each names the revision that it started from; nothing is lost silently."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Max
from django.utils.translation import gettext as _

from kagami.plan.document import from_data
from web.evaluation.door import ask
from web.marks.access import require_designer
from web.marks.models import Mark, Revision
from web.marks.references import current_of, reference_to
from web.marks.services.holding import handled, held, remember
from web.marks.services.shelving import make_mark
from web.marks.services.works import changed


class StaleRevision(Exception):
    """The mark has changed since the caller saw it."""

    def __init__(self, seen: int, current: int) -> None:
        super().__init__(
            _(
                "This mark was changed elsewhere: you saw change {seen}, it is now at change {current}. "
                "Your change was not made."
            ).format(seen=seen, current=current)
        )
        self.seen = seen
        self.current = current


class NothingFurther(Exception):
    """There is nothing (more) to undo or redo."""


@dataclass(frozen=True)
class Made:
    """The mark after a change, the step that the change was about, whether that is a carve, and whether there is
    something to redo.
    """

    mark: Mark
    can_redo: bool
    step: str | None = None
    is_carve: bool = False


@transaction.atomic
def make_change(
    actor: AbstractBaseUser, mark: Mark, base: int, kind: str, given: Mapping[str, Any], identity: UUID | None = None
) -> Made:
    """Change the mark's plan; a change that changes nothing makes no revision.

    With an `identity` the change is made once: sent again, it is recognised, and the mark as it stands is answered.

    Raises:
        StaleRevision: `base` is not the current revision.
        MarkGone: the mark was removed.
        PlanError: the change cannot be made.
    """
    mark = held(actor, mark)
    known = handled(mark, identity)
    if known is not None:
        return Made(mark, can_redo(mark), known.step or None)
    _require_newest(mark, base)
    number = mark.revisions.aggregate(last=Max("number"))["last"] + 1
    made = ask(changed, current_of(mark), kind, given, (mark.pk, number))
    if made.data is not None:
        revision = Revision(mark=mark, number=number, parent=mark.current, words=made.words[:200], author=actor)
        revision.plan, revision.picture = made.data, made.picture
        revision.save()
        _go_to(mark, revision)
    remember(mark, identity, made.step)
    redo_is_there = made.data is None and can_redo(mark)  # nothing was made from a new revision yet
    return Made(mark, redo_is_there, made.step, made.is_carve)


@transaction.atomic
def undo(actor: AbstractBaseUser, mark: Mark, base: int, identity: UUID | None = None) -> Made:
    """Go back to the revision before.

    Raises:
        StaleRevision: `base` is not the current revision.
        NothingFurther: this is the first one.
    """
    mark = held(actor, mark)
    if handled(mark, identity) is not None:
        return Made(mark, can_redo(mark))
    _require_newest(mark, base)
    if mark.current.parent_id is None:
        raise NothingFurther(_("There is nothing to undo: this is the mark as it was begun."))
    remember(mark, identity)
    _go_to(mark, mark.current.parent)
    return Made(mark, True)


@transaction.atomic
def redo(actor: AbstractBaseUser, mark: Mark, base: int, identity: UUID | None = None) -> Made:
    """Go on to the newest revision made from this one.

    Raises:
        StaleRevision: `base` is not the current revision.
        NothingFurther: none was.
    """
    mark = held(actor, mark)
    if handled(mark, identity) is not None:
        return Made(mark, can_redo(mark))
    _require_newest(mark, base)
    following = mark.current.children.order_by("-number").first()
    if following is None:
        raise NothingFurther(_("There is nothing to redo."))
    remember(mark, identity)
    _go_to(mark, following)
    return Made(mark, can_redo(mark))


@transaction.atomic
def keep_as_new(actor: AbstractBaseUser, mark: Mark, base: int, kind: str, given: Mapping[str, Any]) -> Mark:
    """A change that came too late, made to the revision that it was meant for, as a new mark of the brand.

    Raises:
        Revision.DoesNotExist: there is no such revision.
        PlanError: the change cannot be made.
    """
    require_designer(actor, mark.brand.studio_id)
    revision = mark.revisions.get(number=base)
    made = ask(changed, reference_to(revision), kind, given, (0, 0))
    plan = from_data(made.data or revision.plan)
    title = f"{plan.title[:30]} (other)"
    return make_mark(actor, mark.brand, plan.model_copy(update={"title": title}), f"kept apart from change {base}")


def can_redo(mark: Mark) -> bool:
    """Whether a revision was made from the current one."""
    return mark.current.children.exists()


def _require_newest(mark: Mark, base: int) -> None:
    if mark.current.number != base:
        raise StaleRevision(base, mark.current.number)


def _go_to(mark: Mark, revision: Revision) -> None:
    mark.current = revision
    mark.name = revision.plan["title"]
    mark.save(update_fields=["current", "name", "changed"])
