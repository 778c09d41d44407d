"""Compiled loops are loaded when they are first needed; how long that took is no part of what a drawing costs."""

from __future__ import annotations

import time
from functools import cache
from importlib import import_module
from types import ModuleType
from typing import Final

_spent = 0.0
_quick: dict[str, ModuleType] = {}
QUICK: Final = (
    "graphs",
    "curves",
    "rays",
    "pairs",
    "ellipse_pairs",
    "ellipse_cubic",
    "choosing",
    "joining",
    "linking",
    "bands",
    "mapping",
    "cubic_forms",
    "facing",
    "parallels",
    "splitting",
    "tracing",
    "nesting",
    "probing",
    "checking",
    "touching",
    "approaching",
)
"""Modules whose loops answer in place of columns, once they are loaded."""


@cache
def compiled(name: str) -> ModuleType:
    """A module of `compiled`, ready to be used: its `prove` runs each of its loops once, which compiles them where no
    compiled form is kept yet.
    """
    global _spent
    began = time.thread_time()
    module = import_module(f"kagami.geometry.compiled.{name}")
    module.prove()
    _spent += time.thread_time() - began
    return module


def use_compiled() -> None:
    """From now on answer by compiled loops: worth it for whoever evaluates more than once, since they load slowly."""
    _quick.update({name: compiled(name) for name in QUICK})


def quick(name: str) -> ModuleType | None:
    """A module of compiled loops, where these are in use (see `use_compiled`); None where columns are to answer."""
    return _quick.get(name)


def seconds_spent() -> float:
    """Processor time that was spent on loading so far."""
    return _spent
