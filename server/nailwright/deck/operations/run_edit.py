"""A run's site, settings, effort or times are changed; ended_at null lets it go on."""

from __future__ import annotations

from typing import Any

from nailwright.common.fields import read_id, read_time
from nailwright.deck.encounters import renew_encounters, renew_occasions
from nailwright.deck.models import Capture, Run
from nailwright.deck.rows import site_of, there
from nailwright.deck.runs.run_values import check_run_times, run_numbers
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.record.operations import Kind, Row


def edit_run(act: Act, programme: Programme, row: Row) -> bool:
    """Change what the row holds of the run that it names."""
    run = there(Run, Run.objects.select_for_update().filter(pk=read_id(row, "run")).first(), programme)
    run.outing.must_be_open(act)
    values: dict[str, Any] = run_numbers(row)
    if row.get("site"):
        values["site_id"] = site_of(run.outing, row).pk
    for field in ("started_at", "ended_at"):
        if row.get(field):
            values[field] = act.put_right(read_time(row, field))
    if "ended_at" in row and row["ended_at"] is None:
        values["ended_at"] = None  # the run goes on: it was ended by mistake
    check_run_times(values.get("started_at", run.started_at), values.get("ended_at", run.ended_at))
    changed = apply_change(act, programme, run, values)
    renew_occasions([run.pk])
    if changed and "site_id" in values:  # its fish were met where it was worked
        renew_encounters(Capture.objects.filter(run=run).exclude(fish=None).values_list("pk", flat=True))
    return changed


KIND = Kind("run.edit", "work_deck", edit_run)
