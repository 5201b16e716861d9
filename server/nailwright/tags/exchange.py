"""Marks at large that programmes tell each other: taken in from a file of theirs, and asked when a number is read that is none of ours."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import uuid5

from django.db import transaction
from django.db.models import Count

from nailwright.common.sources.table import Table
from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act
from nailwright.tags.models import ForeignMark
from nailwright.tags.numbers import read_number_of
from nailwright_core.common.errors import CoreError

#: Name, type and what it is, in order: of the file that goes out, and of one that comes in.
COLUMNS = (
    ("programme", "string", "That gave the tag out"),
    ("kind", "string", "pit, tbar, dart, dart2, metal, disc, acoustic, radio, satellite or archival"),
    ("number", "string", "As it stands on the tag; of a PIT 15 digits"),
    ("colour", "string", "Of the tag"),
    ("species", "string", "Scientific name"),
    ("placed_on", "date", "Day on which it was placed"),
    ("water", "string", "Where it was placed"),
    ("latitude", "number", "Degrees, to a tenth; nothing of protected species"),
    ("longitude", "number", "Degrees, to a tenth"),
    ("contact", "string", "Whom to tell"),
)
_NEEDED = ("programme", "kind", "number")
_NAMES = tuple(name for name, *_ in COLUMNS)
MOST = 200_000
_AT_ONCE = 2000


@dataclass(frozen=True)
class Exchanged:
    """What became of a file's lines: ``new`` marks, those that ``changed``, those that were known so, and (line, why) of those not read."""

    new: int
    changed: int
    same: int
    unread: tuple[tuple[int, str], ...]


def take_marks(act: Act, programme: Programme, table: Table) -> Exchanged:
    """Take marks of other programmes in; those of a file that came before are changed, not doubled. Our own are left out.

    Raises:
        CoreError: ``columns_missing``, ``too_many_lines``. Refused: ``role_may_not``.
    """
    require(act.person, programme, "keep_tags")
    places = {name.strip().lower(): place for place, name in enumerate(table.headers)}
    if missing := [name for name in _NEEDED if name not in places]:
        raise CoreError(
            "columns_missing",
            f"Expected columns {', '.join(_NAMES)}; this file lacks {', '.join(missing)}. Another installation writes such a file under Records, Export.",
            "file",
        )
    found: dict[Any, ForeignMark] = {}
    unread: list[tuple[int, str]] = []
    for line, cells in table.lines():
        told = {
            name: cells[places[name]].strip() if name in places and places[name] < len(cells) else "" for name in _NAMES
        }
        if not any(told.values()):
            continue
        try:
            row = _mark_of(programme, told)
        except CoreError as error:
            unread.append((line, error.message))
            continue
        found[row.pk] = row
        if len(found) > MOST:
            raise CoreError("too_many_lines", f"Expected {MOST:,} marks at most in one file.", "file")
    return _stored(programme, found, tuple(unread))


def _mark_of(programme: Programme, told: Mapping[str, str]) -> ForeignMark:
    owner = told["programme"][:120]
    if not owner:
        raise CoreError("owner_missing", "It says no programme that gave the tag out.", "programme")
    if owner.casefold() == programme.name.casefold():
        raise CoreError("mark_is_ours", "It is a tag of this programme itself.", "programme")
    number = read_number_of(told["kind"].lower(), told["number"])
    return ForeignMark(
        id=uuid5(programme.pk, f"{owner.casefold()} {told['kind'].lower()} {number}"),
        programme=programme,
        owner=owner,
        kind=told["kind"].lower(),
        number=number,
        colour=told["colour"][:30],
        species=told["species"][:80],
        placed_on=_read(told, "placed_on", date.fromisoformat),
        water=told["water"][:120],
        lat=_degrees(told, "latitude", 90),
        lon=_degrees(told, "longitude", 180),
        contact=told["contact"][:200],
    )


def _read(told: Mapping[str, str], name: str, how: Callable[[str], Any]) -> Any:
    if not told[name]:
        return None
    try:
        return how(told[name])
    except ValueError as error:
        raise CoreError("cell_unreadable", f"'{told[name][:20]}' is no {name}.", name) from error


def _degrees(told: Mapping[str, str], name: str, most: float) -> float | None:
    value: float | None = _read(told, name, float)
    if value is not None and not -most <= value <= most:  # no number is neither
        raise CoreError("cell_unreadable", f"'{told[name][:20]}' is no {name}.", name)
    return value


def _stored(programme: Programme, found: Mapping[Any, ForeignMark], unread: tuple[tuple[int, str], ...]) -> Exchanged:
    fields = [field.attname for field in ForeignMark._meta.concrete_fields if not field.primary_key]
    with transaction.atomic():
        there = {
            row.pk: row
            for row in ForeignMark.objects.select_for_update().filter(programme=programme, pk__in=list(found))
        }
        new = [row for key, row in found.items() if key not in there]
        changed = [
            row for key, row in found.items()
            if key in there and any(getattr(row, name) != getattr(there[key], name) for name in fields)
        ]  # fmt: skip
        ForeignMark.objects.bulk_create(new, batch_size=_AT_ONCE)
        ForeignMark.objects.bulk_update(
            changed, [name for name in fields if name != "programme_id"], batch_size=_AT_ONCE
        )
    return Exchanged(len(new), len(changed), len(found) - len(new) - len(changed), unread)


def forget_marks(act: Act, programme: Programme, owner: str) -> int:
    """Let the marks of another programme go; how many that were. Refused: ``role_may_not``."""
    require(act.person, programme, "keep_tags")
    gone, _ = ForeignMark.objects.filter(programme=programme, owner=owner).delete()
    return gone


def owners_of(programme: Programme) -> list[dict[str, Any]]:
    """Programmes whose marks are known here, with how many."""
    rows = ForeignMark.objects.filter(programme=programme).order_by("owner").values("owner").annotate(n=Count("pk"))
    return [{"owner": each["owner"], "n": each["n"]} for each in rows]


def whose_marks(programme: Programme, numbers: set[tuple[str, str]]) -> list[dict[str, Any]]:
    """What other programmes told of these (kind, number)s."""
    rows = ForeignMark.objects.filter(programme=programme, number__in={number for _, number in numbers})
    return [told_mark(each) for each in rows.order_by("owner", "number") if (each.kind, each.number) in numbers]


def told_mark(row: ForeignMark) -> dict[str, Any]:
    names = ("owner", "kind", "number", "colour", "species", "placed_on", "water", "contact")
    return {name: getattr(row, name) for name in names}
