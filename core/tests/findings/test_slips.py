"""Slips that many fish share, on made-up walleye: said where they are, and never of fish that are only fat, thin or few."""

from __future__ import annotations

import numpy as np
import pytest

from nailwright_core.common import species
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.slips import same_runs, unit_slips

WALLEYE = species.get("wal")


def walleye(rng, n=200, heavier=0.0):
    line = WALLEYE.length_mass
    length = rng.uniform(260, 620, n).round()
    return length, (10 ** (line.log10_a + line.b * np.log10(length) + rng.normal(heavier, line.sd, n))).round()


@pytest.mark.parametrize(
    ("change", "says"),
    [(lambda mm, g: (mm, g / 1000), "mass in kg"), (lambda mm, g: (mm, g / 453.59237), "mass in pounds"), (lambda mm, g: (mm / 10, g), "length in cm"),
     (lambda mm, g: (mm / 25.4, g), "length in inches"), (lambda mm, g: (g, mm), "length and mass exchanged"),
     (lambda mm, g: (mm, g * 20), " times what is usual")],
    ids=["kg", "pounds", "cm", "inches", "exchanged", "nothing known"],
)  # fmt: skip
def test_what_all_or_some_fish_share_is_said(change, says):
    mm, g = walleye(np.random.default_rng(4))
    (whole,) = unit_slips(WALLEYE, *change(mm, g))
    assert says in whole and "weighed fish are far off" in whole
    part = np.arange(200) < 30
    some = [np.where(part, new, old) for new, old in zip(change(mm, g), (mm, g), strict=True)]
    (said,) = unit_slips(WALLEYE, *some)
    assert says in said and " of 200 weighed fish" in said


def test_lengths_alone_in_another_unit():
    mm, _ = walleye(np.random.default_rng(5))
    (said,) = unit_slips(WALLEYE, mm / 10, np.full(200, np.nan))
    assert "written in cm" in said
    assert unit_slips(WALLEYE, np.append(mm, [30, 31, 32]), np.full(203, np.nan)) == ()


def test_fat_thin_and_few_fish_are_left_alone():
    rng = np.random.default_rng(6)
    for heavier in (-0.12, 0.0, 0.12):
        assert unit_slips(WALLEYE, *walleye(rng, heavier=heavier)) == ()
    mm, g = walleye(rng)
    g[:4] /= 1000
    assert unit_slips(WALLEYE, mm, g) == ()
    assert unit_slips(WALLEYE, [], []) == ()


def test_every_species_answers():
    for kind in species.all_species():
        low, high = kind.length_range_mm
        mm = np.linspace(low, high, 40)
        fits = 10 ** (kind.length_mass.log10_a + kind.length_mass.b * np.log10(mm))
        assert unit_slips(kind, mm, fits) == (), kind.code
        assert unit_slips(kind, mm, fits / 1000)[0].startswith("All 40"), kind.code


def test_runs_that_came_in_twice():
    rng = np.random.default_rng(7)
    mm, g = walleye(rng, 60)
    run = np.repeat([0, 1, 2], 20)
    again = rng.permutation(20)
    mm[40:], g[40:] = mm[:20][again], g[:20][again]
    assert same_runs(mm, g, run) == [(0, 2, 20)]
    g[41] += 1
    assert same_runs(mm, g, run) == []
    nobody_weighed = np.full(60, np.nan)
    assert same_runs(mm, nobody_weighed, run) == [(0, 2, 20)]
    assert same_runs([], [], []) == []


def test_a_few_or_like_fish_of_two_runs_are_no_file_that_came_in_twice():
    assert same_runs([210.0, 220, 230] * 2, [90.0] * 6, [0, 0, 0, 1, 1, 1]) == []
    assert same_runs([200.0] * 20, [np.nan] * 20, np.repeat([0, 1], 10)) == []  # fry on a coarse board


@pytest.mark.parametrize("call", [lambda: unit_slips(WALLEYE, [300], []), lambda: same_runs([300], [1], [])])
def test_figures_that_do_not_pair(call):
    with pytest.raises(CoreError) as refused:
        call()
    assert refused.value.code == "lengths_differ"
