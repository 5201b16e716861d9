"""Seasons, surveys and planned sites point to the waters' own app, and the zones have moved there."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("plan", "0004_well_to_limits"), ("waters", "0001_from_programmes_and_plan")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField("season", "water", models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name="seasons", to="waters.water")),
                migrations.AlterField("survey", "water", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="surveys", to="waters.water")),
                migrations.AlterField("plannedsite", "site", models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="planned", to="waters.site")),
                migrations.DeleteModel("Zone"),
            ]
        )
    ]
