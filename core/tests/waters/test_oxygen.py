"""Oxygen saturation: what holds besides the published tables (`tests/published/test_units.py`)."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.waters.oxygen import oxygen_saturation_mg_l, oxygen_saturation_percent


def test_warm_high_and_salt_water_hold_less() -> None:
    assert oxygen_saturation_mg_l(10) > oxygen_saturation_mg_l(11) > oxygen_saturation_mg_l(11, 500)
    assert oxygen_saturation_mg_l(11) > oxygen_saturation_mg_l(11, salinity=5)


def test_a_reading_in_per_cent() -> None:
    assert oxygen_saturation_percent(oxygen_saturation_mg_l(14.2, 300), 14.2, 300) == pytest.approx(100)
    assert oxygen_saturation_percent(0, 14.2) == 0


@pytest.mark.parametrize("given", [(-1, 0, 0), (45, 0, 0), (10, 9000, 0), (10, 0, 50), (float("nan"), 0, 0)])
def test_water_that_is_none_is_refused(given: tuple[float, float, float]) -> None:
    with pytest.raises(CoreError) as refused:
        oxygen_saturation_mg_l(*given)
    assert refused.value.code == "number_out_of_range"
    with pytest.raises(CoreError):
        oxygen_saturation_percent(-1, 10)


@pytest.mark.parametrize("case", json.loads((Path(__file__).parents[3] / "tests/shared/oxygen.json").read_text()))
def test_the_browser_is_held_to_core(case: dict[str, float]) -> None:
    assert oxygen_saturation_mg_l(case["temperature_c"]) == pytest.approx(case["mg_l"], abs=1e-4)
