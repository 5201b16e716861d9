"""Histories of marked fish: encounters over sampling occasions, those at which no marked fish was met among them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from itertools import groupby
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from nailwright.programmes.models import Programme
from nailwright.tags.models import Encounter, Occasion
from nailwright_core.findings.histories import histories


@dataclass(frozen=True)
class MarkedHistories:
    """Attributes:
    labels: of the occasions in their order, shape (s,). fish: keys as text, shape (n,).
    x: 0 and 1, shape (n, s). lost: whether a fish did not go back after its last encounter, shape (n,).
    """

    labels: tuple[str, ...]
    fish: NDArray[np.generic]
    x: NDArray[np.int64]
    lost: NDArray[np.bool_]


#: How the days that were fished are put together to occasions.
GROUPINGS: dict[str, Callable[[date], str]] = {
    "day": date.isoformat,
    "week": lambda day: "{} week {:02d}".format(*day.isocalendar()[:2]),
    "month": lambda day: f"{day:%Y-%m}",
    "year": lambda day: str(day.year),
}


def histories_of(programme: Programme, species: str, by: str = "year") -> MarkedHistories:
    """Histories of a species over everything that was fished in the programme.

    Args:
        by: one of ``GROUPINGS``.
    """
    named = GROUPINGS[by]
    fished = Occasion.objects.filter(programme=programme).order_by("day").values_list("day", "pk")
    labels: list[str] = []
    place: dict[UUID | None, int] = {}
    for label, rows in groupby(fished, lambda row: named(row[0])):
        place |= {occasion: len(labels) for _, occasion in rows}
        labels.append(label)
    met = Encounter.objects.filter(fish__programme=programme, fish__species=species, occasion_id__in=list(place))
    told = met.order_by("at", "id").values_list("fish_id", "occasion_id", "disposition")
    gone = {str(fish): disposition in Encounter.LOSSES for fish, _, disposition in told}
    keys, x = histories([str(fish) for fish, _, _ in told], [place[at] for _, at, _ in told], len(labels))
    return MarkedHistories(tuple(labels), keys, x, np.array([gone[str(key)] for key in keys], dtype=bool))
