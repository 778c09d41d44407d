"""What is remarked about a lettering: where the face gives something else than was asked for."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from kagami.geometry.tolerance import SAME
from kagami.lettering.face import Face
from kagami.lettering.shelf import face_named, face_names
from kagami.plan.lettering.setting import Setting
from kagami.plan.outcome import Notes

SAID: Final = {
    "smcp": "small capitals",
    "c2sc": "small capitals for capitals",
    "lnum": "lining figures",
    "onum": "old-style figures",
}


def notes_of(setting: Setting) -> Notes:
    """Remarks on a setting."""
    notes: list[tuple[str, Mapping[str, object]]] = []
    if abs(setting.cut.weight - setting.weight) > SAME:
        values = {"face": setting.face.name, "asked": setting.weight, "weight": setting.cut.weight}
        notes.append(("weight-nearest", values))
    notes.extend(_lacking(setting))
    return tuple(notes)


def _lacking(setting: Setting) -> Notes:
    """What the face has no letters for."""
    wanted = setting.dress.wanted
    if not wanted:
        return ()
    lacking = [tag for tag in wanted if not _has(setting.face, tag)]
    if not lacking:
        return ()
    others = [name for name in face_names() if all(_has(face_named(name), tag) for tag in wanted)]
    what = ", ".join(SAID[tag] for tag in lacking)
    code = "face-lacks-feature" if others else "faces-lack-feature"
    return ((code, {"face": setting.face.name, "feature": what, "others": ", ".join(others)}),)


def _has(face: Face, tag: str) -> bool:
    return tag in face.parts[0][0].features()
