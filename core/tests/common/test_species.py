"""The species table."""

import pytest

from nailwright_core.common import species
from nailwright_core.common.errors import CoreError


def test_every_species_is_complete() -> None:
    kinds = species.all_species()
    assert len(kinds) >= 20
    assert len({kind.code for kind in kinds}) == len(kinds)
    for kind in kinds:
        low, high = kind.length_range_mm
        hard_low, hard_high = kind.length_bounds_mm
        assert 0 < hard_low <= low < high <= hard_high, kind.code
        assert kind.length_mass.sd > 0 and 2 < kind.length_mass.b < 4, kind.code


def test_categories_rise_and_lie_in_the_believable_range() -> None:
    for kind in species.all_species():
        if kind.size_categories:
            limits = [mm for _, mm in kind.size_categories]
            assert limits == sorted(limits) and len(set(limits)) == 5, kind.code
            assert kind.length_bounds_mm[0] < limits[0] and limits[-1] < kind.length_bounds_mm[1], kind.code


def test_every_published_constant_names_its_source() -> None:
    for kind in species.all_species():
        assert kind.length_mass_source
        if kind.standard_weight:
            assert kind.standard_weight.source, kind.code
        if kind.size_categories:
            assert kind.size_categories.source, kind.code


def test_a_code_is_found_whatever_its_case() -> None:
    assert species.get(" WAL ").common_name == "walleye"


@pytest.mark.parametrize("code", ["", "xyz", "walleye"])
def test_an_unknown_code_is_refused(code: str) -> None:
    with pytest.raises(CoreError, match="Expected a species code") as refused:
        species.get(code)
    assert (refused.value.code, refused.value.field) == ("species_unknown", "species")
