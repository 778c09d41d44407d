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
    """An input holds more curves, or meets itself in more places, than the kernel takes on.

    `what` names what there are too many of, `count` how many (at least), `most` how many may be.
    """

    code = "too-large"

    def __init__(self, what: str, count: int, most: int) -> None:
        super().__init__(f"{count:,} {what} at once; {most:,} is the most", what=what, count=count, most=most)


class Unarrangeable(GeometryError):
    """Curves lie so near to each other that they can neither be told apart nor taken for one."""

    code = "unarrangeable"
