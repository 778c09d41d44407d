"""Writes locale/kagami.pot, the template of translations, from the code; a test says when it is stale.

    ./kagami manage shell -c "import runpy; runpy.run_path('locale/write_template.py', run_name='__main__')"

A language is added by filling in a copy as `locale/CODE/LC_MESSAGES/django.po` and compiling it with Babel:
`.kagami/venv/bin/pybabel compile -d locale -D django`.
"""

from __future__ import annotations

import io
import pathlib
from collections.abc import Iterator
from typing import Final

from babel.messages.catalog import Catalog
from babel.messages.extract import extract
from babel.messages.pofile import write_po
from django.utils.translation.template import templatize

from kagami.exchange.delivery.forms import FORMS
from kagami.exchange.delivery.receivers import RECEIVERS
from kagami.plan.catalogue import texts
from kagami.plan.changes.reforming import LABELS
from kagami.plan.changes.round_figures import LABELS as TAKEN_AS
from web.bench.keys import KEYS
from web.bench.panel import HEADINGS, NOTES
from web.bench.state import VIEWS
from web.bench.tasks import TASKS
from web.bench.words import WORDS

ROOT: Final = pathlib.Path(__file__).parents[1]
FILE: Final = pathlib.Path(__file__).parent / "kagami.pot"
HEAD: Final = """# Texts of the plan and of the pages. Made by locale/write_template.py.
msgid ""
msgstr ""
"Content-Type: text/plain; charset=UTF-8\\n"
"Content-Transfer-Encoding: 8bit\\n"
"Plural-Forms: nplurals=2; plural=(n != 1);\\n"
"""
KEYWORDS: Final = {"_": None, "gettext": None, "gettext_lazy": None, "ngettext": (1, 2)}
"""Functions that translate, and which of their arguments are texts."""


def template() -> str:
    """The content of the file."""
    catalogue = Catalog()
    for found, use in [*texts().items(), *_of_pages()]:
        known = catalogue.get(found[0] if isinstance(found, tuple) else found)
        if known is None:
            catalogue.add(found, auto_comments=[use])
        elif isinstance(found, tuple):  # a text that has a plural somewhere has it everywhere
            known.id, known.string = found, ("", "")
    file = io.BytesIO()
    write_po(file, catalogue, width=0, omit_header=True)
    return HEAD + "\n" + file.getvalue().decode()


def _of_pages() -> Iterator[tuple[str | tuple[str, ...], str]]:
    for text in (
        *HEADINGS.values(),
        *NOTES.values(),
        *WORDS.values(),
        *VIEWS,
        *(t for t, _ in TASKS),
        *LABELS,
        *TAKEN_AS,
        *(part for key in KEYS for part in key),
    ):
        yield text, "web/bench"
    for text in (*(form.purpose for form in FORMS.values()), *(receiver.name for receiver in RECEIVERS)):
        yield text, "web/delivery"
    for path in sorted((ROOT / "web").rglob("*.py")):
        if "migrations" not in path.parts and "node_modules" not in path.parts:
            yield from ((found, str(path.relative_to(ROOT))) for found in _calls(path.read_text(encoding="utf-8")))
    for path in sorted((ROOT / "web").glob("**/templates/**/*.html")):
        # Django turns a template into calls among characters that say nothing; these stand in lines of any indent.
        source = templatize(path.read_text(encoding="utf-8"), origin=str(path))
        flat = "\n".join(line.strip() for line in source.splitlines())
        yield from ((found, str(path.relative_to(ROOT))) for found in _calls(flat))


def _calls(source: str) -> Iterator[str | tuple[str, ...]]:
    """Texts in the calls of Python code that translate."""
    for _line, found, _comments, _context in extract("python", io.BytesIO(source.encode()), keywords=KEYWORDS):
        yield found


if __name__ == "__main__":
    FILE.write_text(template(), encoding="utf-8")
