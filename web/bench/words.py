"""What the Bench's scripts say by themselves; the page hands it to them as data."""

from typing import Final

from django.utils.translation import gettext

WORDS: Final = {
    "newest": "Show the newest",
    "apart": "Keep mine as a new mark",
    "freeze": "Freeze the values and remove it",
    "close": "Close",
    "duplicate": "duplicate",
    "press-node:smooth": "make it smooth",
    "press-node:corner": "make it a corner",
    "add-node": "add one behind",
    "take-node-out": "take it out",
    "let-node-go": "let it go",
    "drawing": "drawing",
    "reading-drawing": "The drawing is read …",
    "drawing-too-heavy": "This file is too large. Take pictures out of it, and save it anew.",
    "bringing-sketch": "The sketch is on its way …",
    "sketch-too-heavy": "This file is too large. Save the picture smaller, or as a JPEG.",
    "sketch-measure": "Draw a line along something on the sketch whose length you know.",
    "sketch-move": "Drag the sketch to where it belongs; “move” again, or Escape, leaves it there.",
    "sketch-pull": "Press on a circle or a straight line of the sketch, or draw along any other.",
    "sketch-square": "Press on the four corners of something rectangular on it, such as the page: {count} of 4.",
    "squaring": "The sketch is squared up …",
    "sketch-looking": "Looking what is drawn here …",
    "cross": "Arrow keys move the cross, Space presses and lets go.",
    "gathers": "keeps",
    "takes": "drops",
    "tie": "Enter:",
    "name": "name",
    "part": "part",
    "odd-answer": "The server did not answer as expected.",
    "signed-out": "You are signed out. Reload the page and sign in; what is saved is safe, what is typed stays.",
    "no-answer": "The server does not answer. Try again in a moment.",
    "unsaved": "not saved yet",
    "silent": "The server does not answer. What you typed is kept here, and sent once it answers.",
}


def words() -> dict[str, str]:
    """The words in the language of the request."""
    return {key: gettext(text) for key, text in WORDS.items()}
