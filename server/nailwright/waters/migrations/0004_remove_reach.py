from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("waters", "0003_zone_of_site")]
    operations = [migrations.RemoveField("site", "reach")]
