"""Packages: asked for, cancelled, made again. The making itself is a job of the queue (see `making`)."""

from typing import Final

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Max
from django.utils.translation import gettext as _

from web.delivery.models import Delivery, State
from web.delivery.tasks import make_package
from web.marks.access import require_designer
from web.marks.models import Mark

MOST_UNDER_WAY: Final = 3
"""Packages of one mark that wait or are made at once."""
MOST: Final = 200
"""Packages of one mark that are kept."""


class TooMany(Exception):
    """No further package of this mark is taken just now."""


@transaction.atomic
def order(actor: AbstractBaseUser, mark: Mark) -> Delivery:
    """Ask for a package of the mark as it stands. One of the same revision that is under way is answered instead.

    Raises:
        PermissionDenied: the actor may only look.
        TooMany: others are under way, or there are as many as are kept.
    """
    require_designer(actor, mark.brand.studio_id)
    held = Mark.objects.select_for_update().get(pk=mark.pk)
    others = Delivery.objects.filter(mark=held)
    under_way = list(others.filter(state__in=(State.WAITING, State.MAKING)))
    same = next((one for one in under_way if one.revision_id == held.current_id), None)
    if same is not None:
        return same
    if len(under_way) >= MOST_UNDER_WAY:
        raise TooMany(_("Other packages of this mark are being made. Wait for one of them, or cancel it."))
    if others.count() >= MOST:
        raise TooMany(_("There are {most} packages of this mark. Remove one first.").format(most=MOST))
    number = (others.aggregate(last=Max("number"))["last"] or 0) + 1
    delivery = Delivery.objects.create(
        mark=held, revision=held.current, number=number, brand_name=mark.brand.name, author=actor
    )
    _enqueue(delivery)
    return delivery


@transaction.atomic
def make_again(actor: AbstractBaseUser, delivery: Delivery) -> None:
    """Make a package once more from the revision that it came from.

    Raises:
        PermissionDenied: the actor may only look.
    """
    require_designer(actor, delivery.mark.brand.studio_id)
    held = Delivery.objects.select_for_update(of=("self",)).get(pk=delivery.pk)
    if held.under_way:
        return
    held.state, held.done, held.fault, held.tries = State.WAITING, 0, "", 0
    held.save(update_fields=["state", "done", "fault", "tries"])
    _enqueue(held)


@transaction.atomic
def cancel(actor: AbstractBaseUser, delivery: Delivery) -> None:
    """Stop what is under way; a package that was whole before stays so.

    Raises:
        PermissionDenied: the actor may only look.
    """
    require_designer(actor, delivery.mark.brand.studio_id)
    held = Delivery.objects.select_for_update(of=("self",)).get(pk=delivery.pk)
    if held.under_way:
        held.state = State.READY if held.package else State.CANCELLED
        held.save(update_fields=["state"])


@transaction.atomic
def remove(actor: AbstractBaseUser, delivery: Delivery) -> None:
    """Remove a package, with its file and its links.

    Raises:
        PermissionDenied: the actor may only look.
    """
    require_designer(actor, delivery.mark.brand.studio_id)
    delivery.delete()


def packages_of(mark: Mark) -> list[Delivery]:
    """All packages of a mark, with what their rows show."""
    found = mark.deliveries.select_related("revision", "author").defer("revision__plan", "contents")
    return list(found.prefetch_related("links"))


def _enqueue(delivery: Delivery) -> None:
    """Within the transaction: the job is there if and only if the package is. One job of a package runs at a time."""
    make_package.configure(lock=f"delivery-{delivery.pk}").defer(delivery_id=delivery.pk)
