"""Make, rename, copy and remove brands and marks."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import IntegrityError, transaction
from django.utils.translation import gettext as _

from kagami.plan import limits
from kagami.plan.document import Plan
from web.marks.models import Brand, Mark, Revision


class NameTaken(ValueError):
    """The owner has a brand of that name already."""


class HasMarks(ValueError):
    """The brand is not empty."""


def make_brand(owner: AbstractBaseUser, name: str) -> Brand:
    """A new brand.

    Raises:
        NameTaken: the owner has one of that name.
    """
    try:
        with transaction.atomic():
            return Brand.objects.create(owner=owner, name=name)
    except IntegrityError as error:
        raise NameTaken(
            _("You have a brand called “{name}” already. Choose another name, or add to that one.").format(name=name)
        ) from error


def rename_brand(brand: Brand, name: str) -> None:
    """Give a brand another name.

    Raises:
        NameTaken: its owner has another one of that name.
    """
    brand.name = name
    try:
        with transaction.atomic():
            brand.save()
    except IntegrityError as error:
        raise NameTaken(
            _("You have a brand called “{name}” already. Choose another name.").format(name=name)
        ) from error


def remove_brand(brand: Brand) -> None:
    """Take an empty brand off the Shelf.

    Raises:
        HasMarks: it is not empty.
    """
    if brand.marks.exists():
        text = _("“{name}” still has marks. Remove them one by one first, so that none goes unseen.")
        raise HasMarks(text.format(name=brand.name))
    brand.delete()


@transaction.atomic
def copy_mark(mark: Mark) -> Mark:
    """A new mark of the same brand that begins where this one stands; its past stays with this one."""
    plan = mark.current.load()
    taken = set(mark.brand.marks.values_list("name", flat=True))
    stem = plan.title[: limits.NAME_LENGTH - len(" copy 1000")]
    names = (f"{stem} copy", *(f"{stem} copy {number}" for number in range(2, 1000)))
    title = next((name for name in names if name not in taken), names[0])
    return make_mark(mark.brand, plan.model_copy(update={"title": title}), f"copied from {mark.name}")


@transaction.atomic
def remove_mark(mark: Mark) -> None:
    """Take a mark off the Shelf, with all its revisions; a change that is under way ends first."""
    Mark.objects.select_for_update().filter(pk=mark.pk).first()
    Mark.objects.filter(pk=mark.pk).update(current=None)
    mark.revisions.update(parent=None)
    mark.revisions.all().delete()
    mark.delete()


@transaction.atomic
def make_mark(brand: Brand, plan: Plan, words: str = "begun") -> Mark:
    """A new mark that begins with a plan; it is called as the plan is."""
    mark = Mark.objects.create(brand=brand, name=plan.title)
    mark.current = Revision.objects.create(mark=mark, number=1, plan=plan.model_dump(mode="json"), words=words)
    mark.save()
    return mark
