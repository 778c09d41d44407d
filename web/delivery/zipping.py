"""A package as one ZIP with a readable page of contents. Equal files give equal bytes."""

import io
import zipfile
from collections.abc import Sequence
from typing import Any, Final

from django.template.loader import render_to_string

from kagami.exchange.delivery.planning import Planned
from web.delivery.files import Made
from web.delivery.models import Delivery
from web.delivery.telling import told

SINCE: Final = (1980, 1, 1, 0, 0, 0)
"""The time of every entry: the earliest that the format knows, so that equal files give equal bytes."""
CONTENTS: Final = "contents.html"


def zipped(
    delivery: Delivery, files: Sequence[tuple[Planned, Made]], refused: Sequence[dict[str, str]]
) -> tuple[bytes, list[dict[str, Any]]]:
    """The bytes of a package, and what it holds as its row keeps it."""
    contents = [
        {
            "name": planned.name,
            "variant": planned.variant,
            "purpose": made.purpose,
            "bytes": len(made.data),
            "read": told(made.report),
        }
        for planned, made in files
    ]
    page = render_to_string(
        "delivery/contents.html",
        {
            "title": delivery.revision.plan["title"],
            "brand": delivery.brand_name,
            "change": delivery.revision.number,
            "contents": contents,
            "refused": refused,
        },
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as package:
        for name, content in ((CONTENTS, page.encode()), *((planned.name, made.data) for planned, made in files)):
            entry = zipfile.ZipInfo(name, SINCE)
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = 0o644 << 16
            package.writestr(entry, content)
    return out.getvalue(), contents
