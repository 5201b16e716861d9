"""The litres of the live well moved from a plan's bath to its limits."""

from django.db import migrations


def move(apps, schema_editor):
    for survey in apps.get_model("plan", "Survey").objects.all():
        bath = dict(survey.parts.get("bath", {}))
        litres = bath.pop("well_l", None)
        if litres is None:
            continue
        limits = {"well_l": litres, **survey.parts.get("limits", {})}
        survey.parts = {**survey.parts, "bath": bath, "limits": limits}
        survey.save(update_fields=["parts"])


class Migration(migrations.Migration):
    dependencies = [("plan", "0003_survey_deleted")]

    operations = [migrations.RunPython(move, migrations.RunPython.noop)]
