"""What setting type refuses, by cause. Text for people is made from the values at the edge."""

from __future__ import annotations


class LetteringError(ValueError):
    """A face or a text that cannot be set. `code` is stable; `values` hold what a message needs."""

    def __init__(self, code: str, **values: object) -> None:
        super().__init__(code)
        self.code = code
        self.values = values
