"""Waters and sites have gone to an app of their own."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("programmes", "0001_initial"),
        ("waters", "0001_from_programmes_and_plan"),
        ("deck", "0010_waters"),
        ("plan", "0005_waters"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[migrations.DeleteModel("Site"), migrations.DeleteModel("Water")]
        )
    ]
