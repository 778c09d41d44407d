"""What is answered where an evaluator gave no answer: others keep it busy, or the work was ended. Nothing is broken
then, and nothing was changed.
"""

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render

from web.evaluation.evaluators import Busy, Stopped
from web.tracing import Answer


class Unanswered:
    """503 for pages that do not say it in their own way."""

    def __init__(self, answer: Answer) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """The answer as it is."""
        return self.answer(request)

    def process_exception(self, request: HttpRequest, error: Exception) -> HttpResponse | None:
        """What kept it, as a page, or as JSON where that was asked for; other errors are faults."""
        if not isinstance(error, Busy | Stopped):
            return None
        if request.content_type == "application/json" or "application/json" in request.headers.get("Accept", ""):
            return JsonResponse({"error": str(error), "code": "unanswered"}, status=503)
        return render(request, "503.html", {"why": str(error)}, status=503)
