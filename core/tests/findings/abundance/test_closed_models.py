"""Closed models of several catches, held to published figures, to the likelihood asked outright, and to simulated catches."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy import optimize, special

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance.closed_models import ClosedCatches, at_least, closed_catches, closed_models

#: 135 cottontails in a pen, 18 catches (Edwards and Eberhardt 1967, from memory): caught once 43, twice 16, ...
COTTONTAILS = np.array([43, 16, 8, 6, 0, 2, 1, *[0] * 11], dtype=float)


def cottontails(first: np.ndarray) -> ClosedCatches:
    return ClosedCatches(np.full(18, 142 / 18).round() + np.array([-2, *[0] * 17]), first, COTTONTAILS)


def spread(first: int, catches: int) -> np.ndarray:
    return np.bincount(np.arange(first) % catches, minlength=catches).astype(float)


def test_cottontails_as_published() -> None:
    """M0 96.3; Chao 133.8 (SE 24.0; 102 to 202): handbook figures after Edwards and Eberhardt (1967) and Chao (1987), from memory."""
    found = cottontails(spread(76, 18))
    assert found.caught.sum() == 142
    alike = next(each for each in closed_models(found) if each.name == "M0")
    assert alike.n.value == pytest.approx(96.3, abs=0.06)
    bound = at_least(found)
    assert (bound.value, bound.se) == (pytest.approx(133.8, abs=0.05), pytest.approx(24.0, abs=0.05))
    assert (bound.lower, bound.upper) == (pytest.approx(102, abs=0.5), pytest.approx(202, abs=0.5))
    # at least: the truth, 135, is beyond what alike fish say, and inside the bound's interval
    assert alike.n.upper < 135 < bound.upper


def test_catches_that_differ_as_darroch_has_them() -> None:
    """n 30, 40, 35, S 75: Darroch's (1958) equation, 1 - S/N = prod(1 - n/N), has 108.80. It is a limit for large N: the likelihood itself,
    asked for every N, is highest at 107, and ours is that."""
    caught = np.array([30.0, 40, 35])
    root = optimize.brentq(lambda n: 1 - 75 / n - np.prod(1 - caught / n), 80, 400)
    assert root == pytest.approx(108.80, abs=0.005)
    found = closed_models(ClosedCatches(caught, np.array([30.0, 28, 17]), np.array([50.0, 20, 5])))
    told = next(each for each in found if each.name == "Mt").n
    n = np.arange(76, 400)
    p = caught[:, None] / n
    ln = (
        special.gammaln(n + 1)
        - special.gammaln(n - 75 + 1)
        + (caught[:, None] * np.log(p) + (n - caught[:, None]) * np.log1p(-p)).sum(axis=0)
    )
    assert abs(told.value - n[np.argmax(ln)]) < 1
    assert told.lower < root < told.upper
    # the ends are where twice the fall is the chi-square of 0.95
    inside = n[2 * (ln.max() - ln) <= 3.8415]
    assert (told.lower, told.upper) == (pytest.approx(inside[0], abs=1), pytest.approx(inside[-1], abs=1))


def drawn(rng: np.random.Generator, chances: np.ndarray) -> np.ndarray:
    x = (rng.random(chances.shape) < chances).astype(int)
    return x[x.any(axis=1)]


@pytest.mark.parametrize("model", ["M0", "Mt", "Mb"])
def test_intervals_hold_where_the_model_is_true(model: str) -> None:
    """200 seeded surveys of 150 fish, 6 catches."""
    rng = np.random.default_rng(17)
    held = told = 0
    for _ in range(200):
        if model == "Mb":
            first = np.zeros((150, 6), dtype=bool)
            x = np.zeros((150, 6), dtype=int)
            met = np.zeros(150, dtype=bool)
            for t in range(6):
                now = rng.random(150) < np.where(met, 0.1, 0.35)
                x[:, t], first[:, t] = now, now & ~met
                met |= now
            x = x[x.any(axis=1)]
        else:
            by_catch = np.full(6, 0.25) if model == "M0" else np.array([0.1, 0.2, 0.35, 0.3, 0.15, 0.3])
            x = drawn(rng, np.broadcast_to(by_catch, (150, 6)))
        each = next((one for one in closed_models(closed_catches(x)) if one.name == model), None)
        if each is None:
            continue  # first captures did not fall: refused, as it should be
        told += 1
        held += each.n.lower <= 150 <= each.n.upper
    assert told >= 190
    assert 0.91 <= held / told <= 0.99


def test_fish_that_differ_hide_from_alike_models_and_the_bound_says_at_least() -> None:
    """100 seeded surveys: chances of capture by fish are beta (0.6, 2.4)."""
    rng = np.random.default_rng(4)
    below, above = 0, 0
    for _ in range(100):
        x = drawn(rng, np.broadcast_to(rng.beta(0.6, 2.4, 200)[:, None], (200, 6)))
        counts = closed_catches(x)
        below += next(each for each in closed_models(counts) if each.name == "M0").n.upper < 200
        above += at_least(counts).lower > 200
    assert below > 90
    assert above == 0


def test_weights_of_models_sum_to_one_and_mb_is_not_told_without_a_fall() -> None:
    falls = closed_models(closed_catches(drawn(np.random.default_rng(1), np.full((80, 5), 0.3))))
    assert sum(each.weight for each in falls) == pytest.approx(1)
    assert falls[0].weight == max(each.weight for each in falls)
    rises = ClosedCatches(np.array([5.0, 20, 40]), np.array([5.0, 18, 30]), np.array([43.0, 8, 2]))
    assert {each.name for each in closed_models(rises)} == {"M0", "Mt"}


def test_of_one_fish_models_are_not_weighed() -> None:
    told = closed_models(closed_catches(np.array([[1, 1]])))
    assert all(math.isnan(each.weight) and each.n.lower >= 1 for each in told)


def test_what_says_nothing_is_refused() -> None:
    once = closed_catches(np.eye(4, dtype=int))
    for ask in (closed_models, at_least):
        with pytest.raises(CoreError, match="No fish was caught twice"):
            ask(once)
    for wrong in (np.ones((3, 1)), np.array([[1, 2], [0, 1]]), np.array([[0, 0], [1, 1]])):
        with pytest.raises(CoreError):
            closed_catches(wrong)
    assert math.isfinite(at_least(ClosedCatches(np.array([3.0, 3]), np.array([3.0, 0]), np.array([0.0, 3]))).value)
