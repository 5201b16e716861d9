"""How many tags stay in their fish, and how many that are met are reported.

Symbols as in the literature: x the share of fish seen with both tags among those seen with any, r retention of one tag, lambda the
reporting rate, u the exploitation.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike
from scipy import optimize, special, stats

from nailwright_core.common.checks import check_level, numbers, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.intervals import exact_binomial


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
    lower, upper = exact_binomial(kept, n, level)
    share = kept / n
    return Estimate(share, math.sqrt(share * (1 - share) / n), lower, upper, level, "exact binomial of fish", n)


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


def retention_curve(days: ArrayLike, shed: ArrayLike, level: float = 0.95) -> tuple[Estimate, Estimate]:
    """Loss of a tag over time of fish that another, lasting mark tells: r(t) = rho exp(-L t), each fish seen once at its time.

    Args:
        days: of each fish from tagging to the first sighting that tells, shape (n,), above 0. shed: whether the tag was gone then.

    Returns:
        rho, kept beyond the first days, and L, loss a year; intervals by profile likelihood.

    Raises:
        CoreError: ``too_few_fish`` below ten, ``days_out_of_range``, ``lengths_differ``, and as ``numbers``.

    Source: Barrowman and Myers (1996), type I and II loss.
    """
    check_level(level)
    t = numbers(days, "days")
    gone = np.asarray(shed, dtype=bool)
    if t.shape != gone.shape or t.ndim != 1:
        raise CoreError("lengths_differ", "Expected for each fish its days and whether the tag was shed.", "shed")
    if (t <= 0).any():
        raise CoreError("days_out_of_range", "Expected days above 0 from tagging to the sighting.", "days")
    if t.size < 10:
        raise CoreError("too_few_fish", f"Expected ten fish or more that were met again; got {t.size}.", "days")
    years = t / 365.25

    def fit(rho: float | None = None, loss: float | None = None) -> tuple[float, float, float]:
        def negative(free: np.ndarray) -> float:
            place = iter(free)
            r0 = rho if rho is not None else float(next(place))
            rate = loss if loss is not None else float(next(place))
            kept = np.clip(r0 * np.exp(-rate * years), 1e-12, 1 - 1e-12)
            return -float(np.sum(np.where(gone, np.log1p(-kept), np.log(kept))))

        bounds = [(1e-6, 1 - 1e-9)] * (rho is None) + [(0.0, 50.0)] * (loss is None)
        starts = [[0.95] * (rho is None) + [start] * (loss is None) for start in (0.02, 0.3, 1.5)]
        if not bounds:
            return rho or 0.0, loss or 0.0, -negative(np.array([]))
        best = min(
            (optimize.minimize(negative, s, bounds=bounds, method="L-BFGS-B") for s in starts), key=lambda f: f.fun
        )
        free = iter(best.x)
        found_rho = rho if rho is not None else float(next(free))
        found_loss = loss if loss is not None else float(next(free))
        return found_rho, found_loss, -float(best.fun)

    rho, rate, top = fit()
    drop = stats.chi2.ppf(level, 1) / 2

    def end(name: str, value: float, limit: float) -> float:
        def beyond(at: float) -> float:
            return float(top - drop - fit(**{name: at})[2])

        return (
            limit
            if abs(limit - value) < 1e-9 or beyond(limit) <= 0
            else float(optimize.brentq(beyond, value, limit, xtol=1e-6))
        )

    how = "profile likelihood"
    n = int(t.size)
    kept = Estimate(rho, float("nan"), end("rho", rho, 1e-6), end("rho", rho, 1 - 1e-9), level, how, n)
    lost = Estimate(rate, float("nan"), end("loss", rate, 0.0), end("loss", rate, 50.0), level, how, n)
    return kept, lost
