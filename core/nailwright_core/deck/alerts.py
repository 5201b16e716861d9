"""What the Deck says as a fish is recorded: alerts by species and size, closed seasons, boat limits. Local law decides.

The Deck does this with no signal (``web/src/features/deck/rules/alerts.ts``); both are held to ``tests/shared/alerts.json``.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from nailwright_core.common.year_days import within_year


def alerts_for(rows: Sequence[Mapping[str, Any]], species: str, length_mm: float | None) -> tuple[str, ...]:
    """Alerts of the protocol for a fish; one of unknown length has only those that ask for none.

    Args:
        rows: each with species (empty: any), ``from_mm``, ``to_mm`` (None: no end) and ``word``.
        species: code of the species.
        length_mm: mm; None where it was not measured.
    """

    def fits(row: Mapping[str, Any]) -> bool:
        if row["species"] not in (species, ""):
            return False
        low, high = float(row["from_mm"] or 0), row["to_mm"]
        if length_mm is None:
            return low == 0 and high is None
        return low <= length_mm and (high is None or length_mm < float(high))

    return tuple(str(row["word"]) for row in rows if fits(row))


def is_in_days(row: Mapping[str, Any], day: str) -> bool:
    """Whether a day of the year lies in a row's days; those that run over the new year end in the next.

    Args:
        row: with ``first_day`` and ``last_day`` as "MM-DD"; empty: no day lies in them.
        day: "MM-DD".
    """
    first, last = row["first_day"] or "", row["last_day"] or ""
    if not first or not last:
        return False
    return within_year(day, first, last)


def limits_for(rows: Sequence[Mapping[str, Any]], species: str, day: str, retained: int) -> tuple[str, ...]:
    """Codes of what stands against retaining another fish: "closed", "boat_full".

    Args:
        rows: each with species (empty: any), days and ``boat_limit`` (None: none).
        species: code of the species.
        day: "MM-DD".
        retained: fish of the species that this outing has retained.
    """
    here = [row for row in rows if row["species"] in (species, "")]
    found = []
    if any(is_in_days(row, day) for row in here):
        found.append("closed")
    limits = [float(row["boat_limit"]) for row in here if row["boat_limit"] is not None]
    if limits and retained >= min(limits):
        found.append("boat_full")
    return tuple(found)


def pressure_seasons(rows: Sequence[Mapping[str, Any]], species: str, day: str) -> tuple[str, ...]:
    """Seasons of a species in which pressure shows its sex, where the day is in none of them; empty: nothing to ask about.

    Args:
        rows: of the protocol, each with species (empty: any), ``first_day`` and ``last_day`` as "MM-DD".
        species: code of the species; rows of its own count before those of any.
        day: "MM-DD".
    """
    own = [row for row in rows if row["species"] == species] or [row for row in rows if row["species"] == ""]
    if any(is_in_days(row, day) for row in own):
        return ()
    return tuple(f"{row['first_day']} to {row['last_day']}" for row in own)
