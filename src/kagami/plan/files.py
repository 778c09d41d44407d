"""Plan files of either form: JSON documents, and texts of sentences."""

from __future__ import annotations

import codecs

from kagami.plan.document import Plan, from_json
from kagami.plan.errors import DocumentError
from kagami.plan.wording.texts import plain_text


def load_plan(content: bytes) -> Plan:
    """The plan in a file: a JSON document when it begins with a brace, a text of sentences else.

    Raises:
        DocumentError: it is no plan.
        TextError: a line of the text cannot be read.
    """
    content = content.removeprefix(codecs.BOM_UTF8)
    if content.lstrip().startswith(b"{"):
        return from_json(content)
    from kagami.plan.language.text import parse_text  # it knows the sentences of all kinds: loaded for texts alone

    try:
        text = content.decode("utf-8")
        if not plain_text(text):
            raise DocumentError("not-storable")
        return parse_text(text)
    except UnicodeDecodeError as error:
        raise DocumentError("not-text", position=error.start) from error
