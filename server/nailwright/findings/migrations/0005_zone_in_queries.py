"""A selection's "reach" is called its "zone", as everywhere else."""

from django.db import migrations


def renamed(query, old, new):
    query = {new if name == old else name: value for name, value in query.items()}
    return {name: new if name == "by" and value == old else value for name, value in query.items()}


def rename(old, new):
    def run(apps, schema_editor):
        for model in ("KeptFinding", "LongSelection"):
            for each in apps.get_model("findings", model).objects.all():
                query = renamed(each.query, old, new)
                if query != each.query:
                    each.query = query
                    each.save(update_fields=["query"])

    return run


class Migration(migrations.Migration):
    dependencies = [("findings", "0004_one_answer_each")]
    operations = [migrations.RunPython(rename("reach", "zone"), rename("zone", "reach"))]
