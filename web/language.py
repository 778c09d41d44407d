"""The plan speaks the language of the request."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.utils.translation import gettext

from kagami.plan.translation import speaking


def spoken_language(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: within a request the plan's texts come from Django's catalogues."""

    def answer(request: HttpRequest) -> HttpResponse:
        with speaking(gettext):
            return get_response(request)

    return answer
