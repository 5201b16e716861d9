"""Alerts, closed seasons and boat limits, by the cases that the browser is held to as well; worked by hand."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.deck.alerts import alerts_for, limits_for, pressure_seasons

SHARED = json.loads((Path(__file__).resolve().parents[3] / "tests/shared/alerts.json").read_text())


@pytest.mark.parametrize("case", SHARED["alerts"])
def test_alerts(case: dict[str, Any]) -> None:
    assert list(alerts_for(SHARED["rows"], case["species"], case["length_mm"])) == case["alerts"]


@pytest.mark.parametrize("case", SHARED["limits"])
def test_seasons_and_boat_limits(case: dict[str, Any]) -> None:
    assert list(limits_for(SHARED["limits_rows"], case["species"], case["day"], case["retained"])) == case["limits"]


@pytest.mark.parametrize("case", SHARED["sexing"])
def test_seasons_of_sex_by_pressure(case: dict[str, Any]) -> None:
    assert list(pressure_seasons(SHARED["sexing_rows"], case["species"], case["day"])) == case["seasons"]
    assert pressure_seasons([], case["species"], case["day"]) == ()
