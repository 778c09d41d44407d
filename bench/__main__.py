"""Run all benchmarks and print a table, or a JSON list of {name, ours, reference, its, ratio, unit}."""

from __future__ import annotations

import argparse
import json
import pathlib
import shutil
import sys
from collections.abc import Sequence
from typing import Final

from bench import answers, delivery, editors, hand, kernel, lettering, making, optimised, plans, tones
from bench.paired import Row
from kagami.warm import warm

HEAD: Final = """# Benchmarks

Written by `./kagami bench --write`. Ours and its reference ran in turn on a small shared machine; times are medians,
the ratio is the median of the pairs’ ratios, above 1 where ours is faster. References get their input flattened to 1e-6
of the drawing where they know only polygons. A reference does less than ours in places: the faces of GEOS know no
covering sets, and its results no arcs. Files for pages are as short as a general optimiser makes them; those for print
keep the letters that close their contours, which editors and cutters want closed, and radii as they were typed.
"""
PARTS: Final = {
    "kernel": kernel.rows,
    "making": making.rows,
    "plans": plans.rows,
    "answers": answers.rows,
    "hand": hand.rows,
    "tones": tones.rows,
    "delivery": delivery.rows,
    "lettering": lettering.rows,
    "editors": editors.rows,
    "optimiser": optimised.rows,
}
TABLE: Final = pathlib.Path(__file__).parents[1] / "docs" / "bench.md"


def table(rows: Sequence[Row]) -> str:
    """The rows as a page."""
    lines = [HEAD, "| what | ours | reference | its | ratio |", "|---|---:|---|---:|---:|"]
    for row in rows:
        ours, its = _figures(row)
        lines.append(f"| {row.name} | {ours} | {row.reference} | {its} | {row.ratio:.1f} |")
    return "\n".join(lines) + "\n"


def _figures(row: Row) -> tuple[str, str]:
    digits = 1 if row.unit == "ms" else 0
    return f"{row.ours:.{digits}f} {row.unit}", f"{row.its:.{digits}f} {row.unit}"


def main(words: list[str]) -> int:
    """Print the rows; the ratio is above 1 where ours is faster, or shorter."""
    parser = argparse.ArgumentParser(prog="kagami bench")
    parser.add_argument("--json", action="store_true")
    parser.add_argument("--write", action="store_true", help="also write the table to docs/bench.md")
    parser.add_argument("--only", choices=PARTS)
    given = parser.parse_args(words)
    warm()
    wanted = PARTS if given.only is None else {given.only: PARTS[given.only]}
    if given.only is None and shutil.which("npm") is None:
        print("Without npm, files are not held against the optimiser.", file=sys.stderr)
        wanted = {name: part for name, part in PARTS.items() if name != "optimiser"}
    rows = [row for part in wanted.values() for row in part()]
    if given.write:
        TABLE.write_text(table(rows), encoding="utf-8")
    if given.json:
        print(json.dumps([row._asdict() for row in rows], indent=1))
        return 0
    for row in rows:
        ours, its = _figures(row)
        print(f"{row.name:52} {ours:>18}   {row.reference:44} {its:>18}   {row.ratio:6.2f} ×")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
