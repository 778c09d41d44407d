"""How long a package takes: five variants, twelve files each, made and read back; by one worker, and two packages
at once by two.
"""

from __future__ import annotations

import statistics
import time
from concurrent.futures import ProcessPoolExecutor
from functools import cache
from multiprocessing import get_context
from typing import Final

from bench.paired import Row
from bench.plans import FOLDER
from kagami.exchange.delivery.making import made
from kagami.exchange.delivery.planning import Planned, of_one_colour, planned_files
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.files import load_plan
from kagami.plan.variants.variant import Package

MARK: Final = "demo/vennik-light-trust.json"
FORMATS: Final = ("svg", "cubics", "web", "pdf", "print", "png", "webp", "dxf")
PIXELS: Final = (64, 512)
VARIANTS, FILES = 5, 12
FILE_BUDGET_MS: Final = 1000.0
PACKAGE_BUDGET_MS: Final = 30_000.0
WORKERS: Final = 2


@cache
def _plan() -> Plan:
    plan = load_plan((FOLDER / MARK).read_bytes())
    variants = tuple(one.model_copy(update={"formats": FORMATS, "below": 0}) for one in plan.variants[:VARIANTS])
    return plan.model_copy(update={"variants": variants, "package": Package(pixels=PIXELS)})


@cache
def _files() -> tuple[Planned, ...]:
    """Twelve files of each variant."""
    files = planned_files(_plan(), "Vennik Light Trust", frozenset(of_one_colour(_plan(), Cache())))
    found: list[Planned] = []
    for variant in _plan().variants:
        own = [one for one in files if one.variant == variant.name]
        found += own[:FILES]
    if len(found) != VARIANTS * FILES:
        raise RuntimeError(f"{len(found)} files instead of {VARIANTS * FILES}")
    return tuple(found)


def _make(files: tuple[Planned, ...]) -> list[float]:
    """Make files with a cache of their own, as one maker does; milliseconds of each."""
    known, times = Cache(), []
    for one in files:
        started = time.perf_counter()
        if not made(_plan(), known, one, brand="Vennik Light Trust").report.sound:
            raise RuntimeError(f"{one.name} is not sound")
        times.append((time.perf_counter() - started) * 1000)
    return times


def rows() -> list[Row]:
    """A file, and whole packages."""
    files = _files()
    _make(files[:FILES])
    started = time.perf_counter()
    times = _make(files)
    whole = (time.perf_counter() - started) * 1000
    worst = statistics.quantiles(times, n=20)[-1]
    with ProcessPoolExecutor(WORKERS, mp_context=get_context("fork")) as pool:
        list(pool.map(_make, [files[:1]] * WORKERS))
        started = time.perf_counter()
        list(pool.map(_make, [files] * WORKERS))
        shared = (time.perf_counter() - started) * 1000 / WORKERS
    told = f"a file of a package, made and read back: median {statistics.median(times):.0f} ms; 95th percentile"
    name = f"package of {VARIANTS} variants × {FILES} files"
    return [
        Row(told, worst, "budget", FILE_BUDGET_MS, round(FILE_BUDGET_MS / worst, 2)),
        Row(f"{name}, one worker", whole, "budget", PACKAGE_BUDGET_MS, round(PACKAGE_BUDGET_MS / whole, 2)),
        Row(f"{WORKERS} at once by {WORKERS} workers, each", shared, "one alone", whole, round(whole / shared, 2)),
    ]
