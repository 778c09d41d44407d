"""Writes locale/kagami.pot, the template of translations, from the code; a test says when it is stale.

A language is added by filling in a copy as `locale/CODE/LC_MESSAGES/django.po` and compiling it. Source of the format:
GNU gettext utilities manual, chapter “The Format of PO Files”.
"""

from __future__ import annotations

import pathlib
from typing import Final

from kagami.plan.catalogue import texts

FILE: Final = pathlib.Path(__file__).parent / "kagami.pot"
HEAD: Final = """# Texts of the plan. Made by locale/write_template.py.
msgid ""
msgstr ""
"Content-Type: text/plain; charset=UTF-8\\n"
"Content-Transfer-Encoding: 8bit\\n"
"""


def template() -> str:
    """The content of the file."""
    entries = [f'#. {use}\nmsgid "{_quoted(text)}"\nmsgstr ""\n' for text, use in texts().items()]
    return "\n".join([HEAD, *entries])


def _quoted(text: str) -> str:
    return text.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\n")


if __name__ == "__main__":
    FILE.write_text(template(), encoding="utf-8")
