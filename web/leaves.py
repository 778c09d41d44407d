"""What pages have in common whose forms come back as the whole page (see `static/js/leaves.js`): what a request says,
a change, and undo and redo.
"""

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse, QueryDict

from kagami.plan import limits
from kagami.plan.errors import PlanError
from web.evaluation.evaluators import Stopped
from web.marks.access import mark_of
from web.marks.models import Mark
from web.marks.services import history

Page = Callable[..., HttpResponse]
"""Renders a page: request, mark, what went wrong, status."""


def text_in(data: QueryDict, name: str, most: int = limits.EXPRESSION_LENGTH) -> str:
    """A text of a form, no longer than it may be."""
    return str(data.get(name, ""))[:most].strip()


def number_in(data: QueryDict, name: str, usual: int = 0) -> int:
    """A whole number of a form."""
    text = text_in(data, name, 6)
    return int(text) if text.removeprefix("-").isdecimal() else usual


def base_of(request: HttpRequest) -> int:
    """The revision from which a form started."""
    text = request.POST.get("base", "")
    return int(text) if text.isdecimal() and len(text) < 12 else 0


def looked_at(request: HttpRequest) -> str:
    """The name of what is looked at on the page."""
    return (request.POST if request.method == "POST" else request.GET).get("at", "")[: limits.NAME_LENGTH]


def changed(
    request: HttpRequest, mark: Mark, kind: str, given: dict[str, Any], page: Page
) -> history.Made | HttpResponse:
    """What a change made of a mark; or the page with why it could not be made."""
    try:
        return history.make_change(request.user, mark, base_of(request), kind, given)
    except history.StaleRevision as error:
        return page(request, mark_of(request.user, mark.id), str(error), 409)
    except (PlanError, Stopped) as error:
        return page(request, mark, str(error), 422)


def walked(request: HttpRequest, mark_id: int, page: Page, back: Callable[[], HttpResponse]) -> HttpResponse:
    """Undo or redo, and back to the page; or the page with why not."""
    mark = mark_of(request.user, mark_id)
    step = history.redo if request.POST.get("way") == "redo" else history.undo
    try:
        step(request.user, mark, base_of(request))
    except history.StaleRevision as error:
        return page(request, mark_of(request.user, mark_id), str(error), 409)
    except history.NothingFurther as error:
        return page(request, mark, str(error), 422)
    return back()
