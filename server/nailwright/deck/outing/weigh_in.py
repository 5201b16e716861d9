"""The result of an angling event, by what the protocol counts."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from nailwright.deck.models import Capture, Outing
from nailwright.deck.outing.anglers import Rods
from nailwright.deck.queries import with_marks
from nailwright.programmes.protocols import protocol_in
from nailwright.programmes.species.known import species_of
from nailwright_core.deck.weigh_in import Entered, standings


def results_of(outing: Outing) -> list[dict[str, Any]]:
    """One table of places for each row of the protocol's weigh-in; fish whose angler nobody said are in none."""
    rows = protocol_in(outing.protocol).rows("weigh_in")
    if not rows:
        return []
    rods, names = Rods(outing), species_of(outing.programme)
    caught = with_marks([each for each in rods.captures if each.pk in rods.whose])
    found = []
    for row in rows:
        species = str(row["species"] or "")
        entered = [
            fish
            for each in caught
            if species in ("", each.species)
            for fish in _entered(each, rods.whose[each.pk], str(row["by"]))
        ]
        found.append(
            {
                "species": names[species].common_name if species else "",
                "by": row["by"],
                "best": row["best"],
                "unit": "g" if row["by"] == "weight" else "mm",
                "nobody": sum(
                    each.count for each in rods.captures if species in ("", each.species) and each.pk not in rods.whose
                ),
                "standings": [asdict(each) for each in standings(entered, row["best"], row["dead"] == "yes")],  # type: ignore[arg-type]
            }
        )
    return found


def _entered(capture: Capture, angler: str, by: str) -> list[Entered]:
    release = getattr(capture, "release", None)
    alive = release is not None and release.deleted_at is None and release.fate == release.Fate.RELEASED
    estimated = by == "length" and capture.length_basis != "measured"
    value = None if estimated else capture.mass_g if by == "weight" else capture.length_mm
    tagged = bool(capture.placed) or any(each.result == "known" for each in capture.scans)
    return [Entered(angler, value, alive, tagged)] * capture.count
