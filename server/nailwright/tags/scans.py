"""What a reader said of a fish in hand: numbers read, and whose they are."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID, uuid5

from nailwright.common.fields import read_word
from nailwright.programmes.models import Programme
from nailwright.tags.models import Placement, Scan, TagKind
from nailwright.tags.numbers import read_number_of
from nailwright_core.common.errors import CoreError

MOST_AT_ONCE = 10


@dataclass(frozen=True)
class Read:
    """One number as it was read, and with which reader."""

    kind: str
    number: str
    reader: str = ""


def read_scans(row: Mapping[str, Any]) -> tuple[str, tuple[Read, ...]]:
    """What a row says of scanning: "" (not scanned), "none" (nothing found) or "number", and the numbers.

    Args:
        row: ``scanned``; with "number" either ``scans``, a list of ``{kind, number, reader}``, or one ``scan_kind`` and
            ``scan``, as tablets of before sent it.

    Raises:
        CoreError: ``not_a_choice``, ``scans_unreadable``, and as ``read_number_of``.
    """
    scanned = read_word(row, "scanned")
    if scanned not in ("", "none", "number"):
        raise CoreError("not_a_choice", f"Expected scanned to be none or number; got '{scanned}'.", "scanned")
    if scanned != "number":
        return scanned, ()
    given = row.get("scans")
    if given is None:
        given = [{"kind": read_word(row, "scan_kind") or TagKind.PIT, "number": read_word(row, "scan")}]
    if not isinstance(given, list) or not 1 <= len(given) <= MOST_AT_ONCE:
        raise CoreError("scans_unreadable", f"Expected 1 to {MOST_AT_ONCE} numbers read; got {given!r:.60}.", "scans")
    found: dict[tuple[str, str], Read] = {}
    for each in given:
        if not isinstance(each, Mapping):
            raise CoreError("scans_unreadable", "Expected each number read with its kind and number.", "scans")
        kind = read_word(each, "kind") or str(TagKind.PIT)
        number = read_number_of(kind, read_word(each, "number"))
        found[kind, number] = Read(kind, number, read_word(each, "reader"))
    return scanned, tuple(found.values())


def fish_by_number(programme: Programme, numbers: Iterable[tuple[str, str]]) -> dict[tuple[str, str], UUID]:
    """Which living fish carries each (kind, number)."""
    wanted: dict[str, set[str]] = {}
    for kind, number in numbers:
        wanted.setdefault(kind, set()).add(number)
    found: dict[tuple[str, str], UUID] = {}
    for kind, texts in wanted.items():
        placed = Placement.present.filter(tag__programme=programme, tag__kind=kind, tag__number__in=texts)
        for number, fish in placed.exclude(living_tag=None).values_list("tag__number", "fish_id"):
            found[kind, number] = fish
    return found


def whose(reads: Sequence[Read], known: Mapping[tuple[str, str], UUID]) -> tuple[str, UUID | None, bool]:
    """What numbers read on one fish say together: "known" or "foreign", the fish, and whether they disagree.

    Numbers that belong to two different fish name neither: a person must look.
    """
    fish = {known[each.kind, each.number] for each in reads if (each.kind, each.number) in known}
    if len(fish) == 1:
        return Scan.Result.KNOWN, next(iter(fish)), False
    return (Scan.Result.KNOWN if fish else Scan.Result.FOREIGN), None, len(fish) > 1


def unknown_fish_key(programme: UUID, reads: Sequence[Read], species: str) -> UUID:
    """The key of a fish that is known by another programme's tag alone."""
    return uuid5(programme, f"{min(f'{each.kind} {each.number}' for each in reads)} {species}")


def scan_rows(
    programme: Programme,
    reads: Sequence[Read],
    known: Mapping[tuple[str, str], UUID],
    fish: UUID | None = None,
    **shared: Any,
) -> list[Scan]:
    """The rows to be stored for numbers read on one fish; ``fish`` carries those that nobody here placed, ``shared`` holds source,
    times and recorder."""
    return [
        Scan(
            programme=programme,
            kind=each.kind,
            number=each.number,
            reader=each.reader,
            fish_id=known.get((each.kind, each.number), fish),
            result=Scan.Result.KNOWN if (each.kind, each.number) in known else Scan.Result.FOREIGN,
            **shared,
        )
        for each in reads
    ]
