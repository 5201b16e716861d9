"""An outing keeps the protocol it was made under; how a fish left becomes a fate, with strength, reason and the old word beside it."""

import django.db.models.deletion
from django.db import migrations, models
from django.db.models import Case, F, Value, When


def to_fates(apps, schema_editor):
    rows = apps.get_model("deck", "Release")._base_manager.filter(fate__in=("alive", "weak"))
    rows.update(word=F("fate"))
    rows.update(fate="released")


def to_codes(apps, schema_editor):
    rows = apps.get_model("deck", "Release")._base_manager
    rows.filter(fate="released").update(fate=Case(When(word="weak", then=Value("weak")), default=Value("alive")))
    rows.filter(fate="taken").update(fate="kept")


class Migration(migrations.Migration):
    dependencies = [("deck", "0013_allowances"), ("programmes", "0007_protocols")]

    operations = [
        migrations.AddField(
            "outing",
            "protocol",
            models.ForeignKey(
                help_text="Under which it was made",
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="outings",
                to="programmes.protocolversion",
            ),
        ),
        migrations.RenameField("release", "code", "fate"),
        migrations.AddField("release", "strength", models.PositiveSmallIntegerField(null=True)),
        migrations.AddField("release", "reason", models.CharField(blank=True, max_length=20, default=""), preserve_default=False),
        migrations.AddField("release", "taken_to", models.CharField(blank=True, max_length=20, default=""), preserve_default=False),
        migrations.AddField("release", "word", models.CharField(blank=True, max_length=20, default=""), preserve_default=False),
        migrations.RunPython(to_fates, to_codes),
        migrations.AlterField(
            "release",
            "fate",
            models.CharField(
                max_length=8,
                choices=[
                    ("released", "Released"),
                    ("dead", "Dead"),
                    ("kept", "Kept"),
                    ("escaped", "Escaped before release"),
                    ("taken", "Taken to"),
                ],
            ),
        ),
    ]
