"""Checklists and the plan's orders come to the outing; signatures move here from the plan, rows and all."""

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

import nailwright.common.rows


class Migration(migrations.Migration):
    dependencies = [
        ("deck", "0007_register_indexes"),
        ("plan", "0001_initial"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField("outing", "checklists", models.JSONField(default=list, help_text="Codes of those to be signed before current flows")),
        migrations.AddField("outing", "orders", models.JSONField(default=dict, help_text="What the plan tells the deck, as OrdersSerializer has it")),
        migrations.SeparateDatabaseAndState(
            database_operations=[
                migrations.RunSQL("RENAME TABLE plan_signature TO deck_signature", "RENAME TABLE deck_signature TO plan_signature"),
            ],
            state_operations=[
                migrations.CreateModel(
                    name="Signature",
                    fields=[
                        ("id", models.UUIDField(default=nailwright.common.rows.new_id, editable=False, primary_key=True, serialize=False)),
                        ("checklist", models.CharField(max_length=20)),
                        ("version", models.PositiveSmallIntegerField()),
                        ("lines", models.JSONField()),
                        ("name", models.CharField(max_length=80)),
                        ("note", models.CharField(blank=True, max_length=300)),
                        ("at", models.DateTimeField(default=django.utils.timezone.now)),
                        ("outing", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="signatures", to="deck.outing")),
                        ("person", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                    ],
                    options={"constraints": [models.UniqueConstraint(fields=("outing", "checklist"), name="signed_once")]},
                ),
            ],
        ),
        migrations.AddField("signature", "signed", models.BooleanField(default=True)),
    ]
