"""Comparing lengths, lines and values between groups."""

from __future__ import annotations

import numpy as np
import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.findings import length_comparison
from nailwright_core.findings.condition import compare_lines, compare_values
from nailwright_core.findings.size_structure import compare_lengths

CATEGORIES = {"stock": 250, "quality": 380, "preferred": 510, "memorable": 630, "trophy": 760}


def lengths(mean: float, n: int = 80, seed: int = 0) -> np.ndarray:
    return np.random.default_rng(seed).normal(mean, 60, n).clip(50).round()


def line(factor: float, slope: float = 3.1, n: int = 60, seed: int = 0) -> tuple[np.ndarray, np.ndarray]:
    rng = np.random.default_rng(seed)
    mm = rng.uniform(200, 600, n)
    return mm, factor * 10 ** (-5.3 + slope * np.log10(mm) + rng.normal(0, 0.03, n)) * 400 ** (3.1 - slope)


def test_permutation_p_is_uniform_where_nothing_differs() -> None:
    p = [compare_lengths(lengths(400, 40, seed), lengths(400, 40, seed + 1000), seed).ks_p for seed in range(60)]
    assert 0.02 <= np.mean(np.array(p) < 0.1) <= 0.22 and np.mean(p) == pytest.approx(0.5, abs=0.12)


def test_a_shift_is_found_and_measured() -> None:
    found = compare_lengths(lengths(400, 300, 1), lengths(440, 300, 2), categories=CATEGORIES)
    assert found.ks_p < 0.001 and found.category_p is not None and found.category_p < 0.05
    assert found.median_difference.lower < 40 < found.median_difference.upper
    assert compare_lengths(lengths(400, 300, 1), lengths(440, 300, 2), seed=0, categories=CATEGORIES) == found


def test_drawn_and_counted_permutations_agree(monkeypatch: pytest.MonkeyPatch) -> None:
    a, b = lengths(400, 60, 1), lengths(415, 70, 2)
    counted = compare_lengths(a, b)
    monkeypatch.setattr(length_comparison, "COUNTED_UP_TO", 0)
    assert compare_lengths(a, b).ks_p == pytest.approx(counted.ks_p, abs=0.06)


def test_a_p_that_no_draw_reached_is_at_most_that(monkeypatch: pytest.MonkeyPatch) -> None:
    """Also where the bound spares the draws: it lies above the counted p."""
    far = lengths(400, 300, 1), lengths(440, 300, 2)
    near = lengths(400, 300, 1), lengths(424, 300, 2)
    counted = [compare_lengths(*each).ks_p for each in (far, near)]
    monkeypatch.setattr(length_comparison, "COUNTED_UP_TO", 0)
    for pair, exact in zip((far, near), counted, strict=True):
        drawn = compare_lengths(*pair)
        assert drawn.ks_p_at_most and exact <= drawn.ks_p <= 1 / 2000


def test_the_bound_lies_above_the_counted_p() -> None:
    for shift in (5, 10, 20, 30):
        a, b = lengths(400, 500, 1), lengths(400 + shift, 700, 2)
        found = compare_lengths(a, b)
        assert found.ks_p <= length_comparison._tail_bound(500, 700, found.ks)


def test_equal_samples_do_not_differ() -> None:
    same = compare_lengths([300.0] * 5, [300.0] * 9, categories=CATEGORIES)
    assert (same.ks, same.ks_p, same.category_chi2) == (0, 1, None)


@pytest.mark.parametrize("small", [[], [300.0]])
def test_one_fish_is_no_sample(small: list[float]) -> None:
    with pytest.raises(CoreError, match="at least two") as refused:
        compare_lengths([300.0, 310.0], small)
    assert (refused.value.code, refused.value.field) == ("too_few_fish", "b")


def test_a_thinner_group_has_a_lower_line() -> None:
    found = compare_lines({"upper": line(1.0, seed=1), "lower": line(0.88, seed=2)})
    assert found.parallel and found.heights_p is not None and found.heights_p < 0.001
    assert found.pairs[0].difference == pytest.approx(-12, abs=2)
    ratio = found.adjusted_mass_g["lower"].value / found.adjusted_mass_g["upper"].value
    assert 100 * (ratio - 1) == pytest.approx(found.pairs[0].difference)


def test_lines_that_are_not_parallel_have_no_common_height() -> None:
    found = compare_lines({"a": line(1, 3.1), "b": line(1, 3.6, seed=3)})
    assert not found.parallel and found.heights_p is None and found.adjusted_mass_g == {} and found.pairs == ()
    assert found.slopes["b"].value > found.slopes["a"].value


@pytest.mark.parametrize(
    ("groups", "code"),
    [
        ({"a": line(1)}, "too_few_groups"),
        ({"a": line(1), "b": ([300.0, 300.0], [200.0, 210.0])}, "too_few_lengths"),
        ({"a": line(1), "b": ([300.0], [])}, "lengths_differ"),
        ({"a": line(1), "b": ([300.0, 310.0, 320.0], [200.0, -1.0, 3.0])}, "not_positive"),
    ],
)
def test_lines_that_cannot_be_compared(groups: dict[str, object], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        compare_lines(groups)  # type: ignore[arg-type]
    assert refused.value.code == code


def test_values_that_cannot_be_compared() -> None:
    for groups, code in (
        ({"a": [1.0]}, "too_few_groups"),
        ({"a": [1.0], "b": [np.nan]}, "too_few_fish"),
        ({"a": [1.0], "b": [1.0]}, "values_all_equal"),
    ):
        with pytest.raises(CoreError) as refused:
            compare_values(groups)  # type: ignore[arg-type]
        assert refused.value.code == code
