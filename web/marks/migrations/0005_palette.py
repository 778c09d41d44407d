"""Brands have a palette."""

from django.db import migrations, models


class Migration(migrations.Migration):
    """Empty at first."""

    dependencies = [("marks", "0004_brands_of_studios")]
    operations = [migrations.AddField("brand", "palette", models.JSONField(default=list))]
