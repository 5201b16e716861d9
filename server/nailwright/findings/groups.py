"""Fish of a selection in groups: by year, water, reach, site, gear or sex."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

import numpy as np
import polars as pl
from numpy.typing import NDArray

from nailwright.deck.models import Capture, Gear, Run
from nailwright.findings.fish import fish_of
from nailwright.findings.queries import usable_fish
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright_core.common.errors import CoreError

#: More panels than this cannot be read, and more pairs say nothing.
MOST_GROUPS = 12

GROUPINGS = ("year", "season", "water", "reach", "site", "gear", "sex")


def lengths_by_group(programme: Programme, selection: Selection, by: str) -> dict[str, NDArray[np.float64]]:
    """Lengths of each group, in the order of the names.

    Raises:
        CoreError: ``too_few_groups``, ``too_many_groups``.
    """
    groups = _grouped(programme, selection, by, weighed=False)
    return {name: fish["length_mm"].to_numpy() for name, fish in groups.items()}


def pairs_by_group(
    programme: Programme, selection: Selection, by: str
) -> dict[str, tuple[NDArray[np.float64], NDArray[np.float64]]]:
    """Lengths and masses of each group, in the order of the names.

    Raises:
        CoreError: as ``lengths_by_group``.
    """
    groups = _grouped(programme, selection, by, weighed=True)
    return {name: (fish["length_mm"].to_numpy(), fish["mass_g"].to_numpy()) for name, fish in groups.items()}


def _grouped(programme: Programme, selection: Selection, by: str, weighed: bool) -> dict[str, pl.DataFrame]:
    fish = usable_fish(fish_of(programme, selection), selection, weighed)
    column = "sex" if by == "sex" else "run_id"
    names = dict(Capture.Sex.choices) if by == "sex" else _names_of_runs(programme, selection, by)
    named = pl.col(column).replace_strict(names, return_dtype=pl.String).alias("group")
    groups = {str(key[0]): part for key, part in fish.group_by(named, maintain_order=True)}
    if len(groups) < 2:
        raise CoreError(
            "too_few_groups",
            f"All these fish fall into {len(groups)} group; choose another grouping or widen the selection.",
            "by",
        )
    if len(groups) > MOST_GROUPS:
        raise CoreError(
            "too_many_groups",
            f"{len(groups)} groups are more than can be compared at once ({MOST_GROUPS}); narrow the selection.",
            "by",
        )
    return dict(sorted(groups.items()))


def _names_of_runs(programme: Programme, selection: Selection, by: str) -> dict[str, str]:
    """What group the fish of each run fall in."""
    field = {"water": "outing__water__name", "reach": "site__reach", "site": "site__name", "gear": "gear"}.get(by)
    # those taken out too: a fish of theirs is still there
    runs = Run.objects.filter(outing__programme=programme).order_by()
    rows = runs.values_list("pk", field or "outing__date")
    name = _NAMED.get(by, _plain)
    return {str(key): name(told) for key, told in rows}


def _plain(told: str) -> str:
    return told or "no name"


def _gear(code: str) -> str:
    return str(Gear(code).label)


def _year(day: date) -> str:
    return str(day.year)


def _season(day: date) -> str:
    return f"{day.year} {season_of(day.month)}"


_NAMED: dict[str, Callable[[Any], str]] = {"year": _year, "season": _season, "gear": _gear}


def season_of(month: int) -> str:
    return {
        12: "winter",
        1: "winter",
        2: "winter",
        3: "spring",
        4: "spring",
        5: "spring",
        6: "summer",
        7: "summer",
        8: "summer",
    }.get(month, "autumn")
