"""What an event records is called its details, in the table and in the history of its changes."""

from django.db import migrations


def _renamed(values, old, new):
    return {
        f"{new}{name.removeprefix(old)}" if name == old or name.startswith(f"{old}.") else name: value
        for name, value in values.items()
    }


def _in_history(old, new):
    def rename(apps, schema_editor):
        changes = apps.get_model("programmes", "Change").objects.filter(table="event")
        rows = []
        for change in changes.iterator(chunk_size=1000):
            for field in ("before", "after", "late"):
                setattr(change, field, _renamed(getattr(change, field), old, new))
            rows.append(change)
            if len(rows) == 1000:
                changes.model.objects.bulk_update(rows, ["before", "after", "late"])
                rows = []
        changes.model.objects.bulk_update(rows, ["before", "after", "late"])

    return rename


class Migration(migrations.Migration):
    dependencies = [("deck", "0027_opened_by"), ("programmes", "0012_rewards")]

    operations = [
        migrations.RenameField(model_name="event", old_name="said", new_name="details"),
        migrations.RunPython(_in_history("said", "details"), _in_history("details", "said")),
    ]
