"""Batches, issues, scans and encounters; a placement names its capture by a plain key."""

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

import nailwright.common.rows

KINDS = [("pit", "PIT"), ("tbar", "T-bar"), ("dart", "Dart, one barb"), ("dart2", "Dart, two barbs"), ("metal", "Metal head"), ("disc", "Disc"), ("acoustic", "Acoustic"), ("radio", "Radio"), ("satellite", "Satellite"), ("archival", "Archival")]
STATES = [("stock", "In stock"), ("issued", "Issued"), ("placed", "In a fish"), ("shed", "Shed"), ("removed", "Taken out of a fish"), ("spoiled", "Spoiled"), ("lost", "Lost"), ("destroyed", "Destroyed"), ("elsewhere", "Seen on a fish, not of this stock")]


def key():
    return models.UUIDField(default=nailwright.common.rows.new_id, editable=False, primary_key=True, serialize=False)


def drop_key_to_capture(apps, schema_editor):
    with schema_editor.connection.cursor() as cursor:
        found = schema_editor.connection.introspection.get_constraints(cursor, "tags_placement")
    for name, each in found.items():
        if each["foreign_key"] and each["columns"] == ["capture_id"]:
            schema_editor.execute(f"ALTER TABLE tags_placement DROP FOREIGN KEY `{name}`")


def make_batches(apps, schema_editor):
    Tag, TagBatch = apps.get_model("tags", "Tag"), apps.get_model("tags", "TagBatch")
    for programme, kind, name in Tag.objects.exclude(batch_name="").values_list("programme", "kind", "batch_name").distinct():
        batch = TagBatch.objects.create(id=nailwright.common.rows.new_id(), programme_id=programme, kind=kind, name=name)
        Tag.objects.filter(programme=programme, kind=kind, batch_name=name).update(batch=batch)


class Migration(migrations.Migration):
    dependencies = [
        ("tags", "0001_initial"),
        ("programmes", "0002_waters"),
        ("waters", "0001_from_programmes_and_plan"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunPython(drop_key_to_capture, migrations.RunPython.noop)],
            state_operations=[
                migrations.RemoveField("placement", "capture"),
                migrations.AddField("placement", "capture_id", models.UUIDField(db_index=True)),
            ],
        ),
        migrations.AlterField("tag", "kind", models.CharField(choices=KINDS, max_length=10)),
        migrations.AlterField("tag", "state", models.CharField(choices=STATES, default="stock", max_length=10)),
        migrations.CreateModel(
            name="TagBatch",
            fields=[
                ("id", key()),
                ("kind", models.CharField(choices=KINDS, max_length=10)),
                ("name", models.CharField(max_length=40)),
                ("note", models.CharField(blank=True, max_length=200)),
                ("received", models.DateField(null=True)),
                ("programme", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="tag_batches", to="programmes.programme")),
            ],
            options={"constraints": [models.UniqueConstraint(fields=("programme", "kind", "name"), name="batch_once")]},
        ),
        migrations.RenameField("tag", "batch", "batch_name"),
        migrations.AddField("tag", "batch", models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="tags", to="tags.tagbatch")),
        migrations.RunPython(make_batches, migrations.RunPython.noop),
        migrations.RemoveField("tag", "batch_name"),
        migrations.AddField("placement", "tag_before", models.CharField(choices=STATES, default="stock", max_length=10)),
        migrations.AddField("placement", "body_site", models.CharField(blank=True, choices=[("dorsal", "Below the dorsal fin"), ("shoulder", "Shoulder muscle"), ("cheek", "Cheek muscle"), ("cavity", "Body cavity"), ("fin", "Fin")], max_length=8)),
        migrations.AddField("placement", "quality", models.CharField(blank=True, choices=[("good", "Good"), ("doubtful", "Doubtful"), ("second", "Second try")], max_length=8)),
        migrations.CreateModel(
            name="TagIssue",
            fields=[
                ("id", key()),
                ("boat", models.CharField(blank=True, max_length=60)),
                ("outing_id", models.UUIDField(null=True)),
                ("issued_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("returned_at", models.DateTimeField(null=True)),
                ("issuer", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL)),
                ("person", models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL)),
                ("tag", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="issues", to="tags.tag")),
            ],
            options={"abstract": False},
        ),
        migrations.CreateModel(
            name="Scan",
            fields=[
                ("id", key()),
                ("device_time", models.DateTimeField(default=django.utils.timezone.now)),
                ("server_time", models.DateTimeField(default=django.utils.timezone.now)),
                ("deleted_at", models.DateTimeField(null=True)),
                ("source_id", models.UUIDField(db_index=True)),
                ("kind", models.CharField(choices=KINDS, max_length=10)),
                ("number", models.CharField(max_length=24)),
                ("result", models.CharField(choices=[("known", "A mark known here"), ("foreign", "A mark not known here")], max_length=8)),
                ("reader", models.CharField(blank=True, max_length=40)),
                ("fish", models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="scans", to="tags.fish")),
                ("programme", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="scans", to="programmes.programme")),
                ("recorder", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
            ],
            options={"ordering": ["device_time", "id"], "indexes": [models.Index(fields=["programme", "kind", "number"], name="scan_number")]},
        ),
        migrations.CreateModel(
            name="Encounter",
            fields=[
                ("id", key()),
                ("kind", models.CharField(choices=[("capture", "Capture"), ("card", "Card"), ("return", "Return"), ("gate", "Gate")], max_length=8)),
                ("source_id", models.UUIDField()),
                ("outing_id", models.UUIDField(null=True)),
                ("at", models.DateTimeField()),
                ("at_error_s", models.FloatField(default=0)),
                ("lat", models.FloatField(null=True)),
                ("lon", models.FloatField(null=True)),
                ("error_m", models.FloatField(null=True)),
                ("length_mm", models.FloatField(null=True)),
                ("mass_g", models.FloatField(null=True)),
                ("fish", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="encounters", to="tags.fish")),
                ("site", models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="encounters", to="waters.site")),
            ],
            options={
                "ordering": ["at", "id"],
                "indexes": [models.Index(fields=["fish", "at"], name="encounter_life")],
                "constraints": [models.UniqueConstraint(fields=("kind", "source_id", "fish"), name="met_once")],
            },
        ),
    ]
