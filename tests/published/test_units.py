"""Units against their definitions (international yard and pound agreement, 1959; exact), oxygen against printed tables."""

import pytest

from nailwright_core.common.quantities import G_PER, MM_PER, parse_length, parse_mass
from nailwright_core.waters.oxygen import oxygen_saturation_mg_l


def test_definitions_of_1959() -> None:
    assert MM_PER["in"] == 25.4 and MM_PER["ft"] == 304.8
    assert G_PER["lb"] == 453.59237 and G_PER["oz"] == 453.59237 / 16


def test_against_scipy_constants() -> None:
    """SciPy's table of constants (from NIST)."""
    from scipy import constants

    assert MM_PER["in"] == pytest.approx(constants.inch * 1000) and MM_PER["ft"] == pytest.approx(constants.foot * 1000)
    assert G_PER["lb"] == pytest.approx(constants.pound * 1000) and G_PER["oz"] == pytest.approx(constants.oz * 1000)


def test_eighteen_and_a_half_inches_by_definition() -> None:
    assert parse_length("18 1/4 in").mm == 463.55


def test_two_pounds_seven_ounces_by_definition() -> None:
    assert parse_mass("2lb 7oz").g == pytest.approx(2 * 453.59237 + 7 * 28.349523125)


@pytest.mark.parametrize(
    ("temperature", "mg_l"),
    [(0, 14.621), (5, 12.770), (10, 11.288), (15, 10.084), (20, 9.092), (25, 8.263), (30, 7.559)],
)
def test_oxygen_saturation_of_fresh_water(temperature: float, mg_l: float) -> None:
    """Standard Methods for the Examination of Water and Wastewater, table 4500-O:I, after Benson and Krause (from memory)."""
    assert oxygen_saturation_mg_l(temperature) == pytest.approx(mg_l, abs=0.0015)


def test_oxygen_saturation_in_the_sea_and_on_mountains() -> None:
    """35 salinity at 20 C: 7.40; 600 mm of mercury at 20 C: 7.14 (the same source, from memory)."""
    assert oxygen_saturation_mg_l(20, salinity=35) == pytest.approx(7.40, abs=0.01)
    # the altitude at which the standard atmosphere has 600 of 760 mm
    altitude = (1 - (600 / 760) ** (1 / 5.25588)) / 2.25577e-5
    assert oxygen_saturation_mg_l(20, altitude) == pytest.approx(7.14, abs=0.02)
