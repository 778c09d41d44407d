"""An SVG as a tree that is safe to go through: read within limits, its styles told at each element, and what figures
cannot be made of taken out of it and remarked upon.

Sources: Scalable Vector Graphics (SVG) 1.1 (W3C 2011), 5 (document structure), 6 (styling), 11 (painting); CSS
Cascading and Inheritance Level 3 (W3C 2021) for which of several styles holds.
"""

from __future__ import annotations

import zlib
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final

from lxml import etree

from kagami.exchange.brought.errors import DrawingError, Remark, counted

MOST_BYTES: Final = 2_000_000
"""Of a file, and of what a packed one holds."""
MOST_ELEMENTS: Final = 4000
"""With all that is used again counted each time."""
MOST_DEPTH: Final = 60
MOST_RULES: Final = 500
SPACE: Final = "{http://www.w3.org/2000/svg}"
HREFS: Final = ("href", "{http://www.w3.org/1999/xlink}href")
PACKED: Final = b"\x1f\x8b"
PAINTS: Final = ("fill", "stroke")
OF_LINES: Final = ("stroke-dasharray", "stroke-linecap", "stroke-linejoin", "stroke-opacity", "stroke-width")
INHERITED: Final = ("fill", "fill-opacity", "fill-rule", "stroke", *OF_LINES, "visibility")
MARKERS: Final = ("marker", "marker-start", "marker-mid", "marker-end")
OF_ITSELF: Final = ("clip-path", "display", "filter", "mask", "opacity", "transform", "vector-effect")
"""Properties that are not inherited."""
STYLED: Final = (*INHERITED, *OF_ITSELF, *MARKERS, "color", "stop-color")
"""Properties that count; CSS knows them by the same names."""
LEFT_OUT: Final[Mapping[str, str]] = {
    "text": "svg-words",
    "image": "svg-picture",
    "foreignObject": "svg-foreign",
    "animate": "svg-moving",
    "animateTransform": "svg-moving",
    "animateMotion": "svg-moving",
    "set": "svg-moving",
}
"""Elements that no figure is made of, and what is said of them."""
SET_ASIDE: Final = {"style", "script", "metadata", "title", "desc", "clipPath", "mask", "pattern", "marker", "filter"}
"""Elements that are taken out without a word: they draw nothing themselves."""
DRAWN_WHOLE: Final[Mapping[str, str]] = {"clip-path": "svg-clipped", "mask": "svg-clipped", "filter": "svg-filtered"}


@dataclass(frozen=True, slots=True)
class Document:
    """A tree without what cannot be taken, and what is to be said of that."""

    root: Any
    remarks: tuple[Remark, ...]


def document_of(data: bytes) -> Document:
    """The tree of an SVG, packed or not.

    Raises:
        DrawingError: `svg-too-heavy`, `svg-unread` with its line, `svg-none`, `svg-too-many`, `svg-too-deep`,
            `svg-in-circles`.
    """
    root = _root(_unpacked(data))
    styles = _styles(root)
    _inline(root, styles)
    servers = {element.get("id"): element for element in root.iter() if _name(element).endswith("Gradient")}
    named = {element.get("id"): element for element in root.iter() if element.get("id")}
    _require_bounded(root, named)
    return Document(root, counted(_settled(root, servers)))


def _unpacked(data: bytes) -> bytes:
    if len(data) > MOST_BYTES:
        raise DrawingError("svg-too-heavy", most=MOST_BYTES // 1_000_000)
    if not data.startswith(PACKED):
        return data
    packed = zlib.decompressobj(wbits=zlib.MAX_WBITS | 16)
    try:
        found = packed.decompress(data, MOST_BYTES)
    except zlib.error as error:
        raise DrawingError("svg-none") from error
    if packed.unconsumed_tail:
        raise DrawingError("svg-too-heavy", most=MOST_BYTES // 1_000_000)
    return found


def _root(data: bytes) -> Any:
    """The tree as XML. Nothing outside the file is read, and no entity grows beyond what the parser allows."""
    parser = etree.XMLParser(
        resolve_entities="internal", no_network=True, load_dtd=False, remove_comments=True, remove_pis=True
    )
    try:
        root = etree.fromstring(data.lstrip(), parser)
    except etree.XMLSyntaxError as error:
        if b"<svg" not in data:
            raise DrawingError("svg-none") from error
        reason = str(error.msg).partition(", line ")[0]  # where is told already
        raise DrawingError("svg-unread", line=error.lineno or 1, reason=reason) from error
    except ValueError as error:  # an empty file
        raise DrawingError("svg-none") from error
    if root.tag == "svg":  # written without its namespace, as pieces of pages are
        for element in root.iter():
            if isinstance(element.tag, str) and not element.tag.startswith("{"):
                element.tag = f"{SPACE}{element.tag}"
    if root.tag != f"{SPACE}svg":
        raise DrawingError("svg-none")
    return root


def _name(element: Any) -> str:
    """What an element is called, empty outside SVG."""
    tag = element.tag
    return tag.removeprefix(SPACE) if isinstance(tag, str) and tag.startswith(SPACE) else ""


def _styles(root: Any) -> Iterator[tuple[Any, dict[str, str]]]:
    """Each element with the declarations that hold for it, the winning ones alone."""
    import cssselect2
    import tinycss2

    matcher, rules = cssselect2.Matcher(), 0
    for sheet in root.iter(f"{SPACE}style"):
        text = "".join(sheet.itertext())
        for rule in tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True):
            if rule.type != "qualified-rule" or rules >= MOST_RULES:
                continue  # rules about media and faces say nothing of a figure
            rules += 1
            declared = _declared(rule.content)
            try:
                selectors = cssselect2.compile_selector_list(rule.prelude)
            except cssselect2.SelectorError:
                continue  # what cannot be understood holds for nothing (CSS Syntax Level 3, 9)
            for selector in selectors:
                if selector.pseudo_element is None:
                    matcher.add_selector(selector, declared)
    for one in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree():
        found = [declared for _specificity, _order, _pseudo, declared in matcher.match(one)] if rules else []
        yield one.etree_element, _winning([*found, _declared(one.etree_element.get("style", ""))])


def _declared(content: Any) -> list[tuple[str, str, bool]]:
    """The properties that a text, or what a rule holds, declares, with their values, and whether they are important."""
    import tinycss2

    found = tinycss2.parse_declaration_list(content, skip_comments=True, skip_whitespace=True)
    return [
        (one.lower_name, tinycss2.serialize(one.value).strip(), one.important)
        for one in found
        if one.type == "declaration" and one.lower_name in STYLED
    ]


def _winning(declared: Iterable[list[tuple[str, str, bool]]]) -> dict[str, str]:
    """The later ones win, important ones over all others."""
    plain: dict[str, str] = {}
    important: dict[str, str] = {}
    for declarations in declared:
        for name, value, strong in declarations:
            (important if strong else plain)[name] = value
    return plain | important


def _inline(root: Any, styles: Iterable[tuple[Any, dict[str, str]]]) -> None:
    """What holds for an element as attributes of it: styles before attributes; inherited words put as if unsaid."""
    for element, declared in list(styles):
        element.attrib.pop("style", None)
        for name, value in declared.items():
            element.set(name, value)
        for name in STYLED:
            if element.get(name) == "inherit" and name not in OF_ITSELF:
                del element.attrib[name]
    for element in root.iter():  # from the root down, so that a parent's colour stands already
        above = element.getparent()
        if element.get("color") in (None, "currentColor", "currentcolor"):
            element.set("color", "black" if above is None else above.get("color", "black"))
        for paint in PAINTS:
            if (element.get(paint) or "").lower() == "currentcolor":
                element.set(paint, element.get("color"))


def _require_bounded(root: Any, named: Mapping[str, Any]) -> None:
    """Refuse a tree that comes to too much, or too deep, once all that is used stands where it is used."""
    known: dict[Any, tuple[int, int]] = {}
    under_way: set[Any] = set()

    def size(element: Any, depth: int) -> tuple[int, int]:
        """How many elements there are from one down, and how many levels of them."""
        if element in under_way:
            raise DrawingError("svg-in-circles", line=line_of(element))
        if element not in known:
            if depth > MOST_DEPTH:
                raise DrawingError("svg-too-deep", most=MOST_DEPTH, line=line_of(element))
            under_way.add(element)
            used = named.get(target(element)) if _name(element) == "use" else None
            below = [size(one, depth + 1) for one in (*element, *([used] if used is not None else []))]
            under_way.discard(element)
            known[element] = (
                1 + sum(count for count, _levels in below),
                1 + max((two for _one, two in below), default=0),
            )
        count, levels = known[element]
        if count > MOST_ELEMENTS:
            raise DrawingError("svg-too-many", most=MOST_ELEMENTS)
        if depth + levels > MOST_DEPTH + 1:
            raise DrawingError("svg-too-deep", most=MOST_DEPTH, line=line_of(element))
        return count, levels

    size(root, 0)


def line_of(element: Any) -> int:
    """The line of its file that an element begins in."""
    return int(element.sourceline or 1)


def target(element: Any) -> str:
    """The id that an element refers to, empty where to none in its file."""
    href = next((element.get(name) for name in HREFS if element.get(name)), "")
    return href[1:] if href.startswith("#") else ""


def _settled(element: Any, servers: Mapping[str, Any]) -> Iterator[Remark]:
    """Take what no figure is made of out of an element, and say what of the rest is not taken as it stands."""
    line = line_of(element)
    for held, code in DRAWN_WHOLE.items():
        if element.get(held, "none") != "none":
            yield Remark(code, line)
    for paint in PAINTS:
        if element.get(paint, "").startswith("url("):
            yield Remark("svg-gradient", line)
            element.set(paint, _first_tone(element.get(paint), servers))
    if any(element.get(one, "none") != "none" for one in MARKERS):
        yield Remark("svg-marked", line)
    for child in list(element):
        name = _name(child)
        if name in LEFT_OUT:
            yield Remark(LEFT_OUT[name], line_of(child))
        if name in LEFT_OUT or name in SET_ASIDE or not name:
            element.remove(child)
        else:
            yield from _settled(child, servers)


def _first_tone(paint: str, servers: Mapping[str, Any]) -> str:
    """The first tone of the gradient that a paint names; what it says for where there is none; else none."""
    inside, _, instead = paint.removeprefix("url(").partition(")")
    server, gone_through = servers.get(inside.strip("'\" ").removeprefix("#")), 0
    while server is not None and gone_through < MOST_DEPTH:
        stop = server.find(f"{SPACE}stop")
        if stop is not None:
            colour: str = stop.get("stop-color") or "black"
            return colour
        server, gone_through = servers.get(target(server)), gone_through + 1
    return instead.strip() or "none"
