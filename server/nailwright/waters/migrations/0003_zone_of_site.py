"""A site points at its zone, which it only named before; a zone that was never drawn is made with its name alone."""

import django.db.models.deletion
from django.db import migrations, models

from nailwright.waters.zones import key_of_named_zone


def point(apps, schema_editor):
    site, zone = apps.get_model("waters", "Site"), apps.get_model("waters", "Zone")
    named = site.objects.exclude(reach="").order_by("water_id", "reach").values_list("water_id", "reach").distinct()
    known = {}
    for water, name in named:
        at = water, name.strip().lower()
        if at not in known:
            drawn = zone.objects.filter(water_id=water, kind="zone", deleted_at=None, name__iexact=name.strip()).order_by("start_m").last()
            known[at] = drawn or zone.objects.create(id=key_of_named_zone(water, name), water_id=water, kind="zone", name=name.strip())
        site.objects.filter(water_id=water, reach=name).update(zone=known[at])


def back(apps, schema_editor):
    for each in apps.get_model("waters", "Site").objects.exclude(zone=None).select_related("zone"):
        each.reach = each.zone.name
        each.save(update_fields=["reach"])


class Migration(migrations.Migration):
    dependencies = [("waters", "0002_series")]
    operations = [
        migrations.AlterField("zone", "start_m", models.FloatField(null=True)),
        migrations.AlterField("zone", "end_m", models.FloatField(null=True)),
        migrations.AddField(
            "site",
            "zone",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="sites", to="waters.zone"
            ),
        ),
        migrations.RunPython(point, back),
    ]
