"""The one place where functions are compiled, and kept on disk for as long as nothing that they are made from changes.

numba looks at a function's own file alone. A function that calls those of others, or stands on a tolerance, would be
found again as it was before they changed: so all that was compiled is kept in a folder that bears a name for the state
of all its sources.
"""

from __future__ import annotations

import hashlib
import pathlib
import re
import shutil
from collections.abc import Callable, Iterator
from typing import Any, Final, TypeVar, cast

import numba

F = TypeVar("F", bound=Callable[..., Any])
HERE: Final = pathlib.Path(__file__).parent
OTHERS: Final = ("arrays.py", "joining.py", "kinds/__init__.py", "tolerance.py")
"""What they take values from, beside the modules of this package."""
_config: Any = numba.config
KEPT_IN: Final = pathlib.Path(_config.CACHE_DIR or HERE / "__pycache__")
PREFIX: Final = "loops-"


def sources() -> Iterator[pathlib.Path]:
    """The files that compiled functions are made from."""
    yield from sorted(HERE.glob("*.py"))
    yield from (HERE.parent / other for other in OTHERS)


def _state() -> str:
    found = hashlib.blake2b(digest_size=8)
    for path in sources():
        found.update(path.read_bytes())
    return f"{PREFIX}{found.hexdigest()}"


_config.CACHE_DIR = str(KEPT_IN / _state())


def forget_older() -> None:
    """Take away what was compiled of sources that have changed since."""
    for folder in KEPT_IN.glob(f"{PREFIX}*"):
        if str(folder) != _config.CACHE_DIR:
            shutil.rmtree(folder, ignore_errors=True)


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
