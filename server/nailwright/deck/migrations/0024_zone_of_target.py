"""A target points at its zone, which it only named before."""

import django.db.models.deletion
from django.db import migrations, models

from nailwright.waters.zones import key_of_named_zone


def point(apps, schema_editor):
    zone = apps.get_model("waters", "Zone")
    for each in apps.get_model("deck", "Target").objects.exclude(reach="").select_related("outing"):
        there = zone.objects.filter(
            water_id=each.outing.water_id, kind="zone", deleted_at=None, name__iexact=each.reach.strip()
        )
        each.zone = there.order_by("start_m").last() or zone.objects.create(
            id=key_of_named_zone(each.outing.water_id, each.reach), water_id=each.outing.water_id, kind="zone", name=each.reach.strip()
        )
        each.save(update_fields=["zone"])


def back(apps, schema_editor):
    for each in apps.get_model("deck", "Target").objects.exclude(zone=None).select_related("zone"):
        each.reach = each.zone.name
        each.save(update_fields=["reach"])


class Migration(migrations.Migration):
    dependencies = [("deck", "0023_delete_allowance"), ("waters", "0004_remove_reach")]
    operations = [
        migrations.AddField(
            "target",
            "zone",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="targets", to="waters.zone"
            ),
        ),
        migrations.RunPython(point, back),
        migrations.RemoveField("target", "reach"),
    ]
