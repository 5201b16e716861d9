"""A made-up gauge: the river's flow day by day, with a spring flood and rain."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import numpy as np

from demo.keys import Keys
from demo.truth import SEED
from nailwright.programmes.models import Person
from nailwright.waters.models import Series, SeriesPoint, Water


def flow(water: Water, person: Person, first: date, today: date) -> None:
    """Daily flow from the first day until today, m3/s."""
    rng, keys = np.random.default_rng(SEED + 8), Keys(np.random.default_rng(SEED + 9))
    days = np.arange((today - first).days + 1)
    season = 9 + 6 * np.exp(-(((days % 365) - 120) ** 2) / 900)
    rain = np.zeros(len(days))
    for day in np.flatnonzero(rng.random(len(days)) < 0.05):
        after = days[day:] - day
        rain[day:] += rng.gamma(2, 3) * np.exp(-after / 4)
    values = (season + rain) * np.exp(rng.normal(0, 0.04, len(days)))
    noon = [datetime(first.year, first.month, first.day, 12, tzinfo=UTC) + timedelta(days=int(day)) for day in days]
    made = keys.at(noon[-1])
    series = Series.objects.create(
        id=made, water=water, name="Flow", unit="m³/s", source="made-up gauge at km 12", person=person, made_at=noon[-1]
    )
    SeriesPoint.objects.bulk_create(
        (
            SeriesPoint(id=keys.at(at), series=series, at=at, value=round(float(value), 2))
            for at, value in zip(noon, values, strict=True)
        ),
        batch_size=2000,
    )
