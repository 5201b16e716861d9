"""Is this fish believable, and which slip would explain it?"""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common import species
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import LengthMassLine
from nailwright_core.deck.plausibility import believability_table, check_capture, check_growth, log_residual_sd

SHARED = Path(__file__).resolve().parents[3] / "tests" / "shared"
sys.path.insert(0, str(SHARED))
import write_believability  # noqa: E402  # beside its file, in no package

WALLEYE = species.get("wal")
PERCH = species.get("yep")


def test_shared_cases_are_fresh() -> None:
    """What the browser is held to is what core says today; else run tests/shared/write_believability.py."""
    assert json.loads(write_believability.FILE.read_text(encoding="utf-8")) == write_believability.cases()


@pytest.mark.parametrize(
    ("length", "mass", "slip", "meant_length", "meant_mass"),
    [
        (46.3, 950, "length_in_cm", 463, 950),
        (18.25, 950, "length_in_inches", 463.5, 950),
        (463, 0.95, "mass_in_kg", 463, 950),
        (463, 2.1, "mass_in_pounds", 463, 952.54),
        (950, 463, "exchanged", 463, 950),
        (643, 950, "length_digits", 463, 950),
    ],
)
def test_each_slip_is_named_and_repaired(
    length: float, mass: float, slip: str, meant_length: float, meant_mass: float
) -> None:
    likeliest = check_capture(WALLEYE, length, mass)[0].repairs[0]
    assert (likeliest.code, likeliest.length_mm, likeliest.mass_g) == (slip, meant_length, meant_mass)


def test_mass_digits_swapped() -> None:
    questions = check_capture(PERCH, 200, 59)
    assert ("mass_digits", 95.0) in [(each.code, each.mass_g) for each in questions[0].repairs]


@given(st.sampled_from(species.all_species()), st.floats(0.5, 3000), st.floats(0.01, 100_000))
def test_every_repair_is_itself_believable(kind: species.Species, length: float, mass: float) -> None:
    for question in check_capture(kind, length, mass):
        for repair in question.repairs:
            assert check_capture(kind, repair.length_mm, repair.mass_g) == ()


@given(st.sampled_from(species.all_species()), st.floats(0.02, 0.98), st.floats(-2.4, 2.4))
def test_a_fish_within_the_band_raises_no_question(kind: species.Species, along: float, sds: float) -> None:
    low, high = kind.length_range_mm
    length = low + along * (high - low)
    line = kind.length_mass
    mass = 10 ** (line.log10_a + line.b * np.log10(length) + sds * line.sd)
    assert check_capture(kind, length, mass) == ()


@pytest.mark.parametrize(("sds", "weight"), [(2.6, "ask"), (-2.6, "ask"), (5.1, "ask twice"), (-5.1, "ask twice")])
def test_the_further_off_the_harder_it_asks(sds: float, weight: str) -> None:
    line = WALLEYE.length_mass
    mass = 10 ** (line.log10_a + line.b * np.log10(400) + sds * line.sd)
    assert [each.weight for each in check_capture(WALLEYE, 400, mass)] == [weight]
    assert log_residual_sd(400, mass, line) == pytest.approx(sds)


def test_the_programmes_own_line_replaces_the_published_one() -> None:
    thin = LengthMassLine(WALLEYE.length_mass.log10_a - 0.3, WALLEYE.length_mass.b, 0.04)
    usual = 10 ** (WALLEYE.length_mass.log10_a + WALLEYE.length_mass.b * np.log10(400))
    assert check_capture("wal", 400, usual) == ()
    assert check_capture("wal", 400, usual, line=thin)[0].code == "mass_far_off"


def test_an_impossible_length_is_refused_and_one_number_alone_is_enough() -> None:
    assert check_capture("wal", 9000, None)[0].weight == "refuse"
    assert check_capture("wal", None, 950) == ()
    assert check_capture("wal", None, None) == ()


def test_an_unknown_species_is_refused() -> None:
    with pytest.raises(CoreError, match="species code"):
        check_capture("zzz", 100, 10)


@given(st.sampled_from(species.all_species()), st.floats(0.001, 0.999))
def test_a_straight_line_between_rows_of_the_table_is_close_to_the_curve(kind: species.Species, along: float) -> None:
    table = believability_table(kind)
    low, high = kind.length_bounds_mm
    length = low * (high / low) ** along
    exact = 10 ** (kind.length_mass.log10_a + kind.length_mass.b * np.log10(length))
    assert np.interp(length, table.length_mm, table.expected_g) == pytest.approx(exact, rel=2e-4)


@pytest.mark.parametrize("case", json.loads((SHARED / "growth.json").read_text()))
def test_a_fish_that_shrank_is_asked_about(case: dict[str, Any]) -> None:
    asked = check_growth(case["last_mm"], case["length_mm"])
    assert (asked is not None) is case["asks"]
    assert asked is None or ("shorter" in asked.message and asked.weight == "ask")


def test_the_question_says_by_which_line() -> None:
    wal = species.get("wal")
    (general,) = check_capture("wal", 400, 250)
    (own,) = check_capture("wal", 400, 250, line=wal.length_mass)
    assert "by the general line" in general.message and "by this programme's own fish" in own.message
