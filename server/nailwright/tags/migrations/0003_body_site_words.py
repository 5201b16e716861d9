from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("tags", "0002_batches_scans_encounters")]

    operations = [
        migrations.AlterField(
            "placement",
            "body_site",
            models.CharField(blank=True, help_text="A code of the protocol's body sites", max_length=20),
        )
    ]
