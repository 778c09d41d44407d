"""Accounts: removed with all that they own."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from web.marks.models import Mark
from web.marks.services.shelving import remove_mark


@transaction.atomic
def remove_account(user: AbstractBaseUser) -> None:
    """Remove an account, its brands, their marks and every revision of these."""
    for mark in Mark.objects.filter(brand__owner=user):
        remove_mark(mark)
    user.delete()
