"""How short the files are: path data and nodes of every example beside what a general optimiser makes of them.

It is fetched by npm into the bench's own folder, and only for this part.
"""

from __future__ import annotations

import json
import pathlib
import re
import shutil
import subprocess
from typing import Final

from bench.paired import Row
from bench.plans import FOLDER
from kagami.exchange.finished import artwork
from kagami.exchange.svg import decimals_for, write_svg
from kagami.geometry.tolerance import STATED_ERROR
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan

OPTIMISER: Final = pathlib.Path(__file__).parent / "optimiser"
_DATA: Final = re.compile(r' d="([^"]*)"')
FORMS: Final = {"for pages": True, "for print": False}


def rows() -> list[Row]:
    """For every example and both forms of file: characters of path data, and commands, of ours and of the optimiser's.

    Raises:
        RuntimeError: there is no npm, or it could not bring the optimiser.
    """
    _bring()
    plans = [load_plan(file.read_bytes()) for file in sorted([*FOLDER.glob("demo/*.json"), *FOLDER.glob("jobs/*")])]
    arts = [(plan.title, artwork(plan, evaluate(plan))) for plan in plans]
    found: list[Row] = []
    for form, sparing in FORMS.items():
        files = [write_svg(art, error=STATED_ERROR, sparing=sparing) for _, art in arts]
        for (title, _), ours, theirs in zip(arts, files, _optimised(files), strict=True):
            found.append(_row(f"{title}, {form}", len(_data(ours)), len(_data(theirs)), "characters"))
            found.append(_row(f"{title}, {form}", _commands(ours), _commands(theirs), "commands"))
    return found


def _bring() -> None:
    npm = shutil.which("npm")
    if npm is None:
        raise RuntimeError("npm was not found, which brings the optimiser. As root: apt-get install nodejs npm")
    if not (OPTIMISER / "node_modules").exists():
        subprocess.run([npm, "ci", "--no-audit", "--no-fund"], cwd=OPTIMISER, check=True, stdout=subprocess.DEVNULL)


def _optimised(files: list[str]) -> list[str]:
    words = ["node", "shorten.mjs", str(decimals_for(STATED_ERROR))]
    done = subprocess.run(words, cwd=OPTIMISER, input=json.dumps(files), capture_output=True, text=True, check=True)
    found: list[str] = json.loads(done.stdout)
    return found


def _data(svg: str) -> str:
    return "".join(_DATA.findall(svg))


def _commands(svg: str) -> int:
    """Commands that draw: repeated ones stand without their letter, so that a reader counts them."""
    from svgelements import Close, Move, Path

    return sum(not isinstance(one, (Move, Close)) for data in _DATA.findall(svg) for one in Path(data))


def _row(name: str, ours: int, theirs: int, unit: str) -> Row:
    return Row(name, ours, "the optimiser", theirs, round(theirs / ours, 3), unit)
