"""Comparing lengths, lines and values between groups."""

from __future__ import annotations

import numpy as np
import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.findings import length_comparison
from nailwright_core.findings.board_steps import on_one_grid
from nailwright_core.findings.confounders import sampled_alike
from nailwright_core.findings.line_comparison import compare_lines
from nailwright_core.findings.size_structure import compare_lengths
from nailwright_core.findings.value_comparison import compare_values

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
    assert found.shift.lower < 40 < found.shift.upper and found.shift_p < 0.001
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
    (pair,) = found.pairs
    assert pair.p < 0.001 and found.shared
    for difference, upper, lower in zip(pair.differences, found.masses["upper"], found.masses["lower"], strict=True):
        assert difference.lower < -12 < difference.upper < 0
        assert 100 * (lower.value / upper.value - 1) == pytest.approx(difference.value)


def test_lines_that_are_not_parallel_differ_by_length() -> None:
    """Slopes that differ withhold nothing: the difference is told at each length."""
    found = compare_lines({"a": line(1, 3.1), "b": line(1, 3.6, seed=3)})
    short, middle, long = found.pairs[0].differences
    assert short.upper < 0 < long.lower and short.value < middle.value < long.value
    assert found.slopes["b"].value > found.slopes["a"].value


def test_groups_of_unlike_spread_raise_no_false_alarms() -> None:
    """20 and 100 fish with SD 0.10 and 0.03: with one residual variance for both, 22 of 100 alarms were false."""
    rng = np.random.default_rng(5)
    alarms = held = 0
    for _ in range(500):
        groups = {}
        for name, n, sd in (("few", 20, 0.10), ("many", 100, 0.03)):
            mm = rng.uniform(200, 600, n)
            groups[name] = mm, 10 ** (-5.3 + 3.1 * np.log10(mm) + rng.normal(0, sd, n))
        (pair,) = compare_lines(groups).pairs
        alarms += pair.p < 0.05
        held += sum(each.lower <= 0 <= each.upper for each in pair.differences)
    assert alarms / 500 < 0.08 and 0.93 < held / 1500 < 0.98


def test_the_same_exact_line_does_not_differ_from_itself() -> None:
    mm = np.array([200.0, 300, 400, 500])
    same = compare_lines({"a": (mm, 1e-5 * mm**3), "b": (mm[:3], 1e-5 * mm[:3] ** 3)})
    other = compare_lines({"a": (mm, 1e-5 * mm**3), "b": (mm, 1.1e-5 * mm**3)})
    assert (same.pairs[0].p, same.pairs[0].differences[1].value) == (1, 0)
    assert other.pairs[0].p == 0 and other.pairs[0].differences[1].value == pytest.approx(10)


def test_groups_that_share_no_lengths_are_compared_beyond_their_fish_and_it_is_said() -> None:
    rng = np.random.default_rng(6)
    mm = rng.uniform(100, 200, 40), rng.uniform(400, 600, 40)
    groups = {
        name: (each, 10 ** (-5.3 + 3.1 * np.log10(each) + rng.normal(0, 0.03, 40)))
        for name, each in zip("ab", mm, strict=True)
    }
    assert not compare_lines(groups).shared and compare_lines({"a": line(1), "b": line(1, seed=2)}).shared


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
    ):
        with pytest.raises(CoreError) as refused:
            compare_values(groups)  # type: ignore[arg-type]
        assert refused.value.code == code


def test_values_all_alike_do_not_differ() -> None:
    (pair,) = compare_values({"a": [1.0, 1.0], "b": [1.0]})
    assert (pair.difference.value, pair.p) == (0, 1)


def test_thousands_of_different_readings_are_permuted_as_steps(monkeypatch: pytest.MonkeyPatch) -> None:
    rng = np.random.default_rng(12)
    a, b = rng.normal(400, 60, 3000), rng.normal(402.5, 60, 3000)
    counted = compare_lengths(a, b)
    monkeypatch.setattr(length_comparison, "COUNTED_UP_TO", 0)
    assert compare_lengths(a, b).ks_p == pytest.approx(counted.ks_p, abs=0.06)


@pytest.mark.parametrize(
    ("groups", "verdict", "words"),
    [
        (
            {"2024": {"spring": 40, "autumn": 10}, "2025": {"spring": 5, "autumn": 45}},
            "doubtful",
            "80 % spring in 2024, 10 % in 2025",
        ),
        ({"2024": {"spring": 40, "autumn": 10}, "2025": {"spring": 80, "autumn": 20}}, "holds", "At most"),
    ],
)
def test_groups_sampled_unlike_are_told(groups: dict[str, dict[str, int]], verdict: str, words: str) -> None:
    found = sampled_alike("time of year", groups)
    assert found is not None and found.verdict == verdict and words in found.detail


def test_what_cannot_confound_is_not_spoken_of() -> None:
    assert sampled_alike("sex", {"2024": {"Female": 30}, "2025": {"Female": 40}}) is None
    assert sampled_alike("sex", {"2024": {"Female": 30}, "2025": {"Male": 4}}) is None


def test_a_centimetre_board_differs_from_a_millimetre_board_by_its_fish_alone():
    """Seeded simulation of pairs of 400 and 400 fish that are alike: taken as they stand, most differ "beyond chance"; on one grid no more
    than 5 in 100, within what 80 tries can tell (3 SE = 7 %)."""
    rng = np.random.default_rng(12)
    alarms, as_they_stand = 0, 0
    for _ in range(80):
        fine, coarse = rng.normal(300, 40, 400).round(), (rng.normal(300, 40, 400) / 10).round() * 10
        grid = on_one_grid({"a": fine, "b": coarse})
        alarms += compare_lengths(grid.lengths["a"], grid.lengths["b"]).p < 0.05
        as_they_stand += compare_lengths(fine, coarse).p < 0.05
    assert grid.step_mm == 10 and grid.assumption.verdict == "doubtful" and "b to 10 mm" in grid.assumption.detail
    assert alarms <= 80 * 0.12 and as_they_stand > 80 * 0.3


def test_groups_of_one_board_stay_as_they_are_and_boards_that_do_not_nest_are_refused():
    rng = np.random.default_rng(1)
    millimetres = rng.normal(300, 40, 100).round()
    same = on_one_grid({"a": millimetres, "b": millimetres + 7})
    assert same.step_mm == 0 and same.lengths["a"] is not None and np.array_equal(same.lengths["a"], millimetres)
    inches, centimetres = (rng.normal(12, 2, 100)).round() * 25.4, (rng.normal(30, 4, 100)).round() * 10
    assert on_one_grid({"a": millimetres, "b": inches}).step_mm == 25.4
    with pytest.raises(CoreError) as refused:
        on_one_grid({"a": centimetres, "b": inches})
    assert refused.value.code == "steps_do_not_nest" and "25.4 mm" in refused.value.message
    assert on_one_grid({}).step_mm == 0
