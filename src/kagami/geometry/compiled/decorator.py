"""The one place where functions are compiled."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba

F = TypeVar("F", bound=Callable[..., Any])


def compiled(function: F) -> F:
    """The function, compiled on its first call and kept on disk. Arithmetic is exact: nothing is reordered."""
    return cast(F, numba.njit(cache=True, error_model="numpy")(function))
