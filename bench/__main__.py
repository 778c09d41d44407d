"""Run all benchmarks and print a table, or a JSON list of {name, ours_ms, reference, reference_ms, ratio}."""

from __future__ import annotations

import argparse
import json
import sys

from bench import answers, kernel


def main(words: list[str]) -> int:
    """Print the rows; ratio = reference_ms / ours_ms, so that more than 1 is faster than the reference."""
    parser = argparse.ArgumentParser(prog="kagami bench")
    parser.add_argument("--json", action="store_true")
    parser.add_argument("--only", choices=["kernel", "answers"])
    given = parser.parse_args(words)
    rows = []
    if given.only != "answers":
        rows += kernel.rows()
    if given.only != "kernel":
        rows += answers.rows()
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
