"""Addresses that take forms alone have no page: who comes to one without a form, as after a session that had ended
when the form was sent, is led to the page that the form stands on.
"""

from django.http import HttpRequest, HttpResponse, HttpResponseNotAllowed
from django.shortcuts import redirect
from django.urls import Resolver404, resolve

from web.tracing import Answer


class CameBack:
    """A redirect up the address, for browsers that ask for a page."""

    def __init__(self, answer: Answer) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """The answer as it is, or the way to the page."""
        answer = self.answer(request)
        wants_page = request.method == "GET" and request.accepts("text/html") and "Accept" in request.headers
        if not (isinstance(answer, HttpResponseNotAllowed) and wants_page):
            return answer
        return redirect(_page_above(request.path))


def _page_above(path: str) -> str:
    """The next address above one that is an address at all."""
    while path != "/":
        path = f"{path.rstrip('/').rpartition('/')[0]}/"
        try:
            resolve(path)
        except Resolver404:
            continue
        return path
    return path
