"""The one table of columns of the record: it serves import, export, the register and the Data Package."""

from __future__ import annotations

from nailwright.records.columns import fish, marks, place
from nailwright.records.columns.column import Column, Draft, split_unit

__all__ = ["COLUMNS", "READ", "REGISTER", "WRITTEN", "Column", "Draft", "split_unit"]

#: Every kind of column by its key, in the order of our own files; those that they do not hold come last.
COLUMNS: dict[str, Column] = {
    each.key: each
    for each in (
        marks.CaptureKey(), place.OutingName(), place.Day(), place.WaterName(), place.ZoneName(), place.SiteName(), place.RiverKm(),
        place.RunNumber(), place.GearName(), fish.SpeciesCode(), fish.SpeciesName(), fish.Count(), fish.LengthCell(),
        fish.LengthType(), fish.LengthBasis(), fish.LengthAsCalled(), fish.LengthUnitAsCalled(), fish.MassCell(),
        fish.MassBasis(), fish.MassAsCalled(), fish.MassUnitAsCalled(), fish.Sex(), fish.SexEvidence(), marks.FishKey(),
        marks.Scanned(), marks.MarkRead(), marks.LeftAs(), marks.Strength(), marks.ReleaseReason(), marks.TakenTo(),
        marks.SaidAs(), fish.Note(), fish.Questions(), place.Moment(),
        place.TimeOfDay(), place.CurrentOn(), marks.PitNumber(), marks.TBarNumber(),
    )
}  # fmt: skip

#: What a person is asked for first where a file's column is named by hand.
_ASKED_FIRST = ("species", "length", "mass", "sex", "count", "note", "date", "time", "water", "site")
#: Kinds that a file's column can be, in the order in which the screen offers them.
READ: dict[str, Column] = {key: COLUMNS[key] for key in dict.fromkeys((*_ASKED_FIRST, *COLUMNS)) if COLUMNS[key].reads}
#: Columns of our own files, in their order.
WRITTEN: tuple[Column, ...] = tuple(each for each in COLUMNS.values() if each.term)
#: Columns of the register, in their order.
REGISTER: tuple[Column, ...] = tuple(
    COLUMNS[key]
    for key in (
        "date",
        "water",
        "site",
        "run",
        "species",
        "count",
        "length",
        "length_type",
        "mass",
        "sex",
        "left_as",
        "mark_read",
        "note",
    )
)
