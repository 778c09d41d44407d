"""From a live question to its answer, the same over a socket and by a plain request."""

from collections.abc import Mapping
from typing import Any, Final

from django.utils import translation
from django.utils.translation import gettext as _

from kagami.plan.errors import PlanError
from web import tracing
from web.bench.aim import aim
from web.bench.live.tokens import Seen, Stale, seen_by
from web.bench.preview import TRIED, preview, rested
from web.bench.state import looking
from web.evaluation.door import ask, ask_heavy
from web.evaluation.evaluators import Busy, Stopped
from web.evaluation.references import PlanReference
from web.marks.models import Revision

AIM: Final = "aim"
"""The question what lies under a hand."""
LANGUAGES: Final = 12
"""Characters of a language's code."""


def answer(question: Mapping[str, Any]) -> dict[str, Any]:
    """The answer to a question: `token` says who asks about which revision, `kind` and `given` what is tried, `state`
    what is looked at; `whole` asks for all of it, `rested` for the Mirror. `seq` comes back as it was given.
    """
    head = {"seq": question.get("seq")}
    try:
        seen = seen_by(str(question.get("token", "")))
    except Stale as error:
        return {**head, "error": str(error), "code": "stale-token"}
    noted = tracing.Noted(user_id=seen.user, mark=seen.mark, revision=seen.revision)
    with tracing.noting(noted), translation.override(_language(question)):
        return {**head, **_answered(question, seen)}


def _language(question: Mapping[str, Any]) -> str:
    wanted = str(question.get("language", ""))[:LANGUAGES]
    return wanted if translation.check_for_language(wanted) else "en-gb"


def _answered(question: Mapping[str, Any], seen: Seen) -> dict[str, Any]:
    kind, given = str(question.get("kind")), question.get("given")
    if kind not in (*TRIED, AIM) or not isinstance(given, dict):
        return {"error": _("This cannot be tried."), "code": "bad-request"}
    reference = PlanReference(seen.mark, seen.revision, lambda: _stored(seen), seen.studio)
    state = looking(question.get("state"))
    try:
        if kind == AIM:
            return ask(aim, reference, given, state)
        if question.get("rested") is True:
            return ask_heavy(rested, reference, reference.key, kind, given, state)
        return ask(preview, reference, reference.key, kind, given, state, question.get("whole") is True)
    except PlanError as error:
        return {"error": str(error), "code": error.code}
    except (Stopped, Busy) as error:
        return {"error": str(error), "code": "stopped"}
    except Revision.DoesNotExist:
        return {"error": _("This mark was removed in the meantime."), "code": "gone"}


def _stored(seen: Seen) -> dict[str, Any]:
    """The plan of a revision; asked for only where no evaluator knows it."""
    return Revision.objects.only("plan").get(mark=seen.mark, number=seen.revision).plan
