import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

import nailwright.common.rows


class Migration(migrations.Migration):
    dependencies = [("programmes", "0006_own_species")]

    operations = [
        migrations.CreateModel(
            name="ProtocolVersion",
            fields=[
                ("id", nailwright.common.rows.KeyField(default=nailwright.common.rows.new_id, editable=False, primary_key=True, serialize=False)),
                ("number", models.PositiveIntegerField()),
                ("values", models.JSONField()),
                ("why", models.CharField(blank=True, max_length=200)),
                ("made_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("person", models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                ("programme", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="protocols", to="programmes.programme")),
            ],
            options={"ordering": ["-number"]},
        ),
        migrations.AddConstraint(
            model_name="protocolversion",
            constraint=models.UniqueConstraint(fields=("programme", "number"), name="version_once"),
        ),
    ]
