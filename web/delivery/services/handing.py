"""Links for clients: made, found, revoked."""

import datetime
from typing import Final

from django.contrib.auth.models import AbstractBaseUser
from django.core import signing
from django.utils import timezone
from django.utils.translation import gettext as _

from web.delivery.models import SALT, ClientLink, Delivery
from web.marks.access import require_designer

MOST_DAYS: Final = 366
MOST_LINKS: Final = 50
"""Of one package."""


class NoLink(Exception):
    """No link can be made of that."""


def make_link(actor: AbstractBaseUser, delivery: Delivery, days: int) -> ClientLink:
    """A link that shows a package for so many days.

    Raises:
        PermissionDenied: the actor may only look.
        NoLink: the package is not offered, the days are too many, or there are too many links.
    """
    require_designer(actor, delivery.mark.brand.studio_id)
    if not delivery.offered:
        raise NoLink(_("This package is not ready, so it cannot be handed out."))
    if not 1 <= days <= MOST_DAYS:
        raise NoLink(_("A link lasts from 1 to {most} days.").format(most=MOST_DAYS))
    if delivery.links.filter(revoked=None).count() >= MOST_LINKS:
        raise NoLink(_("There are many links to this package. Revoke one first."))
    until = timezone.now() + datetime.timedelta(days=days)
    return ClientLink.objects.create(delivery=delivery, until=until, author=actor)


def revoke_link(actor: AbstractBaseUser, link: ClientLink) -> None:
    """End a link at once.

    Raises:
        PermissionDenied: the actor may only look.
    """
    require_designer(actor, link.delivery.mark.brand.studio_id)
    if link.revoked is None:
        link.revoked = timezone.now()
        link.save(update_fields=["revoked"])


def link_of(token: str) -> ClientLink | None:
    """The link of an address, whether it is open or not; None where nobody made such a one."""
    try:
        identity = signing.Signer(salt=SALT).unsign(token)
    except signing.BadSignature:
        return None
    return ClientLink.objects.select_related("delivery__mark__brand").filter(identity=identity).first()
