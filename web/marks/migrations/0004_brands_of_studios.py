"""Brands have no owner beside their studio any more."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("marks", "0003_studios_and_pictures")]
    operations = [
        migrations.RemoveConstraint(model_name="brand", name="brand_named_once"),
        migrations.RemoveField(model_name="brand", name="owner"),
        migrations.AlterField(
            model_name="brand",
            name="studio",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="brands", to="accounts.studio"
            ),
        ),
        migrations.AddConstraint(
            model_name="brand",
            constraint=models.UniqueConstraint(fields=("studio", "name"), name="brand_named_once"),
        ),
    ]
