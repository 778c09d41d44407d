"""What is answered when something broke: a page, or JSON where that was asked for, with the id that is in the log."""

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.utils.translation import gettext as _


def broken(request: HttpRequest) -> HttpResponse:
    """The answer with status 500."""
    number = getattr(request, "kagami_id", "")
    if request.content_type == "application/json" or "application/json" in request.headers.get("Accept", ""):
        text = _("Something broke on our side (number {number}). What was saved is safe; try again.")
        return JsonResponse({"error": text.format(number=number), "code": "broken"}, status=500)
    return render(request, "500.html", {"number": number}, status=500)
