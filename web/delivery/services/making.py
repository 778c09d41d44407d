"""Making a package: file by file, each read back; whole, it is stored, and then offered. Whatever ends the maker in the
middle leaves nothing behind that is offered, and the job is taken up again.
"""

import hashlib
import logging
from dataclasses import dataclass, field
from typing import Any, Final

from django.core.files.base import ContentFile
from django.db import transaction
from django.db.models import F
from django.utils import timezone
from django.utils.translation import gettext as _

from kagami.exchange.delivery.planning import Planned
from kagami.exchange.finished import NothingToDraw
from kagami.plan.errors import PlanError
from web.delivery.files import Made, files_planned, made_file
from web.delivery.models import Delivery, State
from web.delivery.zipping import zipped
from web.evaluation.door import ask_heavy
from web.evaluation.evaluators import Busy, Stopped
from web.marks.references import reference_to

LOG: Final = logging.getLogger(__name__)
MOST_TRIES: Final = 5
"""So often may what makes a package be ended in the middle, by being stopped or by what it makes."""
MOST_FAULT: Final = 400
MOST_BYTES: Final = 200_000_000


class _Cancelled(Exception):
    """It is no longer wanted."""


class _TooLarge(Exception):
    """The files are more than a package may hold."""


@dataclass
class _Files:
    """What was made so far."""

    sound: list[tuple[Planned, Made]] = field(default_factory=list)
    refused: list[dict[str, str]] = field(default_factory=list)
    bytes: int = 0


def make(delivery_id: int) -> None:
    """Make the package of a delivery, unless it is ready, cancelled or gone."""
    delivery = _begun(delivery_id)
    if delivery is None:
        return
    try:
        files = _made(delivery)
        _finish(delivery, files)
    except _Cancelled:
        LOG.info("package %s was cancelled", delivery_id)
    except (PlanError, NothingToDraw, Stopped, Busy, _TooLarge) as error:
        _fail(delivery, str(error))
    except Exception:
        _fail(delivery, _("Something went wrong while it was made. Make it again, or look at the mark's Bench."))
        raise


def _begun(delivery_id: int) -> Delivery | None:
    """The delivery, taken in hand; None where there is nothing to do."""
    with transaction.atomic():
        found = Delivery.objects.select_for_update(of=("self",)).filter(pk=delivery_id)
        delivery = found.select_related("mark__brand", "revision").first()
        if delivery is None or not delivery.under_way:
            return None
        delivery.tries += 1
        delivery.state, delivery.done = State.MAKING, 0
        if delivery.tries > MOST_TRIES:
            delivery.state = State.FAILED
            delivery.fault = _("Whatever made it was ended {times} times. Is the mark very large?").format(
                times=MOST_TRIES
            )
        delivery.save(update_fields=["tries", "state", "done", "fault"])
        return delivery if delivery.state == State.MAKING else None


def _made(delivery: Delivery) -> _Files:
    reference = reference_to(delivery.revision)
    planned = ask_heavy(files_planned, reference, delivery.brand_name)
    _progress(delivery, planned=len(planned), done=0)
    files = _Files()
    for done, one in enumerate(planned, 1):
        made: Made = ask_heavy(made_file, reference, one, delivery.brand_name, delivery.revision.number)
        if made.report.sound:
            files.sound.append((one, made))
        else:
            files.refused.append({"name": one.name, "why": "; ".join(made.report.faults)[:MOST_FAULT]})
        files.bytes += len(made.data)
        if files.bytes > MOST_BYTES:
            raise _TooLarge(_("The files are more than a package may hold. Ask for fewer or smaller pictures."))
        _progress(delivery, done=done)
    return files


def _progress(delivery: Delivery, **values: Any) -> None:
    """Note how far it is.

    Raises:
        _Cancelled: it is not wanted any more.
    """
    if not Delivery.objects.filter(pk=delivery.pk, state=State.MAKING).update(**values):
        raise _Cancelled


def _finish(delivery: Delivery, files: _Files) -> None:
    """Store the package, and offer it then."""
    data, contents = zipped(delivery, files.sound, files.refused)
    digest = hashlib.sha256(data).hexdigest()
    storage = delivery.package.storage
    # Under its digest: what is made again to equal bytes is the same file.
    wanted = f"packages/{delivery.pk}-{digest[:16]}.zip"
    name = wanted if storage.exists(wanted) else storage.save(wanted, ContentFile(data))
    with transaction.atomic():
        held = Delivery.objects.select_for_update(of=("self",)).filter(pk=delivery.pk, state=State.MAKING).first()
        if held is None:
            if not Delivery.objects.filter(package=name).exists():
                storage.delete(name)
            raise _Cancelled
        before = held.package.name
        held.equal = held.digest == digest if held.digest else None
        held.package.name, held.bytes, held.digest = name, len(data), digest
        held.contents, held.refused = contents, files.refused
        held.state, held.finished = State.READY, timezone.now()
        held.save()
    if before and before != name:
        storage.delete(before)


def _fail(delivery: Delivery, words: str) -> None:
    held = Delivery.objects.filter(pk=delivery.pk, state=State.MAKING)
    held.update(state=State.FAILED, fault=words[:MOST_FAULT], done=F("done"))
