"""Who may see what: everyone their own; anything else is answered as if it were not there (404)."""

from django.contrib.auth.models import AbstractBaseUser
from django.shortcuts import get_object_or_404

from web.marks.models import Brand, Mark
from web.tracing import about


def brand_of(owner: AbstractBaseUser, brand_id: int) -> Brand:
    """The owner's brand, or 404."""
    return get_object_or_404(Brand, id=brand_id, owner=owner)


def mark_of(owner: AbstractBaseUser, mark_id: int) -> Mark:
    """The owner's mark with its brand and current revision, or 404."""
    mark = get_object_or_404(Mark.objects.select_related("brand", "current"), id=mark_id, brand__owner=owner)
    about(mark.pk, mark.current.number)
    return mark
