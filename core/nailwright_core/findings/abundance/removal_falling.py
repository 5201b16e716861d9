"""How many fish, from removal whose chance of capture falls from pass to pass by nobody knows how much.

Fish that escaped a pass are those that are harder to catch, so the chance of capture usually falls by a tenth to a third from one
pass to the next (Peterson, Thurow and Guzevich 2004, Trans. Am. Fish. Soc. 133, 462-475; Rosenberger and Dunham 2005, N. Am. J.
Fish. Manage. 25, 1395-1410; both from memory). Catches of three passes do not tell by how much: it is averaged over.

With chances p, p (1 - f), p (1 - f)^2 ... and a prior of N as 1/N, N less the catch T is, given p and f, negative binomial with T and
the chance of being caught in any pass; p, uniform, then has the multinomial likelihood of the passes given T. So one integral over p,
and a sum over f, give the whole distribution of N.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special
from scipy.optimize import elementwise

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, finite, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate

#: How likely each fall from pass to pass is thought before any fish is caught (ours, after the two papers; a protocol may say
#: others). 0: the chance stays.
FALLS: Mapping[float, float] = {0.0: 0.2, 0.1: 0.3, 0.2: 0.3, 0.3: 0.2}
#: From so many passes on their fish are averaged over falls; of two, nothing tells N under one fall from N under another.
FEWEST_PASSES = 3
#: Points of the integral over p.
_POINTS = 96
#: An end beyond so many times the catch is told as none.
_ENDLESS = 1e6


@dataclass(frozen=True)
class FallingRemoval:
    """Fish before the first pass, averaged over how the chance of capture may fall.

    Attributes:
        n: the median and the interval that holds 95 of 100 on the average over the prior, not at each fall; None of two passes.
        by_fall: the same under each fall alone.
        next_catch: fish that another pass is expected to catch.
    """

    n: Estimate | None
    by_fall: dict[float, Estimate]
    next_catch: float

    @property
    def reach(self) -> tuple[float, float, float]:
        """The number of fish and its ends: ``n``, and of two passes the middle of all falls with the outermost of their ends."""
        if self.n:
            return self.n.value, self.n.lower, self.n.upper
        each = list(self.by_fall.values())
        values = [one.value for one in each]
        return (min(values) + max(values)) / 2, min(one.lower for one in each), max(one.upper for one in each)


def removal_falling(
    catches: Sequence[int], falls: Mapping[float, float] = FALLS, level: float = 0.95
) -> FallingRemoval:
    """Fish in a closed stretch from catches that were taken out pass by pass, where the chance of capture may fall.

    Args:
        catches: one count a pass, k of them.
        falls: how likely each fall is, by its share (0: none), weights of any sum.

    Raises:
        CoreError: ``passes_too_few``, ``count_out_of_range``, ``level_out_of_range``, ``no_fish``, ``falls_out_of_range``.
    """
    check_level(level)
    counts = whole_counts(catches, "catches")
    if counts.size < 2:
        raise CoreError("passes_too_few", f"Removal needs at least two passes; got {counts.size}.", "catches")
    if not counts.any():
        raise CoreError("no_fish", "No fish were caught in any pass; there is nothing to estimate from.", "catches")
    fall, weight = _prior(falls)
    total = int(counts.sum())
    p, caught, log = _over_p(counts[None], fall, weight)

    def told(which: slice, how: str) -> Estimate:
        found = _quantiles(counts[None], caught[:, which], _likely(log[:, which]), level)
        median, low, high = (float(each[0]) for each in found)
        return Estimate(median, math.nan, low, high, level, how, total)

    by_fall = {float(share): told(slice(at, at + 1), f"a fall of {share:.0%}") for at, share in enumerate(fall)}
    averaged = (
        told(slice(None), "averaged over falls of the chance of capture") if counts.size >= FEWEST_PASSES else None
    )
    # fish that are likely left, by the chance of the pass that comes
    chance = p * ((1 - fall) ** counts.size)[None, :, None]
    return FallingRemoval(averaged, by_fall, float((_likely(log) * total * (1 - caught) / caught * chance).sum()))


def removal_falling_many(
    catches: ArrayLike, falls: Mapping[float, float] = FALLS, level: float = 0.95
) -> tuple[Floats, Floats, Floats]:
    """N and the ends of its interval, as ``FallingRemoval.reach`` has them, for many surveys at once.

    Args:
        catches: shape (surveys, passes).
        falls: as there.

    Returns:
        Value, lower, upper, each of shape (surveys,); nan where nothing was caught.

    Raises:
        CoreError: as there.
    """
    check_level(level)
    counts = whole_counts(catches, "catches", dimensions=2)
    if counts.shape[1] < 2:
        raise CoreError("passes_too_few", f"Removal needs at least two passes; got {counts.shape[1]}.", "catches")
    fall, weight = _prior(falls)
    found = np.full((3, len(counts)), np.nan)
    caught = counts.any(axis=1)
    if caught.any():
        rows, place = np.unique(counts[caught], axis=0, return_inverse=True)
        found[:, caught] = _reaches(rows, fall, weight, level)[:, place.ravel()]
    return found[0], found[1], found[2]


def _prior(falls: Mapping[float, float]) -> tuple[Floats, Floats]:
    """Falls and how likely each is, shapes (falls,), together 1."""
    fall = np.array([finite(each, "falls") for each in falls])
    weight = np.array([finite(each, "falls") for each in falls.values()])
    if not (fall.size and ((fall >= 0) & (fall < 1)).all() and (weight >= 0).all() and weight.sum() > 0):
        raise CoreError(
            "falls_out_of_range",
            "Expected falls from 0 to below 1, each with a weight of 0 or more, not all of them 0.",
            "falls",
        )
    return fall[weight > 0], weight[weight > 0] / weight.sum()


def _over_p(counts: Floats, fall: Floats, weight: Floats) -> tuple[Floats, Floats, Floats]:
    """Points of p with the chance of being caught at all, and how likely each is after the catches (``_likely``).

    Args:
        counts: shape (surveys, passes).

    Returns:
        p, chance of being caught, logarithm of the likelihood; each (surveys, falls, points).
    """
    passes = counts.shape[1]
    shrinks = (1 - fall[:, None]) ** np.arange(passes)  # (falls, passes)
    later = counts.sum(axis=1, keepdims=True) - np.cumsum(counts, axis=1)
    total = counts.sum(axis=1)[:, None, None]

    def log_likelihood(logit: Floats) -> Floats:
        """Of the passes given that a fish was caught; (surveys, falls, points) from the same. p is uniform: its density over the
        logit is in it."""
        p = special.expit(logit)
        each = shrinks[None, :, None, :] * p[..., None]
        stays = np.log1p(-np.minimum(each, 1 - 1e-16))
        caught = -np.expm1(stays.sum(axis=-1))
        passed = (later[:, None, None, :] * stays).sum(axis=-1)
        return np.asarray(
            total * (special.log_expit(logit) - np.log(caught))
            + passed
            + special.log_expit(logit)
            + special.log_expit(-logit)
        )

    coarse = np.linspace(-12.0, 12.0, 97)
    at = np.broadcast_to(coarse, (len(counts), fall.size, coarse.size))
    best = coarse[log_likelihood(at).argmax(axis=-1)][..., None]
    for half in 0.25 * 0.5 ** np.arange(12):  # the top between its neighbours, closer by half each time
        near = best + half * np.array([-1.0, 0.0, 1.0])
        best = np.take_along_axis(near, log_likelihood(near).argmax(axis=-1)[..., None], axis=-1)
    step = 1e-3
    low, middle, high = np.moveaxis(log_likelihood(best + step * np.array([-1.0, 0.0, 1.0])), -1, 0)
    bend = np.maximum(2 * middle - low - high, step**2 / 9)
    width = np.minimum(step / np.sqrt(bend), 3.0)[..., None]
    # close together at the top and ever wider away from it: the far tail, where p is small and N large, is in it
    reach = np.arcsinh(40 / width)
    t = reach * np.linspace(-1, 1, _POINTS)
    logit = best + width * np.sinh(t)
    log = log_likelihood(logit) + np.log(width * np.cosh(t) * reach) + np.log(weight)[None, :, None]
    # what falls alike leave out of the likelihood differs between them: the shrinking itself
    shrunk = (counts[:, None, :] * np.log(shrinks)[None]).sum(axis=-1)
    log += shrunk[..., None]
    p = special.expit(logit)
    caught = -np.expm1(np.log1p(-np.minimum(shrinks[None, :, None, :] * p[..., None], 1 - 1e-16)).sum(axis=-1))
    return p, np.maximum(caught, 1e-300), log


def _likely(log: Floats) -> Floats:
    """Likelihoods of (surveys, falls, points) that are together 1 in each survey."""
    return np.asarray(np.exp(log - special.logsumexp(log, axis=(1, 2), keepdims=True)))


def _reaches(counts: Floats, fall: Floats, weight: Floats, level: float) -> Floats:
    """As ``FallingRemoval.reach``, shape (3, surveys)."""
    _, caught, log = _over_p(counts, fall, weight)
    if counts.shape[1] >= FEWEST_PASSES:
        return np.stack(_quantiles(counts, caught, _likely(log), level))
    each = [slice(at, at + 1) for at in range(fall.size)]
    value, low, high = np.stack([_quantiles(counts, caught[:, at], _likely(log[:, at]), level) for at in each], axis=1)
    return np.stack([(value.min(axis=0) + value.max(axis=0)) / 2, low.min(axis=0), high.max(axis=0)])


def _quantiles(counts: Floats, caught: Floats, likely: Floats, level: float) -> tuple[Floats, Floats, Floats]:
    """Median and ends of N, each (surveys,): the smallest whole number that holds its share, inf beyond ``_ENDLESS`` catches.

    Args:
        counts: shape (surveys, passes).
        caught: as ``_over_p`` has it. likely: of the same shape, together 1 in each survey.
    """
    total = counts.sum(axis=1)
    far = math.log1p(float(total.max()) * _ENDLESS)

    def lacks(reach: Floats, survey: NDArray[np.int64], share: Floats | float) -> Floats:
        """How far the share up to so many fish left (the logarithm of one more) is above the wanted one."""
        caught_in, left = total[survey][:, None, None], np.expm1(reach)[:, None, None]
        held = (likely[survey] * special.betainc(caught_in, left + 1, caught[survey])).sum(axis=(1, 2))
        return np.asarray(held - share)

    each, found = np.arange(len(counts)), []
    for share in (0.5, (1 - level) / 2, (1 + level) / 2):
        left = np.zeros(len(counts))
        endless = lacks(np.full(len(counts), far), each, share) < 0
        open_ = (lacks(left, each, share) < 0) & ~endless
        if open_.any():
            bracket = (np.zeros(int(open_.sum())), np.full(int(open_.sum()), far))
            # to a fish, or a ten-thousandth where they are many
            asked = (each[open_], np.full(int(open_.sum()), share))
            root = elementwise.find_root(lacks, bracket, args=asked, tolerances={"xatol": 1e-4, "xrtol": 0})
            left[open_] = np.ceil(np.expm1(root.x) - 1e-4 * (1 + np.expm1(root.x)))
        left[endless] = np.inf
        found.append(total + left)
    return found[0], found[1], found[2]
