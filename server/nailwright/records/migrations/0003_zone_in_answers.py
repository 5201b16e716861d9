"""The column "reach" of files is called "zone", as everywhere else: in files that wait to be read, too."""

from django.db import migrations


def rename(old, new):
    def run(apps, schema_editor):
        for each in apps.get_model("records", "Import").objects.defer("packed", "rejects"):
            columns = each.answers.get("columns") or []
            if any(column.get("key") == old for column in columns):
                each.answers["columns"] = [
                    {**column, "key": new} if column.get("key") == old else column for column in columns
                ]
                each.save(update_fields=["answers"])

    return run


class Migration(migrations.Migration):
    dependencies = [("records", "0002_reading")]
    operations = [migrations.RunPython(rename("reach", "zone"), rename("zone", "reach"))]
