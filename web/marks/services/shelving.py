"""Make brands and marks."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import IntegrityError, transaction

from kagami.plan.document import Plan
from web.marks.models import Brand, Mark, Revision


class NameTaken(ValueError):
    """The owner has a brand of that name already."""


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
            f"You have a brand called “{name}” already. Choose another name, or add to that one."
        ) from error


@transaction.atomic
def make_mark(brand: Brand, plan: Plan, words: str = "begun") -> Mark:
    """A new mark that begins with a plan; it is called as the plan is."""
    mark = Mark.objects.create(brand=brand, name=plan.title)
    mark.current = Revision.objects.create(mark=mark, number=1, plan=plan.model_dump(mode="json"), words=words)
    mark.save()
    return mark
