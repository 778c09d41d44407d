"""Make, rename, copy and remove brands and marks."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import IntegrityError, transaction
from django.utils.translation import gettext as _

from kagami.plan import limits
from kagami.plan.document import Plan
from web.accounts.services.studios import own_studio
from web.evaluation.door import ask
from web.evaluation.references import unsaved
from web.marks.access import require_designer
from web.marks.models import Brand, Mark, Revision
from web.marks.services.works import picture_data


class NameTaken(ValueError):
    """The studio has a brand of that name already."""


class HasMarks(ValueError):
    """The brand is not empty."""


def make_brand(actor: AbstractBaseUser, name: str) -> Brand:
    """A new brand of the actor's studio.

    Raises:
        NameTaken: the studio has one of that name.
    """
    try:
        with transaction.atomic():
            return Brand.objects.create(studio=own_studio(actor), name=name)
    except IntegrityError as error:
        raise NameTaken(
            _("You have a brand called “{name}” already. Choose another name, or add to that one.").format(name=name)
        ) from error


def rename_brand(actor: AbstractBaseUser, brand: Brand, name: str) -> None:
    """Give a brand another name.

    Raises:
        NameTaken: its studio has another one of that name.
    """
    require_designer(actor, brand.studio_id)
    brand.name = name
    try:
        with transaction.atomic():
            brand.save()
    except IntegrityError as error:
        raise NameTaken(
            _("You have a brand called “{name}” already. Choose another name.").format(name=name)
        ) from error


def remove_brand(actor: AbstractBaseUser, brand: Brand) -> None:
    """Take an empty brand off the Shelf.

    Raises:
        HasMarks: it is not empty.
    """
    require_designer(actor, brand.studio_id)
    if brand.marks.exists():
        text = _("“{name}” still has marks. Remove them one by one first, so that none goes unseen.")
        raise HasMarks(text.format(name=brand.name))
    brand.delete()


@transaction.atomic
def copy_mark(actor: AbstractBaseUser, mark: Mark) -> Mark:
    """A new mark of the same brand that begins where this one stands; its past stays with this one."""
    plan = mark.current.load()
    taken = set(mark.brand.marks.values_list("name", flat=True))
    stem = plan.title[: limits.NAME_LENGTH - len(" copy 1000")]
    names = (f"{stem} copy", *(f"{stem} copy {number}" for number in range(2, 1000)))
    title = next((name for name in names if name not in taken), names[0])
    return make_mark(actor, mark.brand, plan.model_copy(update={"title": title}), f"copied from {mark.name}")


@transaction.atomic
def remove_mark(actor: AbstractBaseUser, mark: Mark) -> None:
    """Take a mark off the Shelf, with all its revisions; a change that is under way ends first."""
    require_designer(actor, mark.brand.studio_id)
    take_away(mark)


def take_away(mark: Mark) -> None:
    """Remove a mark with all its revisions, within a transaction; a change that is under way ends first."""
    Mark.objects.select_for_update().filter(pk=mark.pk).first()
    Mark.objects.filter(pk=mark.pk).update(current=None)
    mark.revisions.update(parent=None)
    mark.revisions.all().delete()
    mark.delete()


@transaction.atomic
def make_mark(actor: AbstractBaseUser, brand: Brand, plan: Plan, words: str = "begun") -> Mark:
    """A new mark that begins with a plan; it is called as the plan is."""
    require_designer(actor, brand.studio_id)
    mark = Mark.objects.create(brand=brand, name=plan.title)
    mark.current = first = Revision(mark=mark, number=1, author=actor, words=words)
    first.plan, first.picture = plan.model_dump(mode="json"), ask(picture_data, unsaved(plan, brand.studio_id))
    first.save()
    mark.save()
    return mark
