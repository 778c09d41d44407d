"""Changes to variants, and to how a package of them is named and sized."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any, Final

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.sentences import retype_step
from kagami.plan.changes.steps import ids_by_name
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.language.variants import parse_variant, variant_text
from kagami.plan.messages import listing
from kagami.plan.naming import require_sayable
from kagami.plan.tones.many import free_name_among
from kagami.plan.values.expressions import parse_value
from kagami.plan.values.stored import stored_value
from kagami.plan.variants.naming import check_pattern
from kagami.plan.variants.variant import FORMATS, FORMS, PIXELS, OtherValue, Package, Variant
from kagami.plan.varying import settled, varied, with_alterations
from kagami.plan.wording.texts import on_a_line, on_one_line

REAL_SIZE: Final = re.compile(r"(\d{1,5}(?:\.\d{1,3})?) *(mm|cm|in|pt|px)")


def add_variant(plan: Plan, given: Given) -> Changed:
    """A new variant: told by the sentence `text`, else one `name`d that changes nothing yet. A sentence that names one
    that is there says it anew.
    """
    if given.values.get("text"):
        variant = parse_variant(given.text("text", limits.SENTENCE_LENGTH), ids_by_name(plan))
        _require_known(plan, variant)
        known = plan.variant(variant.name)
        if known is not None:
            kept = {"note": known.note, "others": known.others}
            return Changed(_replaced(plan, known, variant.model_copy(update=kept)), variant_text(variant, plan.names()))
    else:
        name = given.text("name", limits.NAME_LENGTH)
        variant = Variant(name=require_sayable(name or free_name_among("variant", [one.name for one in plan.variants])))
    return Changed(_with_new(plan, variant), f"variant {variant.name}")


def remove_variant(plan: Plan, given: Given) -> Changed:
    """Take it out."""
    variant = variant_of(plan, given)
    left = tuple(one for one in plan.variants if one != variant)
    return Changed(plan.model_copy(update={"variants": left}), f"without the variant {variant.name}")


def rename_variant(plan: Plan, given: Given) -> Changed:
    """Another name."""
    variant, new = variant_of(plan, given), require_sayable(given.text("new", limits.NAME_LENGTH))
    if new != variant.name and plan.variant(new) is not None:
        raise ChangeRefused("doubled-name", name=new)
    changed = variant.model_copy(update={"name": new})
    return Changed(_replaced(plan, variant, changed), f"variant {variant.name} is called {new}")


def copy_variant(plan: Plan, given: Given) -> Changed:
    """Another one like it, behind it."""
    variant = variant_of(plan, given)
    copy = variant.model_copy(
        update={"name": free_name_among(variant.name, [one.name for one in plan.variants]), "note": ""}
    )
    changed = _with_new(plan, copy)
    order = [one for one in changed.variants if one != copy]
    order.insert(order.index(variant) + 1, copy)
    return Changed(changed.model_copy(update={"variants": tuple(order)}), f"variant {copy.name} from {variant.name}")


def move_variant(plan: Plan, given: Given) -> Changed:
    """To another place among the variants, counted from 0."""
    variant = variant_of(plan, given)
    left = [one for one in plan.variants if one != variant]
    left.insert(max(0, min(given.number("position"), len(left))), variant)
    return Changed(plan.model_copy(update={"variants": tuple(left)}), f"variant {variant.name} moved")


def set_variant(plan: Plan, given: Given) -> Changed:
    """One `field` of a variant: colourway, form, plate, below, clear, line, smallest or note."""
    variant, field = variant_of(plan, given), given.text("field")
    if field not in _TAKEN:
        raise ChangeRefused("no-field", name=field)
    value = _TAKEN[field](plan, given)
    changed = Variant.model_validate({**variant.model_dump(mode="json"), field: value})
    return Changed(_replaced(plan, variant, changed), f"variant {variant.name}: {field} {value or 'as usual'}")


def _colourway(plan: Plan, given: Given) -> str:
    name = given.text("value", limits.NAME_LENGTH)
    if name and plan.colourway(name) is None:
        known = listing([one.name for one in plan.colourways]) or "none"
        raise ChangeRefused("no-colourway", name=name, known=known)
    return name


def _form(_plan: Plan, given: Given) -> str:
    form = given.text("value")
    if form not in FORMS:
        raise ChangeRefused("not-a-choice", value=form, known=listing(list(FORMS), "or"))
    return form


def _below(_plan: Plan, given: Given) -> int:
    text = given.text("value") or "0"
    if not text.isdecimal() or int(text) > 1024:
        raise ChangeRefused("bad-change", path="below", reason="is a number of pixels up to 1024, or empty")
    return int(text)


def _length(plan: Plan, given: Given) -> str:
    text = given.text("value")
    if text:
        parse_value(text)
    return stored_value(text, ids_by_name(plan))


def _note(_plan: Plan, given: Given) -> str:
    note = given.text("value", limits.NOTE_LENGTH)
    if not on_one_line(note):
        raise ChangeRefused("text-not-plain", what="note")
    return on_a_line(note)


def _real_size(_plan: Plan, given: Given) -> str:
    return real_size(given.text("value"), "smallest")


def real_size(text: str, what: str) -> str:
    """A real size as documents hold it, such as 9mm; empty for none.

    Raises:
        ChangeRefused: it is no number and unit, or 0.
    """
    found = REAL_SIZE.fullmatch(text)
    if text and (found is None or float(found[1]) == 0):
        raise ChangeRefused("bad-change", path=what, reason="is a number and one of mm, cm, in, pt, px, such as 9 mm")
    return f"{found[1]}{found[2]}" if found else ""


_TAKEN: Final[Mapping[str, Any]] = {
    "colourway": _colourway,
    "form": _form,
    "plate": lambda _plan, given: given.values.get("value") is True,
    "below": _below,
    "clear": _length,
    "line": _length,
    "smallest": _real_size,
    "note": _note,
}


def set_format(plan: Plan, given: Given) -> Changed:
    """Whether a variant is delivered in a `format`."""
    variant, wanted = variant_of(plan, given), given.text("format")
    if wanted not in FORMATS:
        raise ChangeRefused("not-a-choice", value=wanted, known=listing(list(FORMATS), "or"))
    on = given.values.get("on") is True
    chosen = tuple(one for one in FORMATS if (on if one == wanted else one in variant.formats))
    changed = variant.model_copy(update={"formats": chosen})
    return Changed(_replaced(plan, variant, changed), f"variant {variant.name}: {'' if on else 'not '}as {wanted}")


def set_variant_value(plan: Plan, given: Given) -> Changed:
    """What a `measure` is in a variant; with an empty `value` what it is in the mark."""
    variant, measure, value = variant_of(plan, given), given.text("measure"), given.text("value")
    if all(one.name != measure for one in plan.measures):
        raise ChangeRefused("no-measure", name=measure)
    entries = [entry for entry in variant.values if entry.measure != measure]
    if value:
        parse_value(value)
        entries.append(OtherValue(measure=measure, value=stored_value(value, ids_by_name(plan))))
    changed = variant.model_copy(update={"values": tuple(entries)})
    return Changed(
        _replaced(plan, variant, changed), f"variant {variant.name}: {measure} is {value or 'as in the mark'}"
    )


def hush_in_variant(plan: Plan, given: Given) -> Changed:
    """Whether a `step` is muted in a variant: `muted`, `heard`, or `own` for what it is in the mark."""
    variant, step, state = variant_of(plan, given), plan.step(given.text("step")), given.text("state")
    if step is None:
        raise ChangeRefused("no-step")
    if state not in ("muted", "heard", "own"):
        raise ChangeRefused("not-a-choice", value=state, known="muted, heard or own")
    changed = variant.model_copy(
        update={
            "muted": _listed(variant.muted, step.id, state == "muted"),
            "heard": _listed(variant.heard, step.id, state == "heard"),
        }
    )
    return Changed(_replaced(plan, variant, changed), f"variant {variant.name}: {step.name} {state}")


def retype_in_variant(plan: Plan, given: Given) -> Changed:
    """A `step` said anew by the sentence `text` in a variant alone; empty for its own sentence."""
    variant, step = variant_of(plan, given), plan.step(given.text("step"))
    if step is None:
        raise ChangeRefused("no-step")
    if not given.text("text", limits.SENTENCE_LENGTH):
        others = tuple(entry for entry in variant.others if entry.step != step.id)
        changed = variant.model_copy(update={"others": others})
    else:
        begun = varied(plan, variant)
        changed = with_alterations(variant, plan, retype_step(begun, given).plan)
    return Changed(_replaced(plan, variant, changed), f"variant {variant.name}: {step.name} said anew")


def _listed(steps: Sequence[str], step: str, there: bool) -> tuple[str, ...]:
    left = tuple(one for one in steps if one != step)
    return (*left, step) if there else left


def set_package(plan: Plan, given: Given) -> Changed:
    """How files are named and sized: `pattern`, `pixels` and `height`, each where it is given."""
    package = plan.package or Package()
    pattern, pixels, height = package.pattern, package.pixels, package.height
    if not {"pattern", "pixels", "height"} & set(given.values):
        raise ChangeRefused("bad-change", path="pattern", reason="or pixels or height is missing")
    if "pattern" in given.values:
        pattern = given.text("pattern", limits.PATTERN_LENGTH)
        check_pattern(pattern)
    if "pixels" in given.values:
        pixels = _pixels(given.text("pixels"))
    if "height" in given.values:
        height = real_size(given.text("height"), "height")
    changed = Package(pattern=pattern, pixels=pixels, height=height)
    return Changed(plan.model_copy(update={"package": changed}), "how the package is named and sized")


def _pixels(text: str) -> tuple[int, ...]:
    words = [word for word in re.split(r"[\s,;]+", text) if word not in ("", "and", "px")]
    good = all(word.isdecimal() and 0 < int(word) <= 4096 for word in words)
    if not good or len(words) > limits.PICTURE_SIZES:
        reason = f"is up to {limits.PICTURE_SIZES} numbers from 1 to 4096, such as 16, 32, {PIXELS[-1]}"
        raise ChangeRefused("bad-change", path="pixels", reason=reason)
    return tuple(sorted({int(word) for word in words}))


def variant_of(plan: Plan, given: Given) -> Variant:
    """The variant of the `name` that is given.

    Raises:
        ChangeRefused: there is none.
    """
    name = given.text("name", limits.NAME_LENGTH)
    found = plan.variant(name)
    if found is None:
        known = listing([one.name for one in plan.variants]) or "none"
        raise ChangeRefused("no-variant", name=name, known=known)
    return found


def with_altered(plan: Plan, variant: Variant, changed: Plan) -> Plan:
    """The plan whose variant comes to a changed plan.

    Raises:
        ChangeRefused: that has other steps than the mark.
    """
    return _replaced(plan, variant, with_alterations(variant, plan, changed))


def with_variants_settled(plan: Plan) -> Plan:
    """The plan whose variants speak of nothing that is not there any more."""
    variants = tuple(settled(one, plan) for one in plan.variants)
    same = all(one is other for one, other in zip(variants, plan.variants, strict=True))
    return plan if same else plan.model_copy(update={"variants": variants})


def _require_known(plan: Plan, variant: Variant) -> None:
    require_sayable(variant.name)
    if variant.colourway and plan.colourway(variant.colourway) is None:
        known = listing([one.name for one in plan.colourways]) or "none"
        raise ChangeRefused("no-colourway", name=variant.colourway, known=known)
    measures = {measure.name for measure in plan.measures}
    for entry in variant.values:
        if entry.measure not in measures:
            raise ChangeRefused("no-measure", name=entry.measure)


def _replaced(plan: Plan, before: Variant, after: Variant) -> Plan:
    changed = tuple(after if one == before else one for one in plan.variants)
    return plan.model_copy(update={"variants": changed})


def _with_new(plan: Plan, made: Variant) -> Plan:
    if len(plan.variants) >= limits.VARIANTS:
        raise ChangeRefused("too-many", what="variants", most=limits.VARIANTS)
    if plan.variant(made.name) is not None:
        raise ChangeRefused("doubled-name", name=made.name)
    return plan.model_copy(update={"variants": (*plan.variants, made)})


CHANGES: Final[Mapping[str, Any]] = {
    "add-variant": add_variant,
    "remove-variant": remove_variant,
    "rename-variant": rename_variant,
    "copy-variant": copy_variant,
    "move-variant": move_variant,
    "set-variant": set_variant,
    "set-format": set_format,
    "set-variant-value": set_variant_value,
    "hush-in-variant": hush_in_variant,
    "retype-in-variant": retype_in_variant,
    "set-package": set_package,
}
