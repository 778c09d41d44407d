"""The core from the command line: `draw`, `check` and `tell`."""

from __future__ import annotations

import argparse
import json
import pathlib
import sys
import time
from typing import Any, Final

from kagami.exchange.crisp import LARGEST
from kagami.exchange.delivery.forms import FORMS, Form
from kagami.exchange.delivery.ordering import Order, measured
from kagami.exchange.finished import NothingToDraw, artwork, variant_artwork
from kagami.exchange.png import GREATEST_SIZE
from kagami.lettering.errors import LetteringError
from kagami.lettering.shelf import NOBODY, Lender, lending
from kagami.plan import limits
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.forms import ground_of
from kagami.plan.evaluation.result import Result
from kagami.plan.files import load_plan
from kagami.plan.messages import explain, listing
from kagami.plan.tones.colourways import Colourway, colours_in
from kagami.plan.tones.listed import GROUND
from kagami.plan.variants.variant import Variant
from kagami.plan.varying import varied

FORM_OF: Final = {".svg": "svg", ".png": "png", ".pdf": "pdf", ".dxf": "dxf", ".webp": "webp", ".ico": "icon-set"}
"""The form of file that an ending stands for, where none is named."""
ENDINGS: Final = ", ".join(FORM_OF)


def main(words: list[str]) -> int:
    """Run a command; the exit status is 0, or 1 when something is wrong with the plan or the files."""
    parser = argparse.ArgumentParser(prog="kagami")
    commands = parser.add_subparsers(dest="command", required=True)
    draw = commands.add_parser("draw", help="write the finished mark of a plan")
    draw.add_argument("plan", type=pathlib.Path)
    draw.add_argument("-o", "--out", type=pathlib.Path, required=True, help=f"a file that ends in {ENDINGS}")
    draw.add_argument("--size", type=int, default=1024, help=f"pixels of a PNG's longer side, to {GREATEST_SIZE}")
    draw.add_argument("--variant", help="the name of one of the plan's variants, with its clear space")
    draw.add_argument("--form", help="a form of file as packages hold it, such as print-cmyk, cut or sheet-pdf")
    draw.add_argument("--colourway", help="the name of one of the plan's colourways")
    draw.add_argument("--ground", action="store_true", help="draw its ground too")
    draw.add_argument("--readings", type=pathlib.Path, help="write the readings to this JSON file")
    check = commands.add_parser("check", help="print each step's sentence, state and time")
    check.add_argument("plan", type=pathlib.Path)
    for command in (draw, check):
        command.add_argument("--face", type=pathlib.Path, action="append", help="a font file that the plan's words use")
    tell = commands.add_parser("tell", help="write an SVG as a plan: the sentences that draw it")
    tell.add_argument("drawing", type=pathlib.Path)
    tell.add_argument("-o", "--out", type=pathlib.Path, required=True, help="a file for the plan's text")
    tell.add_argument("--width", type=float, help="how wide it comes to be, in u")
    given = parser.parse_args(words)
    try:
        if given.command == "tell":
            return _tell(given)
        with lending(_faces(given.face or [])):
            plan = load_plan(given.plan.read_bytes())
            return _draw(plan, given) if given.command == "draw" else _check(plan)
    except LetteringError as error:
        print(f"kagami: {explain(error.code, error.values)}", file=sys.stderr)
        return 1
    except (PlanError, NothingToDraw, OSError, ValueError) as error:
        print(f"kagami: {error}", file=sys.stderr)
        return 1


def _tell(given: argparse.Namespace) -> int:
    """Write a drawing as a plan, and say what of it is not taken as it stands there."""
    from kagami.exchange.brought.telling import FILLING, sentences_of  # readers of SVG are loaded where there is one
    from kagami.plan.changes.change import change
    from kagami.plan.language.text import write_text

    called = given.drawing.stem[: limits.NAME_LENGTH]
    told = sentences_of(given.drawing.read_bytes(), Plan(), called, given.width)
    plan = change(Plan(), "add-sentences", {"text": told.text}).plan
    sheet = max(plan.sheet, round(told.width / FILLING, 2))
    titled = plan.model_copy(update={"title": called or plan.title, "sheet": sheet})
    given.out.write_text(write_text(titled), encoding="utf-8")
    for remark in told.remarks:
        print(f"kagami: {remark}", file=sys.stderr)
    return 0


def _faces(files: list[pathlib.Path]) -> Lender:
    """The faces of font files; what checks them is loaded only where there are some."""
    if not files:
        return NOBODY
    from kagami.exchange.fonts.local import LocalFaces

    return LocalFaces(files)


def _draw(plan: Plan, given: argparse.Namespace) -> int:
    form = _form(given)
    if given.variant is not None and given.colourway is not None:
        raise ValueError("a variant has its own colourway: name one of them")
    if not 1 <= given.size <= GREATEST_SIZE:
        raise ValueError(f"a picture is from 1 to {GREATEST_SIZE} pixels large, not {given.size}")
    variant = _variant(plan, given.variant)
    cache = Cache()
    result = evaluate(varied(plan, variant), cache)
    _report(result)
    colourway = _colourway(plan, given.colourway)
    art = variant_artwork(result, variant) if variant else artwork(plan, result, colourway=colourway)
    ground = ground_of(result, variant) if variant else colours_in(plan.tones, colourway).known[GROUND]
    on_ground = given.ground or (variant is not None and variant.plate)
    order = Order(art, ground, on_ground, result, cache, variant, form.pixels or given.size)
    if form.reads in ("png", "webp", "ico") and order.size <= LARGEST:
        order = measured(order)
    given.out.write_bytes(form.write(order))
    if given.readings:
        given.readings.write_text(json.dumps(readings_data(result), indent=1) + "\n", encoding="utf-8")
    return 0 if result.sound else 1


def _form(given: argparse.Namespace) -> Form:
    """The form of file that is asked for.

    Raises:
        ValueError: there is none of that name, or its ending is another.
    """
    ending = given.out.suffix.lower()
    if given.form is None:
        if ending not in FORM_OF:
            raise ValueError(f"{given.out}: the file's name must end in {ENDINGS}")
        return FORMS[FORM_OF[ending]]
    if given.form not in FORMS:
        raise ValueError(f"there is no form “{given.form}”. There are: {', '.join(FORMS)}")
    form = FORMS[given.form]
    if ending != f".{form.ending}":
        raise ValueError(f"{given.out}: files of the form {given.form} end in .{form.ending}")
    return form


def _variant(plan: Plan, name: str | None) -> Variant | None:
    """The variant that is asked for.

    Raises:
        PlanError: there is none of that name.
    """
    found = plan.variant(name) if name is not None else None
    if name is not None and found is None:
        known = listing([one.name for one in plan.variants]) or "none"
        raise PlanError("no-variant", name=name, known=known)
    return found


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
    from kagami.plan.language.sentences import write_sentence

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
    from kagami.plan.evaluation.readings import measure_mark  # loaded where readings are asked for

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
