"""What a client sees by a link: one package, and nothing else."""

from django.contrib.auth.decorators import login_not_required
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe

from web.delivery.models import ClientLink
from web.delivery.package_views import handed_out
from web.delivery.services.handing import link_of


def _link(token: str) -> ClientLink:
    found = link_of(token)
    if found is None:
        raise Http404("There is no such link.")
    return found


@login_not_required
@never_cache
@require_safe
def handed(request: HttpRequest, token: str) -> HttpResponse:
    """The package: what it holds, to take."""
    link = _link(token)
    is_open = link.open and link.delivery.offered
    context = {"link": link, "delivery": link.delivery, "token": token, "open": is_open}
    response = render(request, "delivery/handed.html", context, status=200 if is_open else 410)
    response["X-Robots-Tag"] = "noindex"
    return response


@login_not_required
@never_cache
@require_safe
def take(request: HttpRequest, token: str) -> HttpResponse:
    """The ZIP."""
    link = _link(token)
    if not link.open or not link.delivery.offered:
        return render(request, "delivery/handed.html", {"link": link, "open": False}, status=410)
    return handed_out(link.delivery)
