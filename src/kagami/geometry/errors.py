"""What geometry refuses, by cause. Text for people is made from the values at the edge."""

from __future__ import annotations


class GeometryError(ValueError):
    """An input that the kernel does not accept. `code` is stable; `values` hold what a message needs."""

    code = "geometry"

    def __init__(self, message: str, **values: object) -> None:
        super().__init__(message)
        self.values = values


class InvalidLength(GeometryError):
    """A length that must be more than zero (and finite) is not."""

    code = "invalid-length"


class InvalidCount(GeometryError):
    """A count lies outside its range."""

    code = "invalid-count"


class TooLarge(GeometryError):
    """An input holds more curves than the kernel takes on."""

    code = "too-large"


class Unarrangeable(GeometryError):
    """Curves lie so near to each other that they can neither be told apart nor taken for one."""

    code = "unarrangeable"
