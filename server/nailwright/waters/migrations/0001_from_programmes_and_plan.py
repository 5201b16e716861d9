"""Water, Site and Zone come from their old apps with all their rows: the tables are renamed, nothing is copied."""

import django.db.models.deletion
from django.db import migrations, models

import nailwright.common.rows

KEY = models.UUIDField(default=nailwright.common.rows.new_id, editable=False, primary_key=True, serialize=False)


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("programmes", "0001_initial"),
        ("tags", "0001_initial"),
        ("deck", "0009_target_reach"),
        ("plan", "0004_well_to_limits"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[
                migrations.RunSQL(
                    "RENAME TABLE programmes_water TO waters_water, programmes_site TO waters_site, plan_zone TO waters_zone",
                    "RENAME TABLE waters_water TO programmes_water, waters_site TO programmes_site, waters_zone TO plan_zone",
                )
            ],
            state_operations=[
                migrations.CreateModel(
                    name="Water",
                    fields=[
                        ("id", KEY),
                        ("name", models.CharField(max_length=120)),
                        ("kind", models.CharField(choices=[("lake", "Lake"), ("river", "River"), ("coast", "Coast")], max_length=10)),
                        ("time_zone", models.CharField(default="UTC", max_length=40)),
                        ("geometry", models.JSONField(null=True)),
                        ("programme", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="waters", to="programmes.programme")),
                    ],
                    options={"abstract": False},
                ),
                migrations.CreateModel(
                    name="Site",
                    fields=[
                        ("id", KEY),
                        ("name", models.CharField(max_length=60)),
                        ("reach", models.CharField(blank=True, max_length=60)),
                        ("river_km", models.FloatField(null=True)),
                        ("geometry", models.JSONField(null=True)),
                        ("water", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="sites", to="waters.water")),
                    ],
                    options={"abstract": False},
                ),
                migrations.CreateModel(
                    name="Zone",
                    fields=[
                        ("id", KEY),
                        ("kind", models.CharField(choices=[("zone", "Zone"), ("dam", "Dam, keep off"), ("no_go", "Keep out")], default="zone", max_length=5)),
                        ("name", models.CharField(max_length=60)),
                        ("start_m", models.FloatField()),
                        ("end_m", models.FloatField()),
                        ("note", models.CharField(blank=True, max_length=200)),
                        ("water", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="all_zones", to="waters.water")),
                    ],
                    options={"ordering": ["start_m"]},
                ),
            ],
        ),
        migrations.AddField("zone", "deleted_at", models.DateTimeField(null=True)),
        migrations.AddField("site", "retired_at", models.DateTimeField(null=True)),
    ]
