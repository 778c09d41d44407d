"""What keys do on the Bench, for the sheet of all verbs and keys."""

from typing import Final

from django.utils.translation import gettext as _

KEYS: Final = (
    ("A–Z", "begin a sentence in the typing line"),
    ("Enter", "take what is typed or offered; type over the value of a handle"),
    ("Escape", "step out: of a drag, a list, a slip, a node, what was taken up for the sketch, the open step"),
    ("Tab", "walk through the values of the plan and the handles on the sheet"),
    ("← → ↑ ↓", "move the value in hand by a stop, with Shift by four"),
    (". or Ctrl .", "a cross on the sheet: arrow keys move it, with Shift by four; Space presses, and lets go"),
    ("Alt", "held while dragging: without stops; while sweeping regions: drop them"),
    ("Ctrl", "held while dragging: change the measure that a value names; move one handle of a smooth node by itself"),
    (
        "Shift",
        "with a click: choose one more; pressed while a place is given or dragged, or with the wheel: the next anchor",
    ),
    ("+ −", "zoom, as the wheel does"),
    ("0", "fit the sheet into the window"),
    ("Space", "held: move the sheet"),
    ("PageUp, PageDown", "walk the needle"),
    ("/", "find a step by its words"),
    ("Delete", "take out the node in hand, or what is chosen"),
    ("Ctrl C, X, V", "copy, cut and paste steps as sentences"),
    ("Ctrl Z, Shift Ctrl Z", "undo, redo"),
    ("?", "this sheet"),
)


def keys() -> tuple[tuple[str, str], ...]:
    """Each key and what it does."""
    return tuple((_(key), _(text)) for key, text in KEYS)
