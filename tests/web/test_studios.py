"""Studios: who sees and who changes what, who made which revision, and what becomes of them."""

from __future__ import annotations

from django.contrib.auth import get_user_model
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase
from django.urls import reverse

from tests.plan.marks import beams
from tests.web.studio import StudioCase
from web.accounts.models import Role, Studio
from web.accounts.services.studios import add_member
from web.marks.models import Brand, Mark, Revision
from web.signing.removal import remove_account


class Roles(StudioCase):
    def join(self, role: Role) -> None:
        add_member(self.brand.studio, self.other, role)

    def test_a_designer_of_the_studio_works_on_its_marks_and_is_named_as_author(self) -> None:
        mark = self.mark()
        self.join(Role.DESIGNER)
        answer = self.change(mark, "set-field", self.stranger, step="rim", field="radius", value="7u")
        self.assertEqual(answer.status_code, 200)
        self.assertEqual([revision.author for revision in mark.revisions.all()], [self.owner, self.other])

    def test_a_viewer_looks_and_changes_nothing(self) -> None:
        mark = self.mark()
        self.join(Role.VIEWER)
        for name in ("bench", "delivery", "delivery-svg"):
            self.assertEqual(self.stranger.get(reverse(name, args=[mark.id])).status_code, 200)
        self.assertContains(self.stranger.get(reverse("shelf")), mark.name)
        answer = self.change(mark, "set-field", self.stranger, step="rim", field="radius", value="7u")
        self.assertContains(answer, "not change it", status_code=403)
        for name in ("bench-undo", "bench-redo"):
            self.assertEqual(self.post(name, mark, self.stranger).status_code, 403)
        pages = [
            ("copy-mark", mark.id),
            ("remove-mark", mark.id),
            ("brand", self.brand.id),
            ("new-mark", self.brand.id),
        ]
        for name, number in pages:
            answer = self.stranger.post(reverse(name, args=[number]), {"name": "Other", "title": "Other"})
            self.assertContains(answer, "Only to look at", status_code=403)
        self.assertEqual(Mark.objects.count(), 1)
        self.assertEqual(Mark.objects.get().current.number, 1)

    def test_a_viewers_own_brands_go_to_a_studio_of_their_own(self) -> None:
        self.join(Role.VIEWER)
        self.stranger.post(reverse("new-brand"), {"name": "Ropewalk Works"})
        self.assertEqual(Brand.objects.get(name="Ropewalk Works").studio.name, "neighbour")

    def test_a_shared_studio_outlives_an_account_and_gets_an_owner(self) -> None:
        mark = self.mark()
        self.join(Role.DESIGNER)
        remove_account(self.owner)
        mark = Mark.objects.get(pk=mark.pk)
        self.assertIsNone(mark.current.author)
        membership = mark.brand.studio.memberships.get()
        self.assertEqual((membership.user, membership.role), (self.other, Role.OWNER))
        remove_account(self.other)
        self.assertFalse(Studio.objects.exists() or Revision.objects.exists())


class Pictures(StudioCase):
    def test_they_are_stored_with_each_revision_and_the_shelf_evaluates_nothing(self) -> None:
        mark = self.mark()
        self.change(mark, "set-field", step="rim", field="radius", value="7u")
        first, second = (revision.shown for revision in mark.revisions.all())
        self.assertTrue(first.paths and second.paths)
        self.assertNotEqual(first, second)
        mark.revisions.update(plan={})
        self.assertContains(self.client.get(reverse("shelf")), second.paths[0].data)


class Migration(TransactionTestCase):
    """Brands of owners, as they were, become brands of studios."""

    def tearDown(self) -> None:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def test_every_owner_of_brands_gets_a_studio_with_all_of_them(self) -> None:
        executor = MigrationExecutor(connection)
        executor.migrate([("marks", "0002_handled")])
        old = executor.loader.project_state([("marks", "0002_handled")]).apps
        user = get_user_model().objects.create_user("designer", password="a long password")
        get_user_model().objects.create_user("visitor", password="a long password")
        brand = old.get_model("marks", "Brand").objects.create(owner_id=user.pk, name="Vennik Light Trust")
        mark = old.get_model("marks", "Mark").objects.create(brand=brand, name="Beams")
        plan = beams().plan.model_dump(mode="json")
        mark.current = old.get_model("marks", "Revision").objects.create(mark=mark, number=1, plan=plan, words="begun")
        mark.save()
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())
        found = Mark.objects.get()
        self.assertEqual(list(found.brand.studio.members.all()), [user])
        self.assertEqual(found.current.author, user)
        self.assertEqual(found.current.load(), beams().plan)
        self.assertEqual(Studio.objects.count(), 1)
        self.assertEqual(found.current.shown.paths, ())
        executor = MigrationExecutor(connection)
        executor.migrate([("marks", "0002_handled")])
        old = executor.loader.project_state([("marks", "0002_handled")]).apps
        self.assertEqual(old.get_model("marks", "Brand").objects.get().owner_id, user.pk)
