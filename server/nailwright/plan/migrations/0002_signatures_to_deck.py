"""Signatures are the deck's now; its migration has moved the table."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("deck", "0008_checklists_and_orders"), ("plan", "0001_initial")]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[migrations.DeleteModel(name="Signature")]),
    ]
