"""A run is started; the entry's key becomes the run's."""

from __future__ import annotations

from typing import Any

from nailwright.common.fields import read_time
from nailwright.deck.encounters import renew_occasions
from nailwright.deck.models import Gear, Outing, Run
from nailwright.deck.outing.checklists import needed_for
from nailwright.deck.rows import open_outing_of, same_programme, site_of
from nailwright.deck.runs.run_values import check_run_times, run_numbers
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.record.operations import Kind, Row
from nailwright_core.common.errors import CoreError


def start_run(act: Act, programme: Programme, row: Row) -> bool:
    """Start a run of the row's ``outing`` at its ``site``."""
    outing = open_outing_of(act, programme, row)
    site = site_of(outing, row)
    gear: Any = row.get("gear") or outing.gear
    if gear not in Gear.values:
        raise CoreError("gear_unknown", f"Expected a gear of {', '.join(Gear.values)}; got {gear!r:.60}.", "gear")
    outing = Outing.objects.select_for_update().get(pk=outing.pk)  # run numbers are given one at a time
    existing = Run.objects.select_related("outing").filter(pk=act.id).first()
    if existing:
        same_programme(existing.outing.programme_id, programme, "run")
        return False
    last = Run.objects.filter(outing=outing).order_by("-number").first()
    run = Run(
        id=act.id,
        outing=outing,
        site=site,
        number=last.number + 1 if last else 1,
        gear=gear,
        started_at=act.put_right(read_time(row, "started_at")),
        recorder=act.person,
        device_time=act.device_time,
        **run_numbers(row),
    )
    run.ended_at = act.put_right(read_time(row, "ended_at")) if row.get("ended_at") else None
    check_run_times(run.started_at, run.ended_at)
    run.save(force_insert=True)
    renew_occasions([run.pk])
    _ask_for_its_checklists(act, programme, outing, gear)
    return True


def _ask_for_its_checklists(act: Act, programme: Programme, outing: Outing, gear: str) -> None:
    """A gear that nobody had thought of when the outing was made asks for its checklists from now on."""
    if gear not in outing.gears:
        checklists = list(dict.fromkeys((*outing.checklists, *needed_for(gear))))
        values = {"more_gears": [*outing.more_gears, gear], "checklists": checklists}
        apply_change(act.part("gear"), programme, outing, values)


KIND = Kind("run.start", "work_deck", start_run)
