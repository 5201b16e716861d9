"""The database itself counts captures and notes which were touched: see the model CaptureTally."""

from django.db import migrations, models

TALLY = """INSERT INTO deck_capturetally (programme_id, species, run_id, slot, touch, present, taken_out)
VALUES ({row}.programme_id, {row}.species, {row}.run_id, CONNECTION_ID() MOD 16, UUID_SHORT(),
    {sign} ({row}.deleted_at IS NULL), {sign} ({row}.deleted_at IS NOT NULL))
ON DUPLICATE KEY UPDATE touch = VALUES(touch), present = present + VALUES(present), taken_out = taken_out + VALUES(taken_out)"""
COME, GONE = TALLY.format(row="NEW", sign="+"), TALLY.format(row="OLD", sign="-")
TRIGGERS = {
    "capture_made": f"CREATE TRIGGER capture_made AFTER INSERT ON deck_capture FOR EACH ROW {COME}",
    "capture_changed": f"CREATE TRIGGER capture_changed AFTER UPDATE ON deck_capture FOR EACH ROW BEGIN {GONE}; {COME}; END",
    "capture_gone": f"CREATE TRIGGER capture_gone AFTER DELETE ON deck_capture FOR EACH ROW {GONE}",
}
FIRST = """INSERT INTO deck_capturetally (programme_id, species, run_id, slot, touch, present, taken_out)
SELECT programme_id, species, run_id, 0, UUID_SHORT(), SUM(deleted_at IS NULL), SUM(deleted_at IS NOT NULL)
FROM deck_capture GROUP BY programme_id, species, run_id"""


class Migration(migrations.Migration):

    dependencies = [
        ("deck", "0011_units_scans_encounters"),
    ]

    operations = [
        migrations.CreateModel(
            name="CaptureTally",
            fields=[
                ("pk", models.CompositePrimaryKey("programme_id", "species", "run_id", "slot", blank=True, editable=False, primary_key=True, serialize=False)),
                ("programme_id", models.UUIDField()),
                ("species", models.CharField(max_length=8)),
                ("run_id", models.UUIDField()),
                ("slot", models.PositiveSmallIntegerField()),
                ("touch", models.PositiveBigIntegerField(help_text="Never given twice, not even after a restart or from a backup")),
                ("present", models.IntegerField()),
                ("taken_out", models.IntegerField()),
            ],
        ),
        *(
            migrations.RunSQL([(create, None)], [(f"DROP TRIGGER {name}", None)])
            for name, create in TRIGGERS.items()
        ),
        migrations.RemoveIndex(model_name="capture", name="capture_finding"),
        migrations.AddIndex(
            model_name="capture",
            index=models.Index(
                fields=["programme", "species", "run", "deleted_at", "count", "length_mm", "length_basis", "length_type", "mass_g", "mass_basis", "sex"],
                name="capture_finding",
            ),
        ),
        migrations.RunSQL([(FIRST, None)], migrations.RunSQL.noop),
    ]
