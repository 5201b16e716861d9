"""A planned site points at its zone, which it only named before."""

import django.db.models.deletion
from django.db import migrations, models

from nailwright.waters.zones import key_of_named_zone


def point(apps, schema_editor):
    zone = apps.get_model("waters", "Zone")
    for each in apps.get_model("plan", "PlannedSite").objects.exclude(zone_text="").select_related("survey"):
        there = zone.objects.filter(
            water_id=each.survey.water_id, kind="zone", deleted_at=None, name__iexact=each.zone_text.strip()
        )
        each.zone = there.order_by("start_m").last() or zone.objects.create(
            id=key_of_named_zone(each.survey.water_id, each.zone_text), water_id=each.survey.water_id, kind="zone", name=each.zone_text.strip()
        )
        each.save(update_fields=["zone"])


def back(apps, schema_editor):
    for each in apps.get_model("plan", "PlannedSite").objects.exclude(zone=None).select_related("zone"):
        each.zone_text = each.zone.name
        each.save(update_fields=["zone_text"])


class Migration(migrations.Migration):
    dependencies = [("plan", "0009_delete_paper"), ("waters", "0004_remove_reach")]
    operations = [
        migrations.RenameField("plannedsite", "zone", "zone_text"),
        migrations.AddField(
            "plannedsite",
            "zone",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="planned", to="waters.zone"
            ),
        ),
        migrations.RunPython(point, back),
        migrations.RemoveField("plannedsite", "zone_text"),
    ]
