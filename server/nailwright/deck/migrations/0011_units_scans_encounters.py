"""Each text's unit stands beside it; numbers read are rows of their own; encounters and receipts of what is there.

A capture names the file that brought it by a plain key.
"""

from django.db import migrations, models

from nailwright.common.rows import new_id
from nailwright_core.common.quantities import unit_giving

BATCH = 2000
#: A site is a stretch, not a point.
SITE_ERROR_M = 500.0


def drop_key_to_import(apps, schema_editor):
    with schema_editor.connection.cursor() as cursor:
        found = schema_editor.connection.introspection.get_constraints(cursor, "deck_capture")
    for name, each in found.items():
        if each["foreign_key"] and each["columns"] == ["brought_in_id"]:
            schema_editor.execute(f"ALTER TABLE deck_capture DROP FOREIGN KEY `{name}`")


def find_units(apps, schema_editor):
    """The unit in which each text gives the figure that is stored; none where no unit does."""
    Capture = apps.get_model("deck", "Capture")
    known = {}
    changed = []
    rows = Capture.objects.exclude(length_text="", mass_text="").select_related("run__outing").only(
        "length_mm", "length_text", "mass_g", "mass_text", "run__outing__length_unit", "run__outing__mass_unit"
    )
    for capture in rows.iterator(chunk_size=BATCH):
        outing = capture.run.outing
        for what, value, text, first in (
            ("length", capture.length_mm, capture.length_text, outing.length_unit),
            ("mass", capture.mass_g, capture.mass_text, outing.mass_unit),
        ):
            key = what, value, text, first
            if key not in known:
                known[key] = unit_of(*key)
            setattr(capture, f"{what}_unit", known[key])
        changed.append(capture)
        if len(changed) == BATCH:
            Capture.objects.bulk_update(changed, ["length_unit", "mass_unit"], batch_size=500)
            changed.clear()
    Capture.objects.bulk_update(changed, ["length_unit", "mass_unit"], batch_size=500)


def unit_of(what, value, text, first):
    return unit_giving(what, text, value, first) if text and value is not None else ""


def make_scans(apps, schema_editor):
    Capture, Scan = apps.get_model("deck", "Capture"), apps.get_model("tags", "Scan")
    rows = Capture.objects.exclude(scan_text="").values_list(
        "pk", "programme_id", "scan_text", "scanned", "fish_id", "recorder_id", "device_time", "server_time", "deleted_at"
    )
    made = []
    for pk, programme, text, scanned, fish, recorder, device_time, server_time, deleted_at in rows.iterator(BATCH):
        kind, number = text.split(" ", 1)
        known = scanned == "known"
        made.append(
            Scan(
                id=new_id(), programme_id=programme, source_id=pk, kind=kind, number=number, recorder_id=recorder,
                result="known" if known else "foreign", fish_id=fish if known else None,
                device_time=device_time, server_time=server_time, deleted_at=deleted_at,
            )
        )
    Scan.objects.bulk_create(made, batch_size=BATCH)


def make_encounters(apps, schema_editor):
    Capture, Encounter = apps.get_model("deck", "Capture"), apps.get_model("tags", "Encounter")
    rows = Capture.objects.filter(deleted_at=None, run__deleted_at=None).exclude(fish=None).select_related("run__site")
    made = []
    for capture in rows.iterator(chunk_size=BATCH):
        site = capture.run.site
        point = (site.geometry or {}).get("type") == "Point"
        lon, lat = site.geometry["coordinates"][:2] if point else (None, None)
        made.append(
            Encounter(
                id=new_id(), fish_id=capture.fish_id, kind="capture", source_id=capture.pk, outing_id=capture.run.outing_id,
                at=capture.device_time, site=site, lat=lat, lon=lon, error_m=SITE_ERROR_M,
                length_mm=capture.length_mm if capture.length_basis == "measured" else None,
                mass_g=capture.mass_g if capture.mass_basis == "measured" else None,
            )
        )
    Encounter.objects.bulk_create(made, batch_size=BATCH)


def tags_of_files(apps, schema_editor):
    """A tag that a file made was never in stock: with its file taken back it does not go there."""
    Capture, Placement = apps.get_model("deck", "Capture"), apps.get_model("tags", "Placement")
    brought = Capture.objects.exclude(brought_in_id=None).values("pk")
    Placement.objects.filter(capture_id__in=brought, tag__batch=None).update(tag_before="elsewhere")


def make_receipts(apps, schema_editor):
    """What tablets sent before is answered as done when it comes again."""
    Receipt = apps.get_model("programmes", "Receipt")
    get = apps.get_model
    sources = (
        ("run.start", get("deck", "Run").objects.values_list("pk", "outing__programme", "recorder")),
        ("water.record", get("deck", "WaterReading").objects.values_list("pk", "outing__programme", "recorder")),
        ("capture.record", get("deck", "Capture").objects.filter(brought_in_id=None).values_list("pk", "programme", "recorder")),
        ("tag.place", get("tags", "Placement").objects.values_list("pk", "tag__programme", "recorder")),
        ("checklist.sign", get("deck", "Signature").objects.values_list("pk", "outing__programme", "person")),
        ("changed", get("programmes", "Change").objects.values_list("pk", "programme", "person")),
    )
    seen = set()
    for kind, rows in sources:
        made = []
        for pk, programme, person in rows.iterator(BATCH):
            if pk not in seen:
                seen.add(pk)
                made.append(Receipt(id=pk, programme_id=programme, person_id=person, kind=kind))
        Receipt.objects.bulk_create(made, batch_size=BATCH)


class Migration(migrations.Migration):
    dependencies = [
        ("deck", "0010_waters"),
        ("tags", "0002_batches_scans_encounters"),
        ("programmes", "0003_receipts"),
        ("records", "0001_initial"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunPython(drop_key_to_import, migrations.RunPython.noop)],
            state_operations=[
                migrations.RemoveField("capture", "brought_in"),
                migrations.AddField("capture", "brought_in_id", models.UUIDField(db_index=True, null=True)),
            ],
        ),
        migrations.AddField("capture", "length_unit", models.CharField(blank=True, max_length=2, default=""), preserve_default=False),
        migrations.AddField("capture", "mass_unit", models.CharField(blank=True, max_length=2, default=""), preserve_default=False),
        migrations.RunPython(find_units, migrations.RunPython.noop),
        migrations.RunPython(make_scans, migrations.RunPython.noop),
        migrations.RunPython(make_encounters, migrations.RunPython.noop),
        migrations.RunPython(tags_of_files, migrations.RunPython.noop),
        migrations.RunPython(make_receipts, migrations.RunPython.noop),
        migrations.RemoveField("capture", "scan_text"),
    ]
