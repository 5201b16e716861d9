"""What encounters and occasions say since this release, of the captures and runs that are there."""

from django.db import migrations
from django.db.models import F, OuterRef, Subquery

from nailwright_core.deck.gears import FIGURES, effort_of

DISPOSITIONS = {"released": "released", "escaped": "released", "dead": "dead", "kept": "retained", "taken": "retained"}


def tell(apps, schema_editor):
    Encounter, Release = apps.get_model("tags", "Encounter"), apps.get_model("deck", "Release")
    of_captures = Encounter.objects.filter(kind="capture")
    of_captures.update(occasion_id=Subquery(apps.get_model("deck", "Capture").objects.filter(pk=OuterRef("source_id")).values("run_id")[:1]))
    for fate, disposition in DISPOSITIONS.items():
        left = Release.objects.filter(capture=OuterRef("source_id"), deleted_at=None, fate=fate)
        of_fate = of_captures.filter(source_id__in=Release.objects.filter(deleted_at=None, fate=fate).values("capture_id"))
        if disposition == "released":
            of_fate.update(
                disposition=disposition,
                let_go_at=Subquery(left.values("device_time")[:1]),
                let_go_lat=F("lat"),
                let_go_lon=F("lon"),
                let_go_error_m=F("error_m"),
            )
        else:
            of_fate.update(disposition=disposition)


    said = apps.get_model("deck", "Event").objects.filter(deleted_at=None).order_by("device_time", "id")
    for capture, place in said.filter(kind="let_go").values_list("capture_id", "said"):
        if "lat" in place:
            at = {"let_go_lat": place["lat"], "let_go_lon": place["lon"], "let_go_error_m": place.get("within_m", 20.0)}
            of_captures.filter(source_id=capture, disposition="released").update(**at)
    for capture, seen in said.filter(kind="way_down").values_list("capture_id", "said"):
        if seen.get("outcome") == "predator":
            nowhere = {"let_go_at": None, "let_go_lat": None, "let_go_lon": None, "let_go_error_m": None}
            of_captures.filter(source_id=capture, disposition="released").update(disposition="dead", **nowhere)


def fished(apps, schema_editor):
    Occasion, Run = apps.get_model("tags", "Occasion"), apps.get_model("deck", "Run")
    rows = []
    for run in Run.objects.filter(deleted_at=None).select_related("outing__water").iterator(2000):
        figures = {name: getattr(run, name) for name in ("current_on_s", *FIGURES)}
        effort = effort_of(run.gear, figures, run.started_at, run.ended_at, run.outing.water.time_zone)
        rows.append(
            Occasion(
                id=run.pk, programme_id=run.outing.programme_id, kind="run",
                outing_id=run.outing_id, site_id=run.site_id, gear=run.gear, day=run.outing.date, began_at=run.started_at,
                ended_at=run.ended_at, effort=effort.value, effort_unit=effort.unit, distance_m=run.distance_m,
            )
        )
    Occasion.objects.bulk_create(rows, batch_size=1000)


class Migration(migrations.Migration):
    dependencies = [
        ("deck", "0021_photos_of_people"),
        ("tags", "0004_dispositions_and_occasions"),
    ]

    operations = [
        migrations.RunPython(tell, migrations.RunPython.noop),
        migrations.RunPython(fished, migrations.RunPython.noop),
    ]
