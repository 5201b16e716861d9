"""Outings and runs point to the waters' own app; the database's keys stay as they are."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("deck", "0009_target_reach"), ("waters", "0001_from_programmes_and_plan")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField("outing", "water", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="outings", to="waters.water")),
                migrations.AlterField("run", "site", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="runs", to="waters.site")),
            ]
        )
    ]
