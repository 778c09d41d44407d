"""What pieces are filled with, as pages show it: a colour, or a gradient with an element of its own."""

import hashlib
from collections.abc import Iterable

from django.utils.safestring import SafeString, mark_safe

from kagami.exchange.artwork import Shading
from kagami.exchange.finished import fill_of
from kagami.exchange.svg import Frame, gradient_element
from kagami.plan.evaluation.ink import Piece

NO_PAINT = SafeString("")


def each_once(paints: Iterable[str]) -> SafeString:
    """The elements of several fills, equal ones once: no id stands in a page twice."""
    return mark_safe("".join(dict.fromkeys(paints)))  # as `paint_of` made them


def paint_of(piece: Piece, frame: Frame) -> tuple[str, SafeString]:
    """The fill of a piece, and the element that it names; its id is made of what it holds, so that equal ones may stand
    in a page twice.
    """
    fill = fill_of(piece)
    if not isinstance(fill, Shading):
        return fill, NO_PAINT
    told = gradient_element(fill, "", frame)
    identifier = "paint-" + hashlib.blake2b(told.encode(), digest_size=8).hexdigest()
    # Numbers, and colours that were computed: nothing that was typed.
    return f"url(#{identifier})", mark_safe(gradient_element(fill, identifier, frame))
