"""Units against their definitions: international yard and pound agreement, 1959 (exact)."""

import pytest

from nailwright_core.common.quantities import G_PER, MM_PER, parse_length, parse_mass


def test_definitions_of_1959() -> None:
    assert MM_PER["in"] == 25.4 and MM_PER["ft"] == 304.8
    assert G_PER["lb"] == 453.59237 and G_PER["oz"] == 453.59237 / 16


def test_against_scipy_constants() -> None:
    """SciPy's table of constants (from NIST)."""
    from scipy import constants

    assert MM_PER["in"] == pytest.approx(constants.inch * 1000) and MM_PER["ft"] == pytest.approx(constants.foot * 1000)
    assert G_PER["lb"] == pytest.approx(constants.pound * 1000) and G_PER["oz"] == pytest.approx(constants.oz * 1000)


def test_eighteen_and_a_half_inches_by_definition() -> None:
    assert parse_length("18 1/2 in").mm == 469.9


def test_two_pounds_seven_ounces_by_definition() -> None:
    assert parse_mass("2lb 7oz").g == pytest.approx(2 * 453.59237 + 7 * 28.349523125)
