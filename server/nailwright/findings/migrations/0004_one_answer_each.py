"""One answer for each question: that of rows which have changed since is replaced, and not put beside."""

from typing import Any

from django.db import migrations, models


def forget(apps: Any, schema_editor: Any) -> None:
    """Answers can be computed anew."""
    apps.get_model("findings", "FindingAnswer").objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [("findings", "0003_long_selections"), ("programmes", "0001_initial")]

    operations = [
        migrations.RunPython(forget, migrations.RunPython.noop),
        migrations.RemoveConstraint("findinganswer", "answered_once"),
        migrations.AddConstraint(
            "findinganswer", models.UniqueConstraint(fields=["programme", "key"], name="one_answer_each")
        ),
    ]
