"""Fish of a selection in groups: by year, water, reach, site, gear or sex."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from nailwright.common.below_orm import read_rows
from nailwright.deck.models import Capture, Gear, Run
from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Programme
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species

#: More panels than this cannot be read, and more pairs say nothing.
MOST_GROUPS = 12

_OF_RUN: dict[str, Callable[[Run], str]] = {
    "year": lambda run: str(run.outing.date.year),
    "season": lambda run: f"{run.outing.date.year} {_season(run.outing.date.month)}",
    "water": lambda run: run.outing.water.name,
    "reach": lambda run: run.site.reach,
    "site": lambda run: run.site.name,
    "gear": lambda run: Gear(run.gear).label,
}
GROUPINGS = (*_OF_RUN, "sex")


def lengths_by_group(
    programme: Programme, selection: Selection, kind: Species, by: str
) -> dict[str, NDArray[np.float64]]:
    """Lengths of each group, in the order of the names."""
    rows = _rows(programme, selection, kind, weighed=False)
    return {name: np.array([row[2] for row in part], dtype=float) for name, part in _grouped(rows, by).items()}


def pairs_by_group(
    programme: Programme, selection: Selection, kind: Species, by: str
) -> dict[str, tuple[NDArray[np.float64], NDArray[np.float64]]]:
    """Lengths and masses of each group, in the order of the names."""
    rows = _rows(programme, selection, kind, weighed=True)
    return {
        name: (np.array([row[2] for row in part], dtype=float), np.array([row[3] for row in part], dtype=float))
        for name, part in _grouped(rows, by).items()
    }


def _rows(programme: Programme, selection: Selection, kind: Species, weighed: bool) -> list[tuple[Any, ...]]:
    """Run, sex, length and mass of every usable fish, read below the ORM as ``queries`` does."""
    bases = ("measured", "estimated") if selection.estimated else ("measured",)
    usable = {"length_type": kind.length_type, "length_basis__in": bases}
    if weighed:
        usable["mass_basis__in"] = bases
    wanted = captures_in(programme, selection).filter(**usable).values_list("run_id", "sex", "length_mm", "mass_g")
    return read_rows(wanted)


def _grouped(rows: list[tuple[Any, ...]], by: str) -> dict[str, list[tuple[Any, ...]]]:
    if by == "sex":
        names = dict(Capture.Sex.choices)
        key: Callable[[tuple[Any, ...]], str] = lambda row: names[row[1]]  # noqa: E731
    else:
        runs = Run.objects.filter(pk__in={UUID(row[0]) for row in rows}).select_related("outing__water", "site")
        of_run = {run.pk.hex: _OF_RUN[by](run) or "no name" for run in runs}
        key = lambda row: of_run[UUID(row[0]).hex]  # noqa: E731
    groups: dict[str, list[tuple[Any, ...]]] = {}
    for row in rows:
        groups.setdefault(key(row), []).append(row)
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


def _season(month: int) -> str:
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
