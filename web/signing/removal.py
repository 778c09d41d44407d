"""Accounts: removed with all that is theirs alone."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from web.accounts.models import Role
from web.marks.models import Mark
from web.marks.services.shelving import take_away


@transaction.atomic
def remove_account(user: AbstractBaseUser) -> None:
    """Remove an account. Studios in which nobody else is go with their brands, marks and revisions; a studio that
    others share stays, and where it would be left without an owner, who is there longest becomes one.
    """
    for studio in user.studios.all():
        others = studio.memberships.exclude(user=user)
        if not others.exists():
            for mark in Mark.objects.filter(brand__studio=studio):
                take_away(mark)
            studio.delete()
        elif not others.filter(role=Role.OWNER).exists():
            others.filter(pk=others.first().pk).update(role=Role.OWNER)
    user.delete()
