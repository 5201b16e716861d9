"""How many fish, from catch and effort.

Leslie and Davis (1939), J. Anim. Ecol. 8, 94-113, with Ricker's (1975) midpoint; DeLury (1947), Biometrics 3, 145-167. From
memory of these sources.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate

#: A rise as rare as this by chance is one (ours, no source): schools make catches vary more than a Poisson count does.
RISES_P = 1e-3


@dataclass(frozen=True)
class DepletionEstimate:
    """Fish before the first catch; ``q`` is the catchability, share caught by one unit of effort."""

    n: Estimate
    q: Estimate
    assumptions: tuple[Assumption, ...]


def leslie(catches: ArrayLike, efforts: ArrayLike, ricker: bool = True, level: float = 0.95) -> DepletionEstimate:
    """Fish before the first catch, from the fall of catch per effort with the fish taken out.

    Args:
        catches, efforts: shape (s,), of each occasion; effort in any one unit.
        ricker: count half of an occasion's own catch among those taken before it.

    Raises:
        CoreError: ``occasions_too_few``, ``count_out_of_range``, ``no_solution`` also where the catch rises again.
    """
    c, f = _given(catches, efforts, level)
    rate = c / f
    before = np.cumsum(c) - c + (c / 2 if ricker else 0)
    mean_k, mean_rate = float(before.mean()), float(rate.mean())
    ss = float(((before - mean_k) ** 2).sum())
    slope = float(((before - mean_k) * (rate - mean_rate)).sum()) / ss if ss else 0.0
    if slope >= 0:
        raise _no_fall()
    q = -slope
    value = (mean_rate - slope * mean_k) / q
    _no_rise(c, f * (mean_rate + slope * (before - mean_k)), rate)
    residual = rate - (mean_rate + slope * (before - mean_k))
    spread = float((residual**2).sum()) / (c.size - 2)
    se_q = math.sqrt(spread / ss)
    se = math.sqrt(spread / q**2 * (1 / c.size + (value - mean_k) ** 2 / ss))
    t = float(scipy.stats.t.ppf(0.5 + level / 2, c.size - 2))
    name = "t, leslie with ricker's midpoint" if ricker else "t, leslie"
    return DepletionEstimate(
        Estimate(value, se, max(value - t * se, float(c.sum())), value + t * se, level, name, int(c.size)),
        Estimate(q, se_q, q - t * se_q, q + t * se_q, level, name, int(c.size)),
        _assumptions(before, residual),
    )


def delury(catches: ArrayLike, efforts: ArrayLike, level: float = 0.95) -> DepletionEstimate:
    """Fish before the first catch, from the fall of the logarithm of catch per effort with the effort spent.

    For chances of capture that are not small: the share left falls as exp(-q effort). Effort before an occasion counts half of
    its own. N is told on the log scale, by t.

    Args:
        catches, efforts: shape (s,), of each occasion; every catch above 0.

    Raises:
        CoreError: ``occasions_too_few``, ``count_out_of_range``, ``no_solution`` also where the catch rises again.
    """
    c, f = _given(catches, efforts, level)
    if (c == 0).any():
        raise CoreError("count_out_of_range", "The logarithm needs a catch on every occasion; use leslie.", "catches")
    spent = np.cumsum(f) - f / 2
    y = np.log(c / f)
    mean = float(spent.mean())
    ss = float(((spent - mean) ** 2).sum())
    slope = float(((spent - mean) * y).sum()) / ss
    if slope >= 0:
        raise _no_fall()
    q, height = -slope, float(y.mean())
    value = math.exp(height + q * mean) / q
    _no_rise(c, f * np.exp(height + slope * (spent - mean)), c / f)
    residual = y - height - slope * (spent - mean)
    spread = float((residual**2).sum()) / (c.size - 2)
    # log N = height - slope mean - log(-slope)
    se_log = math.sqrt(spread * (1 / c.size + (1 / q - mean) ** 2 / ss))
    se_q = math.sqrt(spread / ss)
    t = float(scipy.stats.t.ppf(0.5 + level / 2, c.size - 2))
    name, n = "t on the log scale, delury", int(c.size)
    low, high = value * math.exp(-t * se_log), value * math.exp(min(t * se_log, 700))
    return DepletionEstimate(
        Estimate(value, value * se_log, max(low, float(c.sum())), max(high, float(c.sum())), level, name, n),
        Estimate(q, se_q, q - t * se_q, q + t * se_q, level, name, n),
        _assumptions(spent, residual),
    )


def _given(catches: ArrayLike, efforts: ArrayLike, level: float) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    check_level(level)
    c, f = numbers(catches, "catches"), numbers(efforts, "efforts")
    if c.shape != f.shape or c.size < 3:
        raise CoreError(
            "occasions_too_few",
            f"Expected at least 3 catches, each with its effort; got {c.size} and {f.size}.",
            "catches",
        )
    if (c < 0).any() or (f <= 0).any():
        raise CoreError("count_out_of_range", "Expected catches of 0 or more and efforts above 0.", "catches")
    return c, f


def _no_rise(caught: NDArray[np.float64], expected: NDArray[np.float64], rate: NDArray[np.float64]) -> None:
    """Refuse a rate that has risen again beyond chance: fish moved in, or are caught more easily than before.

    A catch that rises above the one before it and above what the line has for it, by more than a count's own chance allows (Poisson, all
    occasions together; ours, no source).
    """
    rose = np.concatenate([[False], rate[1:] > rate[:-1]])
    chance = scipy.stats.poisson.sf(caught - 1, np.maximum(expected, 0.5))
    rarest = int(np.argmin(np.where(rose, chance, 1.0)))
    if rose[rarest] and chance[rarest] * caught.size < RISES_P:
        raise CoreError(
            "no_solution",
            f"The catch rises again on occasion {rarest + 1} ({caught[rarest]:g} where the fall so far has {max(expected[rarest], 0):.0f}): fish moved "
            "in or grew easier to catch, so the fall does not say how many there were. Take the occasions before it alone.",
            "catches",
        )


def _no_fall() -> CoreError:
    return CoreError(
        "no_solution",
        "Catch per effort does not fall as fish are taken out, so nothing says how many were left.",
        "catches",
    )


def _assumptions(along: NDArray[np.float64], residual: NDArray[np.float64]) -> tuple[Assumption, ...]:
    bent = abs(float(scipy.stats.spearmanr(along, np.abs(residual))[0])) > 0.6
    return (
        Assumption(
            "Nothing but the catch changes the number of fish", "not checked", "No births, deaths or moves meanwhile."
        ),
        Assumption(
            "Catchability stays the same",
            "doubtful" if bent else "not refuted",
            "Told by whether the residuals widen or bend along the line.",
        ),
    )
