"""What was deleted while it was looked at is not found, as if it had been asked for a moment later."""

from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpRequest, HttpResponse
from django.views.defaults import page_not_found

from web.tracing import Answer


class Gone:
    """Rows that are read when they are needed may be gone by then."""

    def __init__(self, answer: Answer) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """The answer as it is."""
        return self.answer(request)

    def process_exception(self, request: HttpRequest, error: Exception) -> HttpResponse | None:
        """404 for a row that is gone; other errors are faults."""
        return page_not_found(request, error) if isinstance(error, ObjectDoesNotExist) else None
