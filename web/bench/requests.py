"""Read JSON bodies within limits, and turn refusals into answers that say what is wrong."""

import functools
import json
import re
from collections.abc import Callable
from typing import Any, Final
from uuid import UUID

from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse, JsonResponse, RawPostDataException
from django.utils.translation import gettext as _

from kagami.geometry.point import Point
from kagami.plan.errors import PlanError
from kagami.plan.wording.texts import plain_text
from web.evaluation.evaluators import Busy, Stopped
from web.marks.services.history import NothingFurther, StaleRevision
from web.marks.services.holding import MarkGone

MOST_BYTES: Final = 64_000
MOST_FIELDS: Final = 6_000
"""Characters of a slip's fields in an address."""
_PLACE: Final = re.compile(r"(-?\d{1,6}(?:\.\d{1,12})?),(-?\d{1,6}(?:\.\d{1,12})?)")


class BadRequest(Exception):
    """A request that no page of ours makes."""

    def __init__(self, message: str, status: int = 400) -> None:
        super().__init__(message)
        self.status = status


def body_of(request: HttpRequest) -> dict[str, Any]:
    """The JSON object in a request's body.

    Raises:
        BadRequest: too large, or no JSON object.
    """
    length = request.META.get("CONTENT_LENGTH") or "0"
    if not length.isdecimal() or int(length) > MOST_BYTES:
        text = _("This change is too large: {length} bytes, and {most} is the most.")
        raise BadRequest(text.format(length=length, most=f"{MOST_BYTES:,}"), 413)
    try:
        data = json.loads(request.body)
    except (ValueError, RecursionError, RawPostDataException) as error:  # the last: it was taken in as a form
        raise BadRequest(_("The request is not readable as JSON.")) from error
    if not isinstance(data, dict):
        raise BadRequest(_("The request must be a JSON object."))
    if not _storable(data):
        text = _(
            "This holds signs that cannot be kept, such as a null sign or half of a pair. Type it anew without them."
        )
        raise BadRequest(text, 422)
    return data


def _storable(data: Any) -> bool:
    """Whether every text in a request can be stored: no null signs, no lone halves of surrogate pairs."""
    waiting = [data]
    while waiting:
        entry = waiting.pop()
        if isinstance(entry, dict):
            waiting.extend(entry.keys())
            waiting.extend(entry.values())
        elif isinstance(entry, list):
            waiting.extend(entry)
        elif isinstance(entry, str) and not plain_text(entry):
            return False
    return True


def fields_of(text: str) -> dict[str, Any]:
    """What stood in a slip, by its fields, from an address; nothing where it cannot be read."""
    if not 0 < len(text) <= MOST_FIELDS:
        return {}
    try:
        data = json.loads(text)
    except (ValueError, RecursionError):
        return {}
    return data if isinstance(data, dict) and _storable(data) else {}


def place_of(text: str) -> Point | None:
    """A place on the sheet from an address, `x,y` in u; none where it cannot be read."""
    found = _PLACE.fullmatch(text)
    return Point(float(found[1]), float(found[2])) if found else None


def identity_of(data: dict[str, Any]) -> UUID | None:
    """The id that the page gave to a change, if it did.

    Raises:
        BadRequest: it is no UUID.
    """
    given = data.get("id")
    if given is None:
        return None
    try:
        return UUID(str(given))
    except ValueError as error:
        raise BadRequest(_("The id of a change must be a UUID.")) from error


def base_of(data: dict[str, Any]) -> int:
    """The revision that a change started from.

    Raises:
        BadRequest: it is missing.
    """
    base = data.get("base")
    if not isinstance(base, int) or isinstance(base, bool):
        raise BadRequest(_("The request must name the revision that it started from, as “base”."))
    return base


def answers_refusals(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """Answer what a change refuses: 409 for a stale one, 422 for one that cannot be made, 400 for a broken request, 429
    where others keep the evaluator busy.
    """

    @functools.wraps(view)
    def answering(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        try:
            return view(request, *args, **kwargs)
        except StaleRevision as error:
            return JsonResponse({"error": str(error), "code": "stale", "current": error.current}, status=409)
        except PlanError as error:
            data = {"error": str(error), "code": error.code, "field": error.field}
            told = {name: error.values.get(name) for name in ("position", "mended", "nearest")}
            return JsonResponse({**data, **told}, status=422)
        except MarkGone as error:
            return JsonResponse({"error": str(error), "code": "gone"}, status=404)
        except NothingFurther as error:
            return JsonResponse({"error": str(error), "code": "nothing-further"}, status=422)
        except Stopped as error:
            return JsonResponse({"error": str(error), "code": "stopped"}, status=422)
        except Busy as error:
            return JsonResponse({"error": str(error), "code": "busy"}, status=429)
        except PermissionDenied:
            text = _("You may look at this mark, but not change it. An owner of its studio can let you.")
            return JsonResponse({"error": text, "code": "only-looking"}, status=403)
        except BadRequest as error:
            return JsonResponse({"error": str(error), "code": "bad-request"}, status=error.status)

    return answering
