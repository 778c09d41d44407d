"""Who may do what. Everybody sees what belongs to their studios, anything else is answered as if it were not there
(404); viewers of a studio change nothing (403).
"""

from django.contrib.auth.models import AbstractBaseUser
from django.core.exceptions import PermissionDenied
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from web.accounts.models import Membership, Role
from web.marks.models import Brand, Mark
from web.tracing import about


def brands_of(actor: AbstractBaseUser) -> QuerySet[Brand]:
    """All brands of somebody's studios."""
    return Brand.objects.filter(studio__members=actor)


def marks_of(actor: AbstractBaseUser) -> QuerySet[Mark]:
    """All marks of somebody's studios."""
    return Mark.objects.filter(brand__studio__members=actor)


def designed_by(actor: AbstractBaseUser) -> QuerySet[Mark]:
    """All marks that somebody may change."""
    designers = Membership.objects.filter(user=actor).exclude(role=Role.VIEWER)
    return Mark.objects.filter(brand__studio__memberships__in=designers)


def brand_of(actor: AbstractBaseUser, brand_id: int) -> Brand:
    """A brand of somebody's studios, or 404."""
    return get_object_or_404(brands_of(actor), id=brand_id)


def mark_of(actor: AbstractBaseUser, mark_id: int) -> Mark:
    """A mark of somebody's studios with its brand and current revision, or 404."""
    # The plan itself is fetched when it is asked for: whoever evaluates may know it already.
    found = marks_of(actor).select_related("brand", "current").defer("current__plan", "current__picture")
    mark = get_object_or_404(found, id=mark_id)
    about(mark.pk, mark.current.number)
    return mark


def require_designer(actor: AbstractBaseUser, studio_id: int) -> None:
    """Refuse who may only look, or has nothing to do with a studio.

    Raises:
        PermissionDenied: they are no owner or designer there.
    """
    allowed = Membership.objects.filter(studio=studio_id, user=actor).exclude(role=Role.VIEWER)
    if not allowed.exists():
        raise PermissionDenied
