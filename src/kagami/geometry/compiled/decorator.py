"""The one place where functions are compiled."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba

F = TypeVar("F", bound=Callable[..., Any])


def compiled(function: F) -> F:
    """The function, compiled on its first call and kept on disk. Arithmetic is exact: nothing is reordered."""
    return cast(F, numba.njit(cache=True, error_model="numpy")(function))


def compiled_for(signature: str) -> Callable[[F], F]:
    """The function, compiled for one form of arguments, “int64[:], float64[:, :]”: arrays that may be written to or not
    and need not lie in one piece. So there is one compiled form, whatever arrays come.
    """
    parameters = tuple(_any_array(part) for part in re.findall(r"\w+\[[^\]]*\]|\w+", signature))

    def with_signature(function: F) -> F:
        return cast(F, numba.njit(parameters, cache=True, error_model="numpy")(function))

    return with_signature


def _any_array(text: str) -> Any:
    name, _, axes = text.partition("[")
    if not axes:
        return getattr(numba.types, name)
    return numba.types.Array(getattr(numba.types, name), axes.count(":"), "A", readonly=True)
