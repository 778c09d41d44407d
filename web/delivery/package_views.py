"""Packages: ordered, watched, taken, made again, cancelled, removed; links to them made and revoked."""

from collections.abc import Callable
from typing import Final

from django.http import FileResponse, Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.utils.http import content_disposition_header
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST, require_safe

from kagami.plan.variants.naming import safe_name
from web.delivery.models import ClientLink, Delivery
from web.delivery.services import handing, ordering
from web.delivery.views import back, page
from web.marks.access import mark_of


@require_POST
def order(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Ask for a package of the mark as it stands."""
    mark = mark_of(request.user, mark_id)
    try:
        ordering.order(request.user, mark)
    except ordering.TooMany as error:
        return page(request, mark, str(error), 429)
    return back(mark_id, request.POST.get("at", "")[:100])


@require_safe
def progress(request: HttpRequest, mark_id: int) -> HttpResponse:
    """How far the packages are: a part of the page."""
    mark = mark_of(request.user, mark_id)
    return render(request, "delivery/_packages.html", {"mark": mark, "deliveries": ordering.packages_of(mark)})


def _delivery_of(request: HttpRequest, mark_id: int, number: int) -> Delivery:
    mark = mark_of(request.user, mark_id)
    return get_object_or_404(mark.deliveries.select_related("mark__brand", "revision"), number=number)


@require_safe
def take(request: HttpRequest, mark_id: int, number: int) -> HttpResponse:
    """The ZIP of a package."""
    return handed_out(_delivery_of(request, mark_id, number))


def handed_out(delivery: Delivery) -> HttpResponse:
    """The ZIP of a package as a download; 404 where it is not offered."""
    if not delivery.offered or not delivery.package.storage.exists(delivery.package.name):
        raise Http404(_("This package is not there. Make it again."))
    response = FileResponse(delivery.package.open("rb"), content_type="application/zip")
    name = f"{safe_name(f'{delivery.brand_name} {delivery.mark.name} package {delivery.number}')}.zip"
    response["Content-Disposition"] = content_disposition_header(True, name)
    response["X-Content-Type-Options"] = "nosniff"
    return response


_ACTS: Final[dict[str, Callable[..., None]]] = {
    "again": ordering.make_again,
    "cancel": ordering.cancel,
    "remove": ordering.remove,
}


@require_POST
def act(request: HttpRequest, mark_id: int, number: int) -> HttpResponse:
    """Make a package again, cancel or remove it."""
    delivery = _delivery_of(request, mark_id, number)
    wanted = _ACTS.get(request.POST.get("act", ""))
    if wanted is None:
        return page(request, delivery.mark, _("There is no such change here."), 400)
    wanted(request.user, delivery)
    return back(mark_id, request.POST.get("at", "")[:100])


@require_POST
def link(request: HttpRequest, mark_id: int, number: int) -> HttpResponse:
    """Make a link to a package that lasts so many `days`, or `revoke` one."""
    delivery = _delivery_of(request, mark_id, number)
    if "revoke" in request.POST:
        identity = request.POST["revoke"][:40]
        found = get_object_or_404(
            ClientLink.objects.select_related("delivery__mark__brand"), delivery=delivery, identity=identity
        )
        handing.revoke_link(request.user, found)
        return back(mark_id, request.POST.get("at", "")[:100])
    days = request.POST.get("days", "")
    try:
        handing.make_link(request.user, delivery, int(days) if days.isdecimal() and len(days) < 5 else 0)
    except handing.NoLink as error:
        return page(request, delivery.mark, str(error), 422)
    return back(mark_id, request.POST.get("at", "")[:100])
