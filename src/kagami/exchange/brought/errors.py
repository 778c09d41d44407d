"""What is refused of a drawing, and what of it is left out, by cause. Text for people is made from the values."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from kagami.plan.messages import explain


class DrawingError(ValueError):
    """A drawing that cannot be taken. `code` is stable; `values` hold what a message needs."""

    def __init__(self, code: str, **values: object) -> None:
        super().__init__(code)
        self.code = code
        self.values = values

    def __str__(self) -> str:
        return explain(self.code, self.values)


@dataclass(frozen=True, slots=True)
class Remark:
    """Something of a drawing that is not taken as it stands there, in which line of its file, and how often."""

    code: str
    line: int
    count: int = 1

    def __str__(self) -> str:
        return explain(self.code, {"line": self.line, "count": self.count})


def counted(remarks: Iterable[Remark]) -> tuple[Remark, ...]:
    """One remark of each kind, with the first of its lines and how many there are."""
    lines: dict[str, list[int]] = {}
    for remark in remarks:
        lines.setdefault(remark.code, []).append(remark.line)
    return tuple(Remark(code, min(found), len(found)) for code, found in lines.items())
