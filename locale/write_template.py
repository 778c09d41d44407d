"""Writes locale/kagami.pot, the template of translations, from the code; a test says when it is stale.

    ./kagami manage shell -c "import runpy; runpy.run_path('locale/write_template.py', run_name='__main__')"

A language is added by filling in a copy as `locale/CODE/LC_MESSAGES/django.po` and compiling it. Source of the format:
GNU gettext utilities manual, chapter “The Format of PO Files”.
"""

from __future__ import annotations

import ast
import pathlib
import re
from collections.abc import Iterator
from typing import Final

from django.utils.translation.template import templatize

from kagami.plan.language.catalogue import texts
from web.bench.panel import HEADINGS, NOTES
from web.bench.state import VIEWS
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
CALLS: Final = {"_": 1, "gettext": 1, "gettext_lazy": 1, "ngettext": 2}
"""Functions that translate, and how many of their arguments are texts."""
_TEXT: Final = r"u?(?:'(?:[^'\\]|\\.)*'|\"(?:[^\"\\]|\\.)*\")"
_CALL: Final = re.compile(rf"n?gettext\({_TEXT}(?:, *{_TEXT})?(?:, *\w+)?\)")


def template() -> str:
    """The content of the file."""
    entries: dict[tuple[str, ...], str] = {}
    for found, use in [*(((text,), use) for text, use in texts().items()), *_of_pages()]:
        entries.setdefault(found, use)
    # A text that has a plural somewhere has it everywhere.
    plural = {found[0] for found in entries if len(found) > 1}
    rows = [_entry(found, use) for found, use in entries.items() if len(found) > 1 or found[0] not in plural]
    return "\n".join([HEAD, *rows])


def _of_pages() -> Iterator[tuple[tuple[str, ...], str]]:
    for text in (*HEADINGS.values(), *NOTES.values(), *WORDS.values(), *VIEWS):
        yield (text,), "web/bench"
    for path in sorted((ROOT / "web").rglob("*.py")):
        if "migrations" not in path.parts and "node_modules" not in path.parts:
            yield from ((found, str(path.relative_to(ROOT))) for found in _calls(path.read_text(encoding="utf-8")))
    for path in sorted((ROOT / "web").glob("**/templates/**/*.html")):
        source = templatize(path.read_text(encoding="utf-8"), origin=str(path))
        yield from ((found, str(path.relative_to(ROOT))) for found in _template_calls(source))


def _calls(source: str) -> Iterator[tuple[str, ...]]:
    """Texts in the calls of Python code that translate."""
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in CALLS:
            given = [argument.value for argument in node.args if isinstance(argument, ast.Constant)]
            found = tuple(str(value) for value in given[: CALLS[node.func.id]])
            if found:
                yield found


def _template_calls(source: str) -> Iterator[tuple[str, ...]]:
    """Texts in what Django makes of a template for extraction: calls among characters that say nothing."""
    for call in _CALL.finditer(source):
        yield from _calls(call[0])


def _entry(found: tuple[str, ...], use: str) -> str:
    if len(found) == 1:
        return f'#. {use}\nmsgid "{_quoted(found[0])}"\nmsgstr ""\n'
    ends = 'msgstr[0] ""\nmsgstr[1] ""\n'
    return f'#. {use}\nmsgid "{_quoted(found[0])}"\nmsgid_plural "{_quoted(found[1])}"\n{ends}'


def _quoted(text: str) -> str:
    return text.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\n")


if __name__ == "__main__":
    FILE.write_text(template(), encoding="utf-8")
