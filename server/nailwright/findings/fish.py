"""The fish behind a finding, as columns.

Reading 250,000 fish takes seconds, and hardly any of them change from one look to the next. So their columns are kept in
this process beside the table and brought up to date before each use: only the runs that were touched since are read
again (model CaptureTally). What is kept is never asked without the touches, so it is never a second truth.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass
from threading import Lock
from typing import Any
from uuid import UUID

import polars as pl

from nailwright.common.below_orm import read_rows
from nailwright.deck.models import Capture
from nailwright.findings.selections import Selection, runs_in, selects_runs, tally_of
from nailwright.programmes.models import Programme

#: Columns of a frame of fish, by the names of their fields.
_COLUMNS = {
    "run_id": pl.String,
    "id": pl.String,
    "sex": pl.String,
    "count": pl.Int64,
    "length_mm": pl.Float64,
    "length_type": pl.String,
    "length_basis": pl.String,
    "mass_g": pl.Float64,
    "mass_basis": pl.String,
}
#: About 100 bytes each. Beyond, the columns that nobody has asked for longest go.
_MOST_ROWS = 2_000_000
#: With more runs touched than this, all are read again.
_MOST_RUNS = 200
#: A frame lies in so many pieces at most before it is copied into one: copying took longer than reading what was touched.
_MOST_PIECES = 24

Touches = Mapping[str, tuple[tuple[int, int], ...]]


@dataclass(frozen=True)
class _Kept:
    touches: Touches
    frame: pl.DataFrame


_kept: OrderedDict[tuple[UUID, str], _Kept] = OrderedDict()
_reading = Lock()


def touches_of(programme: Programme, species: str) -> Touches:
    """What tells of each run whether its captures of a species are still those of an earlier look."""
    rows = tally_of(programme, Selection(species)).order_by("pk")
    found: dict[str, tuple[tuple[int, int], ...]] = {}
    for run, slot, touch in read_rows(rows.values_list("run_id", "slot", "touch")):
        found[run] = (*found.get(run, ()), (slot, touch))
    return found


def fish_of(programme: Programme, selection: Selection) -> pl.DataFrame:
    """The captures of a selection as they are now, by run and key; those of no or an estimated length are among them."""
    fish = _all_of(programme, selection.species)
    if selects_runs(selection):
        runs = runs_in(programme, selection).order_by()
        fish = fish.filter(pl.col("run_id").is_in([str(key) for key in runs.values_list("pk", flat=True)]))
    if selection.sex:
        fish = fish.filter(pl.col("sex").is_in(selection.sex))
    return fish


def _all_of(programme: Programme, species: str) -> pl.DataFrame:
    """All captures of a species."""
    key = programme.pk, species
    with _reading:  # whoever asks for the same a moment later finds it read
        # touches first: rows that are newer than what is said of them are read again, older ones would stay
        touches = touches_of(programme, species)
        before = _kept.pop(key, None)
        if before is None or before.touches != touches:
            before = _Kept(touches, _brought_up_to_date(programme, species, before, touches))
        _kept[key] = before
        while len(_kept) > 1 and sum(each.frame.height for each in _kept.values()) > _MOST_ROWS:
            _kept.popitem(last=False)
    return before.frame


def _brought_up_to_date(programme: Programme, species: str, before: _Kept | None, now: Touches) -> pl.DataFrame:
    captures = Capture.present.filter(programme=programme, species=species)
    touched = [run for run in now if before is None or before.touches.get(run) != now[run]]
    if before is None or len(touched) > _MOST_RUNS:
        return _read(captures)
    gone = [run for run in before.touches if run not in now]
    fresh = _read(captures.filter(run__in=[UUID(run) for run in touched]))
    # by run and key however it came to be, since what is drawn at random goes by that order; sorting anew would take
    # longer than all the rest
    pieces, at = [], 0
    for run in sorted([*touched, *gone]):
        start, stop = _place_of(run, before.frame)
        pieces += [before.frame[at:start], fresh[slice(*_place_of(run, fresh))]]
        at = stop
    whole = pl.concat([piece for piece in (*pieces, before.frame[at:]) if piece.height] or [fresh])
    return whole.rechunk() if whole.n_chunks() > _MOST_PIECES else whole


def _place_of(run: str, frame: pl.DataFrame) -> tuple[int, int]:
    """From which row to which the captures of a run stand in a frame that is sorted by runs."""
    keys = frame["run_id"]
    return int(keys.search_sorted(run, "left")), int(keys.search_sorted(run, "right"))


def _read(captures: Any) -> pl.DataFrame:
    rows = read_rows(captures.order_by().values_list(*_COLUMNS))
    columns = zip(*rows, strict=True) if rows else [()] * len(_COLUMNS)
    series = [
        pl.Series(name, column, dtype=dtype) for (name, dtype), column in zip(_COLUMNS.items(), columns, strict=True)
    ]
    return pl.DataFrame(series).sort("run_id", "id")
