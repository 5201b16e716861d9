"""How many fish in a closed water, from histories of marked fish over several catches.

Models M0, Mt and Mb: Otis, Burnham, White and Anderson (1978), Wildl. Monogr. 62; Mt: Darroch (1958), Biometrika 45, 343-359; the lower bound:
Chao (1987), Biometrics 43, 783-791. From memory of these sources. What differs between fish cannot be told apart from how many there are (Link
2003, Biometrics 59, 1123-1130), so no model of it is chosen by its fit: Chao's bound is told beside the others, as "at least".
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.fitting.comparison import aicc, weights
from nailwright_core.fitting.profile import ends_of_one

#: How chances of capture are taken to be.
MODELS = {
    "M0": "every catch and every fish alike",
    "Mt": "catches differ, fish are alike",
    "Mb": "a fish once caught is caught more or less easily than before",
}


@dataclass(frozen=True)
class ClosedModel:
    """One model: fish, chances of capture behind them, log likelihood (without the constant), AICc and its weight among the models."""

    name: str
    n: Estimate
    log_likelihood: float
    parameters: int
    aicc: float
    weight: float


@dataclass(frozen=True)
class ClosedCatches:
    """What catches of one closed population come down to.

    Attributes:
        caught: different fish in each catch, shape (t,). first: of them those never caught before, shape (t,).
        times: fish caught once, twice, ... t times, shape (t,).
    """

    caught: Floats
    first: Floats
    times: Floats

    @property
    def different(self) -> int:
        """Fish caught at all."""
        return int(self.first.sum())


def closed_catches(histories: ArrayLike) -> ClosedCatches:
    """Counts of histories.

    Args:
        histories: 0 and 1, shape (fish, catches), each fish with at least one 1.

    Raises:
        CoreError: ``occasions_too_few`` with fewer than two catches, ``history_unreadable``.
    """
    x = np.asarray(histories)
    if x.ndim != 2 or x.shape[1] < 2:
        raise CoreError("occasions_too_few", "Expected histories over two catches or more.", "histories")
    if not np.isin(x, (0, 1)).all() or not x.any(axis=1).all():
        raise CoreError(
            "history_unreadable", "Expected 0 or 1 at every catch, and of each fish at least one 1.", "histories"
        )
    t = x.shape[1]
    return ClosedCatches(
        x.sum(axis=0).astype(float),
        np.bincount(x.argmax(axis=1), minlength=t).astype(float),
        np.bincount(x.sum(axis=1), minlength=t + 1)[1:].astype(float),
    )


def closed_models(found: ClosedCatches, level: float = 0.95) -> tuple[ClosedModel, ...]:
    """M0, Mt, and Mb where catches of fish never caught before fall; the likeliest by AICc first.

    Intervals by profile likelihood, without an upper end where the data set none.

    Raises:
        CoreError: ``no_recaptures`` where no fish was caught twice, ``count_out_of_range``, ``level_out_of_range``.
    """
    check_level(level)
    for name in ("caught", "first", "times"):
        whole_counts(getattr(found, name), name)
    t, s = found.caught.size, found.different
    _met_twice(found)
    told = [_fit("M0", _m0(found), 2, s, t, level), _fit("Mt", _mt(found), t + 1, s, t, level)]
    if _falls(found.first):
        told.append(_fit("Mb", _mb(found), 3, s, t, level))
    weighed = [
        replace(each, weight=float(weight))
        for each, weight in zip(told, weights([each.aicc for each in told]), strict=True)
    ]
    return tuple(sorted(weighed, key=lambda each: each.aicc))


def at_least(found: ClosedCatches, level: float = 0.95) -> Estimate:
    """Chao's lower bound, which holds whatever fish differ in; bias-corrected where fewer than ten were caught twice.

    Raises:
        CoreError: ``no_recaptures``, ``level_out_of_range``.

    Source: Chao (1987): S + f1^2 / (2 f2), variance f2 (a^4 / 4 + a^3 + a^2 / 2) with a = f1 / f2, interval S + T / C to S + T C.
    """
    check_level(level)
    t, s = found.caught.size, found.different
    f1, f2 = float(found.times[0]), float(found.times[1])
    _met_twice(found)
    if f2 >= 10:
        unseen, a = f1 * f1 / (2 * f2), f1 / f2
        variance = f2 * (a**4 / 4 + a**3 + a * a / 2)
        how = "log-normal of those never caught, Chao"
    else:
        share = (t - 1) / t
        unseen = share * f1 * (f1 - 1) / (2 * (f2 + 1))
        variance = unseen + share**2 * (
            f1 * (2 * f1 - 1) ** 2 / (4 * (f2 + 1) ** 2) + f1 * f1 * f2 * (f1 - 1) ** 2 / (4 * (f2 + 1) ** 4)
        )
        how = "log-normal of those never caught, Chao, corrected for few"
    if unseen <= 0:
        return Estimate(float(s), 0.0, float(s), float(s), level, how, s)
    z = float(special.ndtri(0.5 + level / 2))
    factor = math.exp(z * math.sqrt(math.log1p(variance / unseen**2)))
    return Estimate(s + unseen, math.sqrt(variance), s + unseen / factor, s + unseen * factor, level, how, s)


def _met_twice(found: ClosedCatches) -> None:
    if found.times[1:].sum() == 0:
        raise CoreError(
            "no_recaptures",
            "No fish was caught twice, so nothing says how many there are beyond those caught.",
            "histories",
        )


def _m0(found: ClosedCatches) -> Callable[[float], float]:
    t, s, n = found.caught.size, found.different, float(found.caught.sum())

    def log_likelihood(fish: float) -> float:
        p = n / (t * fish)
        return _unseen(fish, s) + n * math.log(p) + float(special.xlog1py(t * fish - n, -p))

    return log_likelihood


def _mt(found: ClosedCatches) -> Callable[[float], float]:
    caught, s = found.caught, found.different

    def log_likelihood(fish: float) -> float:
        p = caught / fish
        return _unseen(fish, s) + float((special.xlogy(caught, p) + special.xlog1py(fish - caught, -p)).sum())

    return log_likelihood


def _mb(found: ClosedCatches) -> Callable[[float], float]:
    """First captures are a removal; later ones have a chance of their own, whose likelihood does not depend on N."""
    first, s = found.first, found.different
    before = np.concatenate([[0.0], np.cumsum(first)[:-1]])
    again = float(found.caught.sum() - s)
    chances = float(before.sum())
    r = again / chances if chances else 0.0
    later = float(special.xlogy(again, r) + special.xlog1py(chances - again, -r)) if 0 < r < 1 else 0.0

    def log_likelihood(fish: float) -> float:
        tries = float((fish - before).sum())
        p = s / tries
        return _unseen(fish, s) + s * math.log(p) + float(special.xlog1py(tries - s, -p)) + later

    return log_likelihood


def _unseen(fish: float, s: int) -> float:
    return float(special.gammaln(fish + 1) - special.gammaln(fish - s + 1))


def _falls(first: Floats) -> bool:
    """Whether a removal of first captures has an end: the sum of (t + 1 - 2 j) u_j is above 0 (Seber and Whale 1970)."""
    t = first.size
    return bool((first * (t + 1 - 2 * np.arange(1, t + 1))).sum() > 0)


def _fit(
    name: str, log_likelihood: Callable[[float], float], parameters: int, s: int, t: int, level: float
) -> ClosedModel:
    # up to a thousand million: beyond it an interval has no end
    best, low, high = ends_of_one(
        lambda ln: log_likelihood(math.exp(ln)), math.log(s * (1 + 1e-9) + 1e-6), math.log(s * 1e6), level,
        search_to=math.log(s) + 9, xatol=1e-8,
    )  # fmt: skip
    top = log_likelihood(math.exp(best))
    fish = math.exp(best)
    n = Estimate(
        fish, math.nan, float(s) if low is None else math.exp(low), math.inf if high is None else math.exp(high), level,
        f"profile likelihood, {name}", s,
    )  # fmt: skip
    return ClosedModel(name, n, top, parameters, aicc(top, parameters, s * t), math.nan)
