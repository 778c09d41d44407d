"""Faces: the contact sheet, choosing, faces that a studio brings; what others see of them, which is nothing."""

from __future__ import annotations

from unittest import mock

from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse

from kagami.lettering.shelf import FOLDER, SHIPPED
from kagami.plan.language.text import parse_text
from tests.exchange.fonts.made import packed_bomb, small
from tests.web.studio import StudioCase
from web.accounts.models import Membership, Role
from web.evaluation.lent import StudioFaces, file_path
from web.faces import services
from web.faces.models import Typeface
from web.marks.models import Mark
from web.marks.services.shelving import make_brand, make_mark

PLAN = (
    "Mark: Tide\n"
    "Circle course on O with radius 6u, as a guide.\n"
    "Set “TIDE” in Jost, weight 600, caps 1u high, tracked 0.2u, along course, its middle at top of course, "
    "outside it by 0u, reading upright: name.\n"
    "Set “Harbour” in Bitter, weight 500, caps 1u high, its middle at O: kind.\n"
)


class FacesCase(StudioCase):
    """A mark with two lines of words."""

    def setUp(self) -> None:
        super().setUp()
        self.lettered = self.mark(parse_text(PLAN))

    def page(self, mark: Mark | None = None, client: Client | None = None, **query: str) -> str:
        answer = (client or self.client).get(reverse("faces", args=[(mark or self.lettered).id]), query)
        self.assertEqual(answer.status_code, 200)
        return answer.content.decode()

    def send(self, name: str, client: Client | None = None, mark: Mark | None = None, **data: object):
        data.setdefault("base", Mark.objects.get(pk=(mark or self.lettered).pk).current.number)
        with self.captureOnCommitCallbacks(execute=True):
            return (client or self.client).post(reverse(name, args=[(mark or self.lettered).id]), data)

    def bring(self, data: bytes | None = None, client: Client | None = None):
        return self.send("face-bring", client, font=SimpleUploadedFile("a.ttf", data or small(licence="Ours.")))

    def faces_in(self, mark: Mark) -> list[str]:
        return [str(step["face"]) for step in self.plan_of(mark).steps if "face" in type(step).model_fields]


class ContactSheet(FacesCase):
    def test_the_words_stand_in_every_face(self) -> None:
        text = self.page()
        for name in SHIPPED:
            self.assertIn(f'value="{name}"', text)
        self.assertEqual(text.count('aria-label="TIDE in '), len(SHIPPED))
        self.assertEqual(text.count("<path transform="), len("TIDE") * len(SHIPPED))
        self.assertIn("Harbour in Jost", self.page(at="kind"))

    def test_a_click_sets_the_words_in_that_face(self) -> None:
        answer = self.send("face-choose", at="kind", face="EB Garamond")
        self.assertEqual(answer.status_code, 302)
        self.assertEqual(self.faces_in(self.lettered), ["Jost", "EB Garamond"])
        self.send("faces-walk", way="undo", at="kind")
        self.assertEqual(self.faces_in(self.lettered), ["Jost", "Bitter"])

    def test_a_mark_without_words_gets_its_name(self) -> None:
        plain = self.mark()
        self.assertIn("no words yet", self.page(plain))
        self.assertEqual(self.send("face-choose", mark=plain, face="Cinzel").status_code, 302)
        step = self.plan_of(plain).steps[-1]
        self.assertEqual((step["text"], step["face"]), (plain.name, "Cinzel"))

    def test_what_a_face_lacks_is_on_its_card(self) -> None:
        mark = self.mark(parse_text("Mark: Shalom\nSet “שלום” in Noto Sans Hebrew, its middle at O: name.\n"))
        text = self.page(mark)
        self.assertEqual(text.count("no letter for"), len(SHIPPED) - 1)

    def test_odd_requests(self) -> None:
        self.assertEqual(self.send("face-choose", at="kind", face="").status_code, 422)
        self.assertEqual(self.send("face-choose", at="nothing", face="Jost").status_code, 422)
        self.assertEqual(self.send("face-choose", at="kind", face="Jost", base="1000").status_code, 409)
        self.assertEqual(self.send("face-bring").status_code, 422)
        self.assertEqual(self.send("face-away", face="Jost").status_code, 404)
        self.assertEqual(self.client.get(reverse("face-bring", args=[self.lettered.id])).status_code, 405)


class Brought(FacesCase):
    def test_a_face_is_brought_listed_and_used(self) -> None:
        self.assertEqual(self.bring().status_code, 302)
        face = Typeface.objects.get()
        self.assertEqual((face.name, face.glyphs, face.licence), ("Vennik Square", 28, "Ours."))
        self.assertTrue(default_storage.exists(face.path))
        text = self.page()
        self.assertIn("Vennik Square", text)
        self.assertIn("may be installed and embedded", text)
        self.assertEqual(self.send("face-choose", at="name", face="Vennik Square").status_code, 302)
        picture = Mark.objects.get(pk=self.lettered.pk).current.shown
        self.assertTrue(picture.paths)
        # Four squares of 0.2 em by 0.7 em, whose capitals are 1u high.
        bench = self.client.get(reverse("bench", args=[self.lettered.id])).content.decode()
        self.assertNotIn("There is no face", bench)

    def test_the_same_name_twice_and_a_shipped_name_are_refused(self) -> None:
        self.bring()
        self.assertEqual(self.bring().status_code, 422)
        answer = self.bring((FOLDER / "jost" / "latin-wght.ttf").read_bytes())
        self.assertContains(answer, "There is a face called Jost already", status_code=422)
        self.assertEqual(Typeface.objects.count(), 1)

    def test_hostile_files_are_refused_and_nothing_is_kept(self) -> None:
        for data in (b"not a font", packed_bomb(20), small()[:300]):
            answer = self.bring(data)
            self.assertEqual(answer.status_code, 422)
            self.assertIn('role="alert"', answer.content.decode())
        self.assertFalse(Typeface.objects.exists())
        self.assertEqual(StudioFaces(self.brand.studio_id).names(), ())

    def test_it_is_taken_away_only_where_no_mark_uses_it(self) -> None:
        self.bring()
        self.send("face-choose", at="name", face="Vennik Square")
        answer = self.send("face-away", face="Vennik Square")
        self.assertContains(answer, "is used by Tide", status_code=422)
        self.send("face-choose", at="name", face="Jost")
        path = Typeface.objects.get().path
        self.assertEqual(self.send("face-away", face="Vennik Square").status_code, 302)
        self.assertFalse(default_storage.exists(path))
        self.assertEqual(StudioFaces(self.brand.studio_id).names(), ())

    def test_a_face_that_is_gone_is_said_and_one_that_comes_is_found(self) -> None:
        mark = self.mark(parse_text("Mark: Later\nSet “TIDE” in Vennik Square, its middle at O: name.\n"))
        self.assertIn("There is no face", self.client.get(reverse("bench", args=[mark.id])).content.decode())
        self.bring()
        self.assertNotIn("There is no face", self.client.get(reverse("bench", args=[mark.id])).content.decode())

    def test_there_is_an_end_to_their_number(self) -> None:
        with mock.patch.object(services, "MOST_FACES", 1):
            self.bring()
            answer = self.bring(small(family="Another"))
        self.assertContains(answer, "at most 1 faces", status_code=422)


class Others(FacesCase):
    def test_another_studio_neither_sees_nor_uses_it(self) -> None:
        self.bring()
        theirs = make_mark(self.other, make_brand(self.other, "Ropewalk Works"), parse_text(PLAN))
        self.assertNotIn("Vennik Square", self.page(theirs, self.stranger))
        answer = self.stranger.post(
            reverse("face-choose", args=[theirs.id]), {"base": 1, "at": "name", "face": "Vennik Square"}
        )
        self.assertEqual(answer.status_code, 302)  # the name may be typed; the face is not there
        page = self.stranger.get(reverse("bench", args=[theirs.id])).content.decode()
        self.assertIn("There is no face “Vennik Square” at hand", page)
        for name in ("faces", "face-choose", "face-bring", "face-away"):
            ask = self.stranger.get if name == "faces" else self.stranger.post
            self.assertEqual(ask(reverse(name, args=[self.lettered.id])).status_code, 404)

    def test_viewers_look_and_change_nothing(self) -> None:
        self.bring()
        Membership.objects.create(studio=self.brand.studio, user=self.other, role=Role.VIEWER)
        self.assertIn("Vennik Square", self.page(client=self.stranger))
        self.assertEqual(self.bring(small(family="Theirs"), self.stranger).status_code, 403)
        self.assertEqual(self.send("face-away", self.stranger, face="Vennik Square").status_code, 403)
        self.assertEqual(self.send("face-choose", self.stranger, at="name", face="Cinzel").status_code, 403)
        self.assertEqual(Typeface.objects.count(), 1)

    def test_files_go_with_the_studio(self) -> None:
        self.bring()
        face = Typeface.objects.get()
        path = file_path(face.studio_id, face.digest)
        with self.captureOnCommitCallbacks(execute=True):
            Mark.objects.update(current=None)
            face.delete()
        self.assertFalse(default_storage.exists(path))
