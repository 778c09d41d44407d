"""What the fields of steps hold: a kind of field is an object that knows how it is parsed, written, resolved and shown.

A step's class names the kind of each of its fields in its annotation; nothing else lists kinds or asks which one it is.
"""

from kagami.plan.fields.choice import CHOICE
from kagami.plan.fields.figures import BesideRef, FigureRef, FigureRefs, WholeFigureRefs
from kagami.plan.fields.kind import FieldKind, Shown
from kagami.plan.fields.lettering import FaceName, WordsText
from kagami.plan.fields.nodes import FreeNode, Nodes
from kagami.plan.fields.numbers import Numbers
from kagami.plan.fields.picks import Pick, Picks
from kagami.plan.fields.places import AnchorRef, AnchorRefs
from kagami.plan.fields.sizes import Sizes
from kagami.plan.fields.tones import GradientStops, LastTone, Tone, Tones
from kagami.plan.fields.values import Angle, Count, Length, Number, Percent

__all__ = [
    "CHOICE",
    "AnchorRef",
    "AnchorRefs",
    "Angle",
    "BesideRef",
    "Count",
    "FaceName",
    "FieldKind",
    "FigureRef",
    "FigureRefs",
    "FreeNode",
    "GradientStops",
    "LastTone",
    "Length",
    "Nodes",
    "Number",
    "Numbers",
    "Percent",
    "Pick",
    "Picks",
    "Shown",
    "Sizes",
    "Tone",
    "Tones",
    "WholeFigureRefs",
    "WordsText",
]
