"""What is refused of a sketch, by cause. Text for people is made from the values at the edge."""

from __future__ import annotations


class SketchError(ValueError):
    """A picture, or a way to lay it, that cannot be taken. `code` is stable; `values` hold what a message needs."""

    def __init__(self, code: str, **values: object) -> None:
        super().__init__(code)
        self.code = code
        self.values = values
