"""Drawings are read within limits, styles hold as CSS says, and what is left out is said with its line."""

from __future__ import annotations

import gzip
from unittest import TestCase

from kagami.exchange.brought.document import MOST_BYTES, MOST_DEPTH, MOST_ELEMENTS, document_of
from kagami.exchange.brought.drawn import drawn
from kagami.exchange.brought.errors import DrawingError
from tests.exchange.brought.drawings import svg


def refusal(data: bytes) -> DrawingError:
    try:
        drawn(data)
    except DrawingError as error:
        return error
    raise AssertionError("it was taken")


class Limits(TestCase):
    def test_what_is_no_svg(self) -> None:
        for data in (b"", b"   ", b"%PDF-1.7", b"\x89PNG\r\n", b"<html><p>Vennik</p></html>", b'<drawing xmlns="x"/>'):
            self.assertEqual(refusal(data).code, "svg-none", data)

    def test_a_broken_one_says_where(self) -> None:
        error = refusal(b'<svg xmlns="http://www.w3.org/2000/svg">\n<path d="M0 0"\n<rect/></svg>')
        self.assertEqual((error.code, error.values["line"]), ("svg-unread", 3))
        self.assertIn("line 3", str(error))

    def test_entities_do_not_grow_and_nothing_outside_is_read(self) -> None:
        """The laughs of 1999, and an entity that names a file."""
        laughs = "".join(f'<!ENTITY l{k} "{f"&l{k - 1};" * 10}">' for k in range(1, 12))
        bomb = (
            f'<!DOCTYPE svg [<!ENTITY l0 "ha">{laughs}]><svg xmlns="http://www.w3.org/2000/svg"><g id="&l11;"/></svg>'
        )
        self.assertEqual(refusal(bomb.encode()).code, "svg-unread")
        outside = (
            b'<!DOCTYPE svg [<!ENTITY secret SYSTEM "file:///etc/passwd">]>'
            b'<svg xmlns="http://www.w3.org/2000/svg"><style>&secret;</style><rect width="3" height="3"/></svg>'
        )
        try:
            document = document_of(outside)
        except DrawingError as error:
            self.assertEqual(error.code, "svg-unread")
        else:
            self.assertNotIn("root:", "".join(document.root.itertext()))

    def test_entities_of_its_own_are_read(self) -> None:
        """As some programs write the names of namespaces."""
        data = (
            b'<!DOCTYPE svg [<!ENTITY ns "http://www.w3.org/2000/svg">]><svg xmlns="&ns;" viewBox="0 0 9 9">'
            b'<rect width="3" height="3"/></svg>'
        )
        self.assertEqual(len(drawn(data).painted), 1)

    def test_what_is_used_and_used_again_is_counted(self) -> None:
        levels = "".join(
            f'<g id="a{k}">{f"<use href=#a{k - 1} />" * 10}</g>'.replace("#", '"#').replace(" /", '"/')
            for k in range(1, 8)
        )
        bomb = svg(f'<g id="a0"><rect width="1" height="1"/></g>{levels}')
        error = refusal(bomb)
        self.assertEqual((error.code, error.values["most"]), ("svg-too-many", MOST_ELEMENTS))

    def test_what_is_used_within_itself(self) -> None:
        self.assertEqual(
            refusal(svg('<g id="a"><use href="#b"/></g>\n<g id="b"><use href="#a"/></g>')).code, "svg-in-circles"
        )

    def test_depth(self) -> None:
        depth = MOST_DEPTH + 2
        self.assertEqual(
            refusal(svg("<g>" * depth + '<rect width="1" height="1"/>' + "</g>" * depth)).code, "svg-too-deep"
        )

    def test_depth_through_what_is_used(self) -> None:
        """Each level uses the one before, which is known by then."""
        levels = "".join(f'<g id="a{k}"><use href="#a{k - 1}"/></g>' for k in range(1, 400))
        chain = svg(f'<defs><rect id="a0" width="1" height="1"/>{levels}</defs><use href="#a399"/>')
        self.assertEqual(refusal(chain).code, "svg-too-deep")
        short = levels.split('<g id="a20">')[0]
        self.assertEqual(len(drawn(svg(f'<rect id="a0" width="1" height="1"/>{short}')).painted), 20)

    def test_a_packed_one_is_read_and_a_packed_bomb_is_not(self) -> None:
        self.assertEqual(len(drawn(gzip.compress(svg('<rect width="3" height="3"/>'))).painted), 1)
        self.assertEqual(refusal(gzip.compress(b"<svg>" + b" " * 3 * MOST_BYTES)).code, "svg-too-heavy")
        self.assertEqual(refusal(b"\x1f\x8bnothing").code, "svg-none")
        self.assertEqual(refusal(b"<svg>" + b" " * MOST_BYTES).code, "svg-too-heavy")

    def test_nothing_is_drawn(self) -> None:
        for inside in (
            "",
            "<text>Vennik</text>",
            '<rect width="0" height="4"/>',
            '<g display="none"><circle r="2"/></g>',
        ):
            self.assertEqual(refusal(svg(inside)).code, "svg-nothing", inside)


class Styles(TestCase):
    """Source: CSS Cascading and Inheritance Level 3 (W3C 2021), 6; SVG 1.1 (W3C 2011), 6.4: attributes come first."""

    def fill(self, rules: str, attributes: str, around: str = "") -> str | None:
        sail = f'<rect id="sail" class="red wide" width="3" height="3" {attributes}/>'
        return drawn(svg(f"<style>{rules}</style><g {around}>{sail}</g>")).painted[0].fill

    def test_which_of_several_holds(self) -> None:
        red, blue, green = "#ff0000", "#0000ff", "#008000"
        cases = [
            ("", 'fill="red"', red),
            ("rect { fill: blue }", 'fill="red"', blue),
            ("rect { fill: blue } .red { fill: red }", "", red),
            (".red { fill: red } rect { fill: blue }", "", red),
            (".red.wide { fill: green } .red { fill: red }", "", green),
            ("#sail { fill: green } .red.wide { fill: red }", "", green),
            (".red { fill: red }", 'style="fill: blue"', blue),
            (".red { fill: red !important }", 'style="fill: blue"', red),
            ("g > rect { fill: blue }", "", blue),
            (
                "g rect:hover { fill: blue } @media print { rect { fill: red } } ::p { fill: red }",
                'fill="lime"',
                "#00ff00",
            ),
            ("this { is { not css", 'fill="red"', red),
        ]
        for rules, attributes, wanted in cases:
            self.assertEqual(self.fill(rules, attributes), wanted, (rules, attributes))

    def test_what_is_inherited(self) -> None:
        self.assertEqual(self.fill("", "", 'fill="#123456"'), "#123456")
        self.assertEqual(self.fill("", 'fill="inherit"', 'fill="#123456"'), "#123456")
        self.assertEqual(self.fill("", 'fill="currentColor"', 'color="teal"'), "#008080")
        self.assertEqual(self.fill("g { color: teal }", 'fill="currentColor" color="navy"'), "#000080")
        self.assertEqual(self.fill("", ""), "#000000")

    def test_colours_in_every_notation(self) -> None:
        """Values by CSS Color Level 4 (W3C 2022), 6 and 7, reckoned by hand."""
        for text, wanted in [
            ("#1af", "#11aaff"),
            ("rebeccapurple", "#663399"),
            ("rgb(10%, 20%, 30%)", "#1a334d"),
            ("rgb(255 0 0)", "#ff0000"),
            ("rgb(300, -5, 0)", "#ff0000"),
            ("hsl(120, 100%, 25%)", "#008000"),
        ]:
            self.assertEqual(self.fill("", f'fill="{text}"'), wanted, text)
        self.assertEqual(len(drawn(svg('<g fill="none"><rect width="3" height="3"/></g><circle r="2"/>')).painted), 1)


class Remarks(TestCase):
    def said(self, inside: str) -> list[tuple[str, int, int]]:
        found = drawn(svg(f'<rect width="9" height="9"/>\n{inside}'))
        return [(remark.code, remark.line, remark.count) for remark in found.remarks]

    def test_what_is_left_out_is_said_with_its_line(self) -> None:
        shape = 'width="3" height="3"'
        for inside, code in [
            ("<text>Vennik</text>", "svg-words"),
            ('<image href="quay.png" width="3" height="3"/>', "svg-picture"),
            ("<foreignObject><p/></foreignObject>", "svg-foreign"),
            ('<rect width="2" height="2"><animate attributeName="x"/></rect>', "svg-moving"),
            (f'<rect {shape} clip-path="url(#c)"/>', "svg-clipped"),
            (f'<rect {shape} style="mask: url(#m)"/>', "svg-clipped"),
            (f'<rect {shape} filter="url(#f)"/>', "svg-filtered"),
            (f'<rect {shape} opacity="0.5"/>', "svg-see-through"),
            (f'<rect {shape} fill="#12345680"/>', "svg-see-through"),
            (f'<rect {shape} fill="bogus"/>', "svg-colour"),
            ('<path d="M0 0h3v3z" stroke="red" stroke-dasharray="1 2"/>', "svg-dashed"),
            ('<path d="M0 0h3v3z" stroke="red" transform="scale(2 1)"/>', "svg-stretched"),
            ('<path d="M0 0h3v3z" marker-end="url(#m)"/>', "svg-marked"),
            ('<path d="M0 0h3v3 L 4"/>', "svg-value"),
            ('<rect width="3 miles" height="3"/>', "svg-value"),
            ('<use href="#nothing"/>', "svg-lost"),
        ]:
            self.assertEqual(self.said(inside), [(code, 2, 1)], inside)

    def test_they_are_counted(self) -> None:
        self.assertEqual(self.said("<text/>\n<text/><g>\n<text/></g>"), [("svg-words", 2, 3)])
        self.assertIn("Line 2", str(drawn(svg('<rect width="9" height="9"/>\n<text/>')).remarks[0]))

    def test_what_draws_nothing_is_left_out_without_a_word(self) -> None:
        inside = (
            '<title>Buoy</title><desc/><metadata/><defs><clipPath id="c"><path d="broken"/></clipPath></defs>'
            '<mask id="m"><text>x</text></mask><pattern><image/></pattern><o:p xmlns:o="urn:vennik"/>'
        )
        self.assertEqual(self.said(inside), [])

    def test_a_gradient_has_its_first_tone(self) -> None:
        gradient = (
            '<linearGradient id="a"><stop style="stop-color: #102030"/><stop offset="1"/></linearGradient>'
            '<radialGradient id="b" href="#a"/>'
        )
        for paint, wanted in (("url(#a)", "#102030"), ("url('#b')", "#102030"), ("url(#c) lime", "#00ff00")):
            found = drawn(svg(f'{gradient}<rect width="3" height="3" fill="{paint}"/>'))
            self.assertEqual(found.painted[0].fill, wanted)
            self.assertEqual([remark.code for remark in found.remarks], ["svg-gradient"])
