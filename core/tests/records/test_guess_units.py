"""Units told by the fish themselves."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common import species
from nailwright_core.common.quantities import G_PER, MM_PER
from nailwright_core.records.units import TOGETHER, guess_units

WAL = species.get("wal")


def fish(n: int, seed: int = 1) -> tuple[np.ndarray, np.ndarray]:
    """Lengths (mm) and masses (g) near the walleye's line."""
    rng = np.random.default_rng(seed)
    mm = rng.uniform(220, 640, n)
    line = WAL.length_mass
    return mm, 10 ** (line.log10_a + line.b * np.log10(mm) + rng.normal(0, 0.05, n))


@pytest.mark.parametrize("length", list(MM_PER))
@pytest.mark.parametrize("mass", list(G_PER))
def test_every_pair_of_units(length: str, mass: str) -> None:
    """Inch with pound looks like centimetre with ounce (2.54 cubed is 16.4, a pound has 16 ounces); those used together win."""
    mm, g = fish(200)
    found = guess_units([WAL] * 200, mm / MM_PER[length], g / G_PER[mass])
    assert (found.length, found.mass) == (length, mass)
    assert found.share > 0.95


def test_lengths_alone_are_left_undecided_between_inches_and_centimetres() -> None:
    mm, _ = fish(100)
    assert guess_units([WAL] * 100, mm / 25.4).length is None
    assert guess_units([WAL] * 100, mm).length == "mm"


def test_a_named_unit_narrows_the_choice() -> None:
    mm, g = fish(100)
    found = guess_units([WAL] * 100, mm / 25.4, g / 453.6, lengths=("in",))
    assert (found.length, found.mass) == ("in", "lb")
    assert guess_units([WAL] * 100, mm / 25.4, g / 453.6, lengths=("mm",)).length is None


@given(st.integers(1, 80), st.integers(0, 1000))
def test_missing_cells_are_no_evidence(n: int, seed: int) -> None:
    mm, g = fish(n, seed)
    holes = np.random.default_rng(seed).random(n) < 0.5
    g[holes] = np.nan
    found = guess_units([WAL] * n, mm, g)
    assert found.length in ("mm", None) and 0 <= found.share <= 1
    if found.mass:
        assert (found.length, found.mass) in TOGETHER


def test_nothing_to_judge_by() -> None:
    assert guess_units([], [], []).length is None
    assert guess_units([WAL], [float("nan")], [1.0]).share == 0
    noise = np.random.default_rng(3).uniform(1, 1e6, 60)
    assert guess_units([WAL] * 60, noise, noise[::-1]).length is None
