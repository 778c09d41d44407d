"""The clean report: sound files are vouched for, and files that were tampered with are not."""

from __future__ import annotations

import io
import json
import re
from dataclasses import replace
from pathlib import PurePosixPath
from unittest import TestCase

import pikepdf

from kagami.exchange.delivery.forms import ABOUT, FORMS
from kagami.exchange.delivery.making import made
from kagami.exchange.delivery.ordering import Order, order_of
from kagami.exchange.delivery.planning import Planned, of_one_colour, planned_files
from kagami.exchange.delivery.report import report_on
from kagami.exchange.sheets.leaf import Drawn, leaf_svg, leaves_pdf
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.language.text import parse_text
from kagami.plan.variants.variant import FORMATS
from tests.plan.marks import beams

CACHE = Cache()


def toned() -> Plan:
    """A disc in two tones and a bar, with colourways and variants in all formats."""
    formats = ", ".join(FORMATS)
    return parse_text(
        "Mark: Two tones\n"
        "Tone: sea = #2f7f86\n"
        "Tone: lamp = #e2a93b\n"
        "Circle disc on O with radius 5u.\n"
        "Bar beam from O at 30°, 1.2u wide and 8u long.\n"
        "Fill beam with lamp: lit.\n"
        "Fill disc with sea: wet.\n"
        "Colourway night: sea is #c9d6e2, lamp is #e2a93b, ground is #1f2c4a.\n"
        f"Variant full: nothing changed; as {formats}.\n"
        f"Variant dark, in night, on its plate: nothing changed; as {formats}.\n"
        f"Variant one, in one colour: nothing changed; as {formats}.\n"
        f"Variant back, reversed, on its plate: nothing changed; as {formats}.\n"
        f"Variant line, outlined: nothing changed; line 0.5u; as {formats}.\n"
        "Package: {brand}-{mark}-{variant}-{size}, 16, 48 and 300 px, 60mm high\n"
    )


def order_for(plan: Plan, name: str, size: int = 0) -> Order:
    return replace(order_of(plan, CACHE, plan.variant(name), brand="Vennik"), size=size)


class Sound(TestCase):
    def test_every_file_of_a_package_reads_back_as_the_plan(self) -> None:
        plan = toned()
        files = planned_files(plan, "Vennik", frozenset(of_one_colour(plan, CACHE)))
        self.assertEqual({one.form for one in files}, set(FORMS) - {"icon-set"})
        self.assertEqual(len({one.name.lower() for one in files}), len(files))
        for one in files:
            with self.subTest(one.name):
                report = made(plan, CACHE, one, brand="Vennik", change=3).report
                self.assertEqual(report.faults, ())
                self.assertEqual(report.needless, 0)
                if report.area_error is not None:
                    self.assertLess(report.area_error, 1e-4)

    def test_odd_names_of_pieces_and_roles(self) -> None:
        """Names that documents cannot have as they are, and such as come to the same in them."""
        plan = parse_text(
            "Tone: “pale 1” = #c9d6e2\n"
            "Tone: pale-1 = #2f7f86\n"
            "Circle disc on O with radius 5u.\n"
            "Circle eye on O with radius 1u.\n"
            "Bar beam from O at 30°, 1.2u wide and 8u long.\n"
            "Fill disc from bottom of disc to top of disc with a gradient of pale-1 and “pale 1”: pieces “shading 1”.\n"
            "Fill beam with “pale 1”: 1st.\n"
            "Fill eye with pale-1: “1/st”.\n"
            "Variant full: nothing changed; as svg, web.\n"
        )
        for one in planned_files(plan, "Vennik", frozenset()):
            with self.subTest(one.name):
                self.assertEqual(made(plan, CACHE, one).report.faults, ())

    def test_equal_plans_give_equal_bytes(self) -> None:
        for key, form in FORMS.items():
            first, second = (form.write(order_for(toned(), "one", form.pixels or 64)) for _ in range(2))
            self.assertEqual(first, second, key)

    def test_lengths_are_real_at_the_delivered_size(self) -> None:
        """The mark is 60 mm high: its thinnest part grows with it; pictures tell pixels."""
        plan = toned()
        order = order_for(plan, "one")
        report = report_on(order, FORMS["svg"], FORMS["svg"].write(order), CACHE)
        self.assertAlmostEqual(report.part, 1.2 * 60 / order.art.ink.height, places=3)
        order = replace(order, size=48)
        report = report_on(order, FORMS["png"], FORMS["png"].write(order), CACHE)
        self.assertTrue(report.pixels)
        self.assertEqual(max(report.size), 48)


class Tampered(TestCase):
    """Each is a check that has to fail."""

    def faults(self, form: str, change, size: int = 0) -> str:
        order = order_for(toned(), "dark", size or FORMS[form].pixels or 48)
        data = FORMS[form].write(order)
        changed = change(data)
        self.assertNotEqual(changed, data)
        return "; ".join(report_on(order, FORMS[form], changed, CACHE).faults)

    def test_another_colour(self) -> None:
        self.assertIn("#e2a93c", self.faults("svg", lambda data: data.replace(b"#e2a93b", b"#e2a93c")))

    def test_a_piece_that_is_gone(self) -> None:
        without = self.faults("svg", lambda data: re.sub(rb'<path id="[^>]*/>\n', b"", data, count=1))
        self.assertIn("it draws 2 pieces and not 3", without)

    def test_an_outline_that_is_off_by_a_thousandth_of_a_millimetre(self) -> None:
        def moved(data: bytes) -> bytes:
            path = re.search(rb' d="M([\d.]+) ', data[data.index(b"<path id") :])
            was = path[0]
            return data.replace(was, b' d="M%.4f ' % (float(path[1]) + 0.001))

        self.assertIn("lit is 0.001 mm off where it should be", self.faults("svg", moved))

    def test_another_size(self) -> None:
        self.assertIn("mm large", self.faults("svg", lambda data: re.sub(rb'width="[\d.]+mm"', b'width="10mm"', data)))

    def test_an_id_that_two_elements_have(self) -> None:
        twice = self.faults("svg", lambda data: data.replace(b'id="lit"', b'id="wet"'))
        self.assertIn("it holds 2 elements with the id wet", twice)

    def test_roles_that_share_a_variable_or_have_none(self) -> None:
        shared = self.faults("web-roles", lambda data: data.replace(b"--lamp", b"--sea"))
        self.assertIn("--sea sets lamp and sea", shared)
        bare = self.faults("web-roles", lambda data: data.replace(b"var(--lamp, #e2a93b)", b"#e2a93b"))
        self.assertIn("lit is painted with #e2a93b", bare)

    def test_a_stroke(self) -> None:
        stroked = self.faults("svg", lambda data: data.replace(b"<path id", b'<path stroke="#000" id', 1))
        self.assertIn("it holds stroke", stroked)

    def test_a_pdf_with_words_in_it(self) -> None:
        def written(data: bytes) -> bytes:
            import io

            with pikepdf.open(io.BytesIO(data)) as pdf:
                page = pdf.pages[0]
                font = pikepdf.Dictionary(
                    Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name.Helvetica
                )
                page.obj["/Resources"]["/Font"] = pikepdf.Dictionary(F1=font)
                page.contents_add(b"BT /F1 12 Tf 10 10 Td (x) Tj ET")
                out = io.BytesIO()
                pdf.save(out)
            return out.getvalue()

        self.assertIn("it holds text", self.faults("pdf", written))

    def test_a_picture_of_something_else(self) -> None:
        other = order_for(toned(), "line", 300)
        self.assertIn("apart", self.faults("png", lambda _data: FORMS["png"].write(other), 300))

    def test_a_picture_of_another_size(self) -> None:
        other = order_for(toned(), "dark", 299)
        self.assertIn("299 pixels", self.faults("png", lambda _data: FORMS["png"].write(other), 300))

    def test_icons_that_lack_a_size(self) -> None:
        other = order_for(toned(), "dark")
        from kagami.exchange.icons import write_ico

        lacking = self.faults("favicon", lambda _data: write_ico(other.art, (16, 48), other.behind))
        self.assertIn("pictures of 48, 16 pixels", lacking)

    def test_sheets_that_lack_something_or_have_it_elsewhere(self) -> None:
        """The mark on a page, a page, and the words of another mark."""
        order = order_for(toned(), "dark")
        for key, form in FORMS.items():
            if form.leaves is None:
                continue
            leaves = form.leaves(order)
            filled = [item for item in leaves[0].items if isinstance(item, Drawn) and item.fill and not item.ends][-1]
            lacking = replace(leaves[0], items=[item for item in leaves[0].items if item is not filled])
            elsewhere = [
                replace(item, place=replace(item.place, x=item.place.x + 4)) if item is filled else item
                for item in leaves[0].items
            ]
            for what, leaf in (("lacks", lacking), ("is moved", replace(leaves[0], items=elsewhere))):
                with self.subTest(key, what=what):
                    data = (
                        leaves_pdf([leaf, *leaves[1:]], "x") if form.ending == "pdf" else leaf_svg(leaf, "x").encode()
                    )
                    self.assertIn("apart", "; ".join(report_on(order, form, data, CACHE).faults))
            if form.ending == "pdf":
                found = report_on(order, form, leaves_pdf([*leaves, leaves[0]], "x"), CACHE).faults
                self.assertEqual(found, (f"it has {len(leaves) + 1} pages and not {len(leaves)}",))

    def test_a_page_of_another_size(self) -> None:
        for key in ("sheet-svg", "sheet-pdf", "overview"):
            form = FORMS[key]
            order = order_of(toned(), CACHE, None)
            assert form.leaves is not None
            data = form.write(order)
            if form.ending == "pdf":
                with pikepdf.open(io.BytesIO(data)) as document:
                    page = document.pages[-1]
                    page.mediabox = [value * 2 for value in map(float, page.mediabox)]
                    page.contents_add(b"2 0 0 2 0 0 cm", prepend=True)
                    out = io.BytesIO()
                    document.save(out)
                data = out.getvalue()
            else:
                data = re.sub(rb'"([\d.]+)mm"', lambda side: b'"%gmm"' % (2 * float(side[1])), data, count=2)
            leaf = form.leaves(order)[-1]
            with self.subTest(key):
                faults = report_on(order, form, data, CACHE).faults
                self.assertEqual(len(faults), 1, faults)
                self.assertIn(f"{2 * leaf.width:g} × {2 * leaf.height:g} mm large", faults[0])

    def test_a_plan_that_is_another(self) -> None:
        self.assertIn("another plan", self.faults("plan", lambda data: data.replace(b"Two tones", b"Two stones")))

    def test_a_manifest_that_does_not_read(self) -> None:
        self.assertIn("does not read", self.faults("icon-manifest", lambda data: data[:-4]))

    def test_a_manifest_of_other_icons(self) -> None:
        for old, new, fault in (
            (b"icon-192.png", b"icon-193.png", "it names icon-193.png, which is not beside it; it does not name"),
            (b"192x192", b"512x512", "it says of icon-192.png that it is 512x512, for any"),
            (b"maskable", b"any", "it says of icon-masked-512.png that it is 512x512, for any"),
        ):
            with self.subTest(new=new):
                said = self.faults("icon-manifest", lambda data, old=old, new=new: data.replace(old, new))
                self.assertIn(fault, said)

    def test_what_no_library_reads(self) -> None:
        for key, form in FORMS.items():
            if form.reads or form.leaves:
                with self.subTest(key):
                    self.assertIn(
                        "another library does not read it", self.faults(key, lambda data: data[: len(data) // 3])
                    )


class Files(TestCase):
    def test_variants_for_small_pictures_are_made_small_alone(self) -> None:
        plan = beams().plan.model_copy(
            update={"variants": parse_text("Variant small, below 33 px: nothing changed.").variants}
        )
        names = [one.size for one in planned_files(plan, "Vennik", frozenset()) if one.form == "png"]
        self.assertEqual(names, [16, 32])

    def test_variants_whose_names_are_one_in_files_have_folders_of_their_own(self) -> None:
        """The icons that a manifest names stand beside it, and are of its variant."""
        lines = (f"Variant {name}: nothing changed; as icons." for name in ("“one ink”", "one-ink", "“one ink 2”"))
        plan = beams().plan.model_copy(update={"variants": parse_text("\n".join(lines)).variants})
        files = {one.name: one for one in planned_files(plan, "Vennik", frozenset())}
        sites = [one for one in files.values() if one.form == "icon-manifest"]
        self.assertEqual(len(sites), 3)
        for site in sites:
            with self.subTest(site.variant):
                for icon in json.loads(made(plan, CACHE, site).data)["icons"]:
                    beside = files[f"{PurePosixPath(site.name).parent}/{icon['src']}"]
                    self.assertEqual(beside.variant, site.variant)

    def test_a_package_without_variants_is_empty(self) -> None:
        self.assertEqual(planned_files(beams().plan, "Vennik", frozenset()), ())

    def test_what_is_about_the_mark_is_there_once(self) -> None:
        files = planned_files(toned(), "Vennik", frozenset())
        about = [one.form for one in files if FORMS[one.form].format == ABOUT]
        self.assertEqual(sorted(about), ["built", "built-played", "overview", "plan", "sentences", "specimen"])

    def test_the_mark_as_it_is_built_is_tight_round_its_ink(self) -> None:
        plan = toned()
        done = made(plan, CACHE, Planned("x.svg", "", "svg"), brand="Vennik")
        self.assertEqual(done.report.faults, ())
        with_clear = made(plan, CACHE, Planned("y.svg", "full", "svg"), brand="Vennik")
        self.assertLess(done.report.size[0], with_clear.report.size[0])
