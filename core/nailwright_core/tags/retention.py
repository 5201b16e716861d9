"""How many tags stay in their fish, and how many that are met are reported.

Symbols as in the literature: x the share of fish seen with both tags among those seen with any, r retention of one tag, lambda the
reporting rate, u the exploitation.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import optimize, special, stats

from nailwright_core.common.checks import check_level, numbers, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.intervals import exact_binomial, exact_share

#: Fewer fish say nothing of a curve.
FEWEST_FISH = 10
DAYS_PER_YEAR = 365.25
#: A loss above this a year is the end of the tag within weeks.
MOST_LOSS = 50.0
#: Of rho and L.
_BOUNDS = ((1e-6, 1 - 1e-9), (0.0, MOST_LOSS))


def double_tag_retention(both: int, one: int, level: float = 0.95) -> Estimate:
    """Retention of one tag, from fish that were given two alike and are met with both or with one; those that lost both are not seen.

    r = 2 x / (1 + x) with x = both / (both + one); its interval is the exact binomial of x (of fish, not of tags) carried over.

    Args:
        both, one: fish met with both tags, with one of them.

    Returns:
        Retention, 0 to 1; SE = 2 sqrt(x (1 - x) / n) / (1 + x)^2.

    Raises:
        CoreError: ``no_fish``, ``counts_unreadable`` and the like as ``whole_counts``, ``level_out_of_range``.

    Source: Seber (1982), double tagging with equal, independent loss. Tags of one fish are not quite independent: loss is then
    underestimated.
    """
    check_level(level)
    with_both, with_one = (int(each) for each in whole_counts([both, one], "both"))
    n = with_both + with_one
    if n == 0:
        raise CoreError("no_fish", "Expected fish that were met with one or both of their tags; got none.", "both")
    x = with_both / n
    lower, upper = exact_binomial(with_both, n, level)
    se = 2 / (1 + x) ** 2 * math.sqrt(x * (1 - x) / n)
    return Estimate(_of_one(x), se, _of_one(lower), _of_one(upper), level, "exact binomial of fish, carried over", n)


def _of_one(x: float) -> float:
    return 2 * x / (1 + x)


def unlike_tag_retention(both: int, only_a: int, only_b: int, level: float = 0.95) -> tuple[Estimate, Estimate]:
    """Retention of two unlike tags A and B of one fish: of those that still have B, the share that has A, and the reverse.

    A PIT that never leaves its fish as B makes of this the plain share of fish that kept the visible tag.

    Args:
        both, only_a, only_b: fish met with both, with A alone, with B alone.

    Raises:
        CoreError: ``no_fish`` where no fish was met with the other tag, and as ``whole_counts``.

    Source: Seber (1982); independent loss.
    """
    check_level(level)
    m_ab, m_a, m_b = (int(each) for each in whole_counts([both, only_a, only_b], "both"))
    return _share(m_ab, m_ab + m_b, "only_b", level), _share(m_ab, m_ab + m_a, "only_a", level)


def _share(kept: int, n: int, field: str, level: float) -> Estimate:
    if n == 0:
        raise CoreError("no_fish", "Expected fish that were met with the other tag; got none.", field)
    return exact_share(kept, n, "fish", level)


def reporting_rate(
    returned: int, released: int, returned_high: int, released_high: int, level: float = 0.95
) -> Estimate:
    """Share of met tags that are reported, from tags with a high reward, all of which are taken to be: lambda = (R/N) / (R_h/N_h).

    The interval is by profile likelihood of two binomials, R ~ Bin(N, lambda u) and R_h ~ Bin(N_h, u), lambda at most 1.

    Args:
        returned, released: ordinary tags. returned_high, released_high: those with the high reward.

    Raises:
        CoreError: ``more_returned_than_released``, ``no_high_returns`` where lambda cannot be told, and as ``whole_counts``.

    Source: Henny and Burnham (1976); Pollock et al. (2001). That every high reward is reported is assumed.
    """
    check_level(level)
    r, n, rh, nh = (int(each) for each in whole_counts([returned, released, returned_high, released_high], "returned"))
    for some, all_, field in ((r, n, "returned"), (rh, nh, "returned_high")):
        if some > all_ or all_ == 0:
            raise CoreError(
                "more_returned_than_released",
                f"Expected at most as many returned as released; got {some} of {all_}.",
                field,
            )
    if rh == 0:
        raise CoreError(
            "no_high_returns",
            "None of the tags with a high reward came back: how many are reported cannot be told.",
            "returned_high",
        )
    value = min(1.0, (r / n) / (rh / nh))
    best = _profile(value, r, n, rh, nh)
    drop = stats.chi2.ppf(level, 1) / 2

    def beyond(rate: float) -> float:
        return float(best - drop - _profile(rate, r, n, rh, nh))

    tiny = 1e-9
    lower = tiny if value <= tiny or beyond(tiny) <= 0 else optimize.brentq(beyond, tiny, value)
    upper = 1.0 if value >= 1 or beyond(1.0) <= 0 else optimize.brentq(beyond, max(value, tiny), 1.0)
    lower = 0.0 if lower <= tiny else float(lower)
    se = value * math.sqrt(max(0.0, (1 - r / n) / max(r, 1) + (1 - rh / nh) / rh))
    return Estimate(value, se, lower, float(upper), level, "profile likelihood of two binomials", n + nh)


def _profile(rate: float, r: int, n: int, rh: int, nh: int) -> float:
    """Log-likelihood of a reporting rate at the exploitation that suits it best."""

    def loss(u: float) -> float:
        return -float(
            special.xlogy(r, rate * u)
            + special.xlog1py(n - r, -rate * u)
            + special.xlogy(rh, u)
            + special.xlog1py(nh - rh, -u)
        )

    found = optimize.minimize_scalar(loss, bounds=(1e-12, 1 - 1e-12), method="bounded", options={"xatol": 1e-12})
    return -float(found.fun)


@dataclass(frozen=True)
class RetentionCurve:
    """r(t) = rho exp(-L t), with the fish behind it.

    Attributes:
        rho: kept beyond the first days. loss: L, a year. n: fish. gone: of these, without the tag at last.
    """

    rho: Estimate
    loss: Estimate
    n: int
    gone: int
    _seen: _Seen
    _top: float
    _level: float

    @property
    def lost_a_year(self) -> Estimate:
        """The share of tags, kept beyond the first days, that is lost within a year: 1 - exp(-L)."""
        value, lower, upper = (-math.expm1(-each) for each in (self.loss.value, self.loss.lower, self.loss.upper))
        return Estimate(value, float("nan"), lower, upper, self._level, self.loss.interval, self.n)

    def kept_at(self, days: float) -> Estimate:
        """The share that is kept after so many days, with its profile interval."""
        years = _positive(days) / DAYS_PER_YEAR
        value = self.rho.value * math.exp(-self.loss.value * years)

        def best(share: float) -> float:
            most = -math.log(share) / years
            return _highest(lambda rate: self._seen.log_likelihood(share * math.exp(rate * years), rate), (0.0, most))

        lower, upper = _profile_ends(best, value, self._top, self._level, *_BOUNDS[0])
        return Estimate(value, float("nan"), lower, upper, self._level, "profile likelihood", self.n)


@dataclass(frozen=True)
class _Seen:
    """Fish with years of the last sighting with the tag (0: that of tagging) and, where it was gone, of the first without it."""

    with_years: NDArray[np.float64]
    without_years: NDArray[np.float64]
    gone: NDArray[np.bool_]

    def log_likelihood(self, rho: float, rate: float) -> float:
        def kept(years: NDArray[np.float64]) -> NDArray[np.float64]:
            return np.asarray(np.where(years > 0, rho * np.exp(-rate * years), 1.0))

        chance = np.where(self.gone, kept(self.with_years) - kept(self.without_years), kept(self.with_years))
        return float(np.log(np.clip(chance, 1e-12, 1.0)).sum())


def retention_curve(
    days: ArrayLike, shed: ArrayLike, seen_with: ArrayLike | None = None, level: float = 0.95
) -> RetentionCurve:
    """Loss of a tag over time of fish that another, lasting mark tells: r(t) = rho exp(-L t).

    Args:
        days: of each fish from tagging, shape (n,), above 0: to the last sighting with the tag, or where it was shed to the first without it.
        shed: whether the tag was gone then. seen_with: of fish that shed it, days to the last sighting with it; 0, or None for all: that of tagging.

    Raises:
        CoreError: ``too_few_fish`` below ten, ``days_out_of_range``, ``lengths_differ``, and as ``numbers``.

    Source: Barrowman and Myers (1996), type I and II loss; loss lies between two sightings, it is interval-censored.
    Coverage: core/tests/tags/test_retention_curve.py.
    """
    check_level(level)
    t = numbers(days, "days")
    gone = np.asarray(shed, dtype=bool)
    before = numbers(np.zeros(t.shape) if seen_with is None else seen_with, "seen_with")
    if t.shape != gone.shape or t.shape != before.shape or t.ndim != 1:
        raise CoreError("lengths_differ", "Expected for each fish its days and whether the tag was shed.", "shed")
    if (t <= 0).any() or (before < 0).any() or (before[gone] >= t[gone]).any():
        raise CoreError(
            "days_out_of_range", "Expected days above 0 from tagging to the sighting, those with the tag before those without.", "days"
        )  # fmt: skip
    if t.size < FEWEST_FISH:
        raise CoreError("too_few_fish", f"Expected ten fish or more that were met again; got {t.size}.", "days")
    seen = _Seen(np.where(gone, before, t) / DAYS_PER_YEAR, np.where(gone, t, 0) / DAYS_PER_YEAR, gone)

    rho, rate = min(
        (
            optimize.minimize(lambda free: -seen.log_likelihood(*free), start, bounds=_BOUNDS, method="L-BFGS-B")
            for start in ((0.95, 0.02), (0.95, 0.3), (0.9, 1.5))
        ),
        key=lambda fit: float(fit.fun),
    ).x
    top = seen.log_likelihood(rho, rate)

    def at_rho(fixed: float) -> float:
        return _highest(lambda free: seen.log_likelihood(fixed, free), _BOUNDS[1])

    def at_loss(fixed: float) -> float:
        return _highest(lambda free: seen.log_likelihood(free, fixed), _BOUNDS[0])

    n, how = int(t.size), "profile likelihood"
    of_rho = _profile_ends(at_rho, float(rho), top, level, *_BOUNDS[0])
    of_loss = _profile_ends(at_loss, float(rate), top, level, *_BOUNDS[1])
    return RetentionCurve(
        Estimate(float(rho), float("nan"), *of_rho, level, how, n),
        Estimate(float(rate), float("nan"), *of_loss, level, how, n),
        n,
        int(gone.sum()),
        seen,
        top,
        level,
    )


def _highest(of: Callable[[float], float], bounds: tuple[float, float]) -> float:
    """The highest value between two bounds, at the bounds too. Where it lies on a scale of roots, since a loss is most often small."""
    low, high = (math.sqrt(each) for each in bounds)
    found = optimize.minimize_scalar(
        lambda root: -of(root * root), bounds=(low, high), method="bounded", options={"xatol": 1e-6}
    )
    return max(-float(found.fun), of(bounds[0]), of(bounds[1]))


def _profile_ends(
    best: Callable[[float], float], value: float, top: float, level: float, least: float, most: float
) -> tuple[float, float]:
    """Where the profile falls by half the chi-square; the bounds themselves where it does not."""
    drop = float(stats.chi2.ppf(level, 1)) / 2

    def end(limit: float) -> float:
        def beyond(at: float) -> float:
            return top - drop - best(at)

        if abs(limit - value) < 1e-9 or beyond(limit) <= 0:
            return limit
        return float(optimize.brentq(beyond, value, limit, xtol=1e-6))

    return end(least), end(most)


def _positive(days: float) -> float:
    if not (isinstance(days, int | float) and math.isfinite(days) and days > 0):
        raise CoreError("days_out_of_range", f"Expected days above 0; got {days!r}.", "days")
    return float(days)
