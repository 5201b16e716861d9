"""A finding is saved, and what tells its rows from others is a fingerprint."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("findings", "0005_zone_in_queries"), ("programmes", "0011_carry_keys")]

    operations = [
        migrations.RenameModel("KeptFinding", "SavedFinding"),
        migrations.RenameField("SavedFinding", "rows_mark", "fingerprint"),
        migrations.RenameField("SavedFinding", "keeper", "saved_by"),
        migrations.RenameField("SavedFinding", "kept_at", "saved_at"),
        migrations.RenameField("FindingAnswer", "mark", "fingerprint"),
        migrations.AlterField(
            "SavedFinding",
            "programme",
            models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="saved_findings", to="programmes.programme"),
        ),
        migrations.AlterModelOptions("savedfinding", options={"ordering": ["-saved_at"]}),
    ]
