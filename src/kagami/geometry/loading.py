"""Compiled loops are loaded when they are first needed; how long that took is no part of what a drawing costs."""

from __future__ import annotations

import time
from functools import cache
from importlib import import_module
from types import ModuleType

_spent = 0.0


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


def seconds_spent() -> float:
    """Processor time that was spent on loading so far."""
    return _spent
