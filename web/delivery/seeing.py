"""A file as it looks, whatever its form: a picture of it, for the page. Work for evaluators."""

import io
from typing import Final

import numpy as np
from django.utils.translation import gettext as _
from PIL import Image

from kagami.exchange.delivery.forms import FORMS
from kagami.exchange.delivery.reading_back import pdf_picture
from kagami.exchange.png import picture_of
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.forms import ground_of
from web.delivery.files import files_planned, made_file

WIDE: Final = 720
HIGH: Final = 480
WHITE: Final = "#ffffff"


class NotSeen(ValueError):
    """It is no file that has a look."""


def seen_file(plan: Plan, cache: Cache, name: str, brand: str, change: int) -> bytes:
    """A PNG of a file of the package as another library draws it, on its ground; small pictures so much larger that
    their pixels are seen.

    Raises:
        NotSeen: there is no such file, or it is no picture.
    """
    planned = next((one for one in files_planned(plan, cache, brand) if one.name == name), None)
    form = FORMS[planned.form] if planned is not None else None
    if planned is None or form is None or form.ending not in ("svg", "pdf", "png", "webp", "ico"):
        raise NotSeen(_("This file is no picture."))
    made = made_file(plan, cache, planned, brand, change)
    if not made.data or not made.report.sound:
        raise NotSeen(_("This file is not handed out."))
    variant = plan.variant(planned.variant)
    ground = ground_of(evaluate(plan, cache), variant) if variant is not None and not form.sheet else WHITE
    width, height = made.report.size
    scale = min(WIDE / width, HIGH / height)
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    if form.ending == "svg":
        drawn = Image.fromarray(picture_of(made.data.decode(), *size).astype(np.uint8), "RGBA")
    elif form.ending == "pdf":
        drawn = Image.fromarray(pdf_picture(made.data, *size, ground).astype(np.uint8), "RGB").convert("RGBA")
    else:
        with Image.open(io.BytesIO(made.data)) as opened:
            drawn = _larger(opened.convert("RGBA"))
    sheet = Image.new("RGBA", drawn.size, ground)
    sheet.alpha_composite(drawn)
    out = io.BytesIO()
    sheet.convert("RGB").save(out, "PNG")
    return out.getvalue()


def _larger(picture: Image.Image) -> Image.Image:
    """A picture a whole number of times larger, or as small as there is room for."""
    times = min(WIDE // picture.width, HIGH // picture.height)
    if times >= 1:
        return picture.resize((picture.width * times, picture.height * times), Image.Resampling.NEAREST)
    picture.thumbnail((WIDE, HIGH))
    return picture
