"""Run all benchmarks and print a table, or a JSON list of {name, ours_ms, reference, reference_ms, ratio}."""

from __future__ import annotations

import argparse
import json
import pathlib
import sys
from collections.abc import Sequence
from typing import Final

from bench import answers, delivery, editors, hand, kernel, lettering, making, plans, tones
from bench.paired import Row
from kagami.warm import warm

HEAD: Final = """# Benchmarks

Written by `./kagami bench --write`. Ours and its reference ran in turn on a small shared machine; times are medians,
the ratio is the median of the pairs’ ratios, above 1 where ours is faster. References get their input flattened to 1e-6
of the drawing where they know only polygons. A reference does less than ours in places: the faces of GEOS know no
covering sets, and its results no arcs.
"""
TABLE: Final = pathlib.Path(__file__).parents[1] / "docs" / "bench.md"


def table(rows: Sequence[Row]) -> str:
    """The rows as a page."""
    lines = [HEAD, "| what | ours, ms | reference | its ms | ratio |", "|---|---:|---|---:|---:|"]
    lines += [f"| {r.name} | {r.ours_ms:.1f} | {r.reference} | {r.reference_ms:.1f} | {r.ratio:.1f} |" for r in rows]
    return "\n".join(lines) + "\n"


def main(words: list[str]) -> int:
    """Print the rows; ratio = reference_ms / ours_ms, so that more than 1 is faster than the reference."""
    parser = argparse.ArgumentParser(prog="kagami bench")
    parser.add_argument("--json", action="store_true")
    parser.add_argument("--write", action="store_true", help="also write the table to docs/bench.md")
    parser.add_argument(
        "--only", choices=["kernel", "making", "plans", "answers", "hand", "tones", "delivery", "lettering", "editors"]
    )
    given = parser.parse_args(words)
    warm()
    parts = {
        "kernel": kernel.rows,
        "making": making.rows,
        "plans": plans.rows,
        "answers": answers.rows,
        "hand": hand.rows,
        "tones": tones.rows,
        "delivery": delivery.rows,
        "lettering": lettering.rows,
        "editors": editors.rows,
    }
    rows = [row for name, part in parts.items() if given.only in (None, name) for row in part()]
    if given.write:
        TABLE.write_text(table(rows), encoding="utf-8")
    if given.json:
        print(json.dumps([row._asdict() for row in rows], indent=1))
        return 0
    for row in rows:
        print(
            f"{row.name:52} {row.ours_ms:9.2f} ms   {row.reference:44} {row.reference_ms:9.2f} ms   {row.ratio:6.1f} ×"
        )
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
