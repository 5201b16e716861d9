"""Receipts of entries; changes that came too late to stand."""

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("programmes", "0002_waters")]

    operations = [
        migrations.AddField("change", "late", models.JSONField(default=dict, help_text="What this act wanted, where a later one stands")),
        migrations.CreateModel(
            name="Receipt",
            fields=[
                ("id", models.UUIDField(primary_key=True, serialize=False)),
                ("kind", models.CharField(max_length=40)),
                ("digest", models.CharField(blank=True, max_length=64)),
                ("clock_offset_s", models.FloatField(default=0)),
                ("server_time", models.DateTimeField(default=django.utils.timezone.now)),
                ("person", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                ("programme", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="receipts", to="programmes.programme")),
            ],
        ),
    ]
