"""Names in documents: as XML wants them, and none given twice."""

from unittest import TestCase

from lxml import etree

from kagami.exchange.names import free_name, name_of, variables_of

ODD = (
    "1st",
    "été",
    "a b",
    "a-b",
    "a.b",
    "a:b",
    "x<y",
    "&",
    "Ω",
    "日本",
    "_",
    "-",
    "²",
    "½",
    "×",
    "“q”",
    "\u0301e",
    "9",
)


class Names(TestCase):
    def test_every_text_becomes_a_name_that_an_independent_reader_takes(self) -> None:
        """libxml2 checks attributes that are declared as ids against the production of names (XML 1.0, 3.3.1)."""
        for text in ODD:
            with self.subTest(text):
                name = name_of(text, "piece")
                document = f'<!DOCTYPE a [<!ELEMENT a EMPTY><!ATTLIST a id ID #REQUIRED>]><a id="{name}"/>'
                etree.fromstring(document, etree.XMLParser(dtd_validation=True))
                self.assertNotRegex(name, r"[.:\s]", "a selector would read it otherwise")

    def test_such_a_reader_refuses_what_is_no_name(self) -> None:
        document = '<!DOCTYPE a [<!ELEMENT a EMPTY><!ATTLIST a id ID #REQUIRED>]><a id="1st"/>'
        with self.assertRaises(etree.XMLSyntaxError):
            etree.fromstring(document, etree.XMLParser(dtd_validation=True))

    def test_letters_of_all_writings_are_kept(self) -> None:
        self.assertEqual([name_of(text, "piece") for text in ("été", "Ω", "日本")], ["été", "Ω", "日本"])

    def test_none_is_given_twice(self) -> None:
        taken: set[str] = set()
        names = [free_name(name_of(text, "piece"), taken) for text in ODD]
        self.assertEqual(len(set(names)), len(ODD))

    def test_each_role_has_a_variable_of_its_own(self) -> None:
        found = variables_of(["日本", "a b", "a-b", "日本", "&"])
        self.assertEqual(found, {"日本": "日本", "a b": "a-b", "a-b": "a-b-2", "&": "ink"})
