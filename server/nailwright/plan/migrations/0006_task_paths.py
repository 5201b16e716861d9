"""Rehearsals that wait for a worker are found under their new name."""

from django.db import migrations

OLD, NEW = "nailwright.plan.rehearsals.run_rehearsal", "nailwright.plan.rehearsal.running.run_rehearsal"


def rename(old, new):
    def change(apps, schema_editor):
        apps.get_model("django_tasks_database", "DBTaskResult").objects.filter(task_path=old).update(task_path=new)

    return change


class Migration(migrations.Migration):
    dependencies = [("plan", "0005_waters"), ("django_tasks_database", "__first__")]

    operations = [migrations.RunPython(rename(OLD, NEW), rename(NEW, OLD))]
