"""A survey that is planned, step by step."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.permits.models import Permit
from nailwright.programmes.models import Programme
from nailwright.waters.models import Water

FIRST = date(2027, 6, 1)
LINE = [[-31.62 + 0.01 * step, 44.91 + 0.002 * (step % 3)] for step in range(60)]


@pytest.fixture
def river(programme: Programme) -> Water:
    return Water.objects.create(
        programme=programme, name="Long River", kind="river", geometry={"type": "LineString", "coordinates": LINE}
    )


@pytest.fixture
def survey(lead: APIClient, programme: Programme, river: Water) -> dict[str, Any]:
    body = {
        "water": str(river.pk), "name": "Marks, spring", "question": "marks", "species": ["wal"], "gear": "boat_electrofishing",
        "first": FIRST.isoformat(), "last": (FIRST + timedelta(days=21)).isoformat(), "visits": 4, "revisit_years": 5,
    }  # fmt: skip
    made = lead.post(f"/api/v1/programmes/{programme.pk}/plan", body, format="json")
    assert made.status_code == 201, made.data
    return made.data


@pytest.fixture
def change(lead: APIClient, survey: dict[str, Any]) -> Callable[..., Any]:
    def do(**body: Any) -> Any:
        return lead.post(f"/api/v1/surveys/{survey['id']}", body, format="json")

    return do


@pytest.fixture
def ready(lead: APIClient, survey: dict[str, Any], change: Callable[..., Any], programme: Programme) -> str:
    """A survey that may go out: its address."""
    Permit.objects.create(
        programme=programme,
        kind="certificate",
        name="Crew leader",
        holder="Ada",
        gears=["boat_electrofishing"],
        first=date(2026, 1, 1),
        last=date(2028, 1, 1),
    )
    targets = [{"species": "wal", "what": "marked", "wanted": 410, "from_mm": 250}]
    change(parts={"crew": ["Ada", "Bo"], "targets": targets, "layout": {"site_length_m": 1000, "gap_m": 5000}})
    lead.post(f"/api/v1/surveys/{survey['id']}/sites")
    return f"/api/v1/surveys/{survey['id']}"
