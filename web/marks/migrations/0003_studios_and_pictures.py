"""Brands belong to studios, revisions have an author and a picture. Every owner of brands gets a studio of their own."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def studios_from_owners(apps, _editor):
    """A studio for each owner of brands; what was made so far was made by the owner."""
    brands, revisions = apps.get_model("marks", "Brand"), apps.get_model("marks", "Revision")
    studios, memberships = apps.get_model("accounts", "Studio"), apps.get_model("accounts", "Membership")
    users = apps.get_model(*settings.AUTH_USER_MODEL.split("."))
    for user in users.objects.filter(pk__in=brands.objects.values("owner")):
        studio = studios.objects.create(name=user.username)
        memberships.objects.create(studio=studio, user=user, role="owner")
        brands.objects.filter(owner=user).update(studio=studio)
        revisions.objects.filter(mark__brand__owner=user).update(author=user)


def owners_from_studios(apps, _editor):
    """Back: a brand belongs to its studio's first owner."""
    brands, memberships = apps.get_model("marks", "Brand"), apps.get_model("accounts", "Membership")
    for brand in brands.objects.all():
        first = memberships.objects.filter(studio=brand.studio_id, role="owner").order_by("since", "id").first()
        brand.owner_id = first.user_id
        brand.save()


class Migration(migrations.Migration):
    dependencies = [
        ("marks", "0002_handled"),
        ("accounts", "0001_studios"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.AddField(
            model_name="brand",
            name="studio",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.CASCADE, related_name="brands", to="accounts.studio"
            ),
        ),
        migrations.AddField(
            model_name="revision",
            name="author",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.SET_NULL,
                related_name="+",
                to=settings.AUTH_USER_MODEL,
            ),
        ),
        migrations.AddField(model_name="revision", name="picture", field=models.JSONField(null=True)),
        migrations.AlterField(
            model_name="brand",
            name="owner",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="+",
                to=settings.AUTH_USER_MODEL,
            ),
        ),
        migrations.RunPython(studios_from_owners, owners_from_studios),
    ]
