"""The core from the command line: `draw` and `check`."""

from __future__ import annotations

import argparse
import json
import pathlib
import sys
import time
from collections.abc import Callable
from typing import Any, Final

from kagami.exchange.artwork import Artwork
from kagami.exchange.finished import NothingToDraw, artwork
from kagami.exchange.png import GREATEST_SIZE, write_png
from kagami.exchange.svg import write_svg
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.readings import measure_mark
from kagami.plan.evaluation.result import Result
from kagami.plan.files import load_plan
from kagami.plan.language.sentences import write_sentence
from kagami.plan.messages import listing
from kagami.plan.tones.colourways import Colourway, colours_in
from kagami.plan.tones.listed import GROUND


def _pdf(art: Artwork, _size: int, ground: str | None) -> bytes:
    from kagami.exchange.pdf import write_pdf  # each form is loaded where it is asked for

    return write_pdf(art, ground=ground)


def _dxf(art: Artwork, _size: int, _ground: str | None) -> bytes:
    from kagami.exchange.dxf import write_dxf

    return write_dxf(art)


def _webp(art: Artwork, size: int, ground: str | None) -> bytes:
    from kagami.exchange.icons import write_webp

    return write_webp(art, size, ground)


def _ico(art: Artwork, _size: int, ground: str | None) -> bytes:
    from kagami.exchange.icons import write_ico

    return write_ico(art, ground=ground)


WRITERS: Final[dict[str, Callable[[Artwork, int, str | None], bytes]]] = {
    ".svg": lambda art, size, ground: write_svg(art, ground=ground).encode(),
    ".png": write_png,
    ".pdf": _pdf,
    ".dxf": _dxf,
    ".webp": _webp,
    ".ico": _ico,
}
ENDINGS: Final = ", ".join(WRITERS)


def main(words: list[str]) -> int:
    """Run a command; the exit status is 0, or 1 when something is wrong with the plan or the files."""
    parser = argparse.ArgumentParser(prog="kagami")
    commands = parser.add_subparsers(dest="command", required=True)
    draw = commands.add_parser("draw", help="write the finished mark of a plan")
    draw.add_argument("plan", type=pathlib.Path)
    draw.add_argument("-o", "--out", type=pathlib.Path, required=True, help=f"a file that ends in {ENDINGS}")
    draw.add_argument("--size", type=int, default=1024, help=f"pixels of a PNG's longer side, to {GREATEST_SIZE}")
    draw.add_argument("--colourway", help="the name of one of the plan's colourways")
    draw.add_argument("--ground", action="store_true", help="draw its ground too")
    draw.add_argument("--readings", type=pathlib.Path, help="write the readings to this JSON file")
    check = commands.add_parser("check", help="print each step's sentence, state and time")
    check.add_argument("plan", type=pathlib.Path)
    given = parser.parse_args(words)
    try:
        plan = load_plan(given.plan.read_bytes())
        return _draw(plan, given) if given.command == "draw" else _check(plan)
    except (PlanError, NothingToDraw, OSError, ValueError) as error:
        print(f"kagami: {error}", file=sys.stderr)
        return 1


def _draw(plan: Plan, given: argparse.Namespace) -> int:
    ending = given.out.suffix.lower()
    if ending not in WRITERS:
        raise ValueError(f"{given.out}: the file's name must end in {ENDINGS}")
    result = evaluate(plan)
    _report(result)
    colourway = _colourway(plan, given.colourway)
    art = artwork(plan, result, colourway=colourway)
    ground = colours_in(plan.tones, colourway).known[GROUND] if given.ground else None
    given.out.write_bytes(WRITERS[ending](art, given.size, ground))
    if given.readings:
        given.readings.write_text(json.dumps(readings_data(result), indent=1) + "\n", encoding="utf-8")
    return 0 if result.sound else 1


def _colourway(plan: Plan, name: str | None) -> Colourway | None:
    """The colourway that is asked for.

    Raises:
        PlanError: there is none of that name.
    """
    found = plan.colourway(name) if name is not None else None
    if name is not None and found is None:
        known = listing([one.name for one in plan.colourways]) or "none"
        raise PlanError("no-colourway", name=name, known=known)
    return found


def _check(plan: Plan) -> int:
    """Each step with the time that it adds to what stands before it."""
    result = evaluate(plan)
    spent = 0.0
    for index, step in enumerate(plan.steps, 1):
        started = time.perf_counter()
        evaluate(plan, upto=index)
        total = time.perf_counter() - started
        outcome = result.outcomes[step.id]
        state = "waits" if outcome.waits else "failed" if outcome.error else "ok"
        print(f"{index:3}  {state:6} {max(total - spent, 0) * 1000:7.1f} ms  {write_sentence(step, plan.names())}")
        spent = total
    _report(result)
    return 0 if result.sound else 1


def _report(result: Result) -> None:
    for name, error in result.measures.errors.items():
        print(f"kagami: measure {name}: {error}", file=sys.stderr)
    for outcome in result.outcomes.values():
        if outcome.error is not None:
            print(f"kagami: {outcome.name}: {_text(outcome.error)}", file=sys.stderr)


def _text(error: PlanError) -> str:
    return f"{error.field}: {error}" if error.field else str(error)


def readings_data(result: Result) -> dict[str, Any]:
    """The readings as plain values, lengths in module units."""
    found = measure_mark(result)
    return {
        "regions": found.regions,
        "regions_kept": found.regions_kept,
        "outlines": found.outlines,
        "nodes": found.nodes,
        "ink": found.ink,
        "box": found.box._asdict() if found.box else None,
        "symmetry": None
        if found.symmetry is None
        else {
            "order": found.symmetry.order,
            "mirrored": found.symmetry.mirrored,
            "error": found.symmetry.error,
            "centre": list(found.symmetry.centre),
        },
    }


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
