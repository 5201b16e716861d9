"""A mixture of normals on readings that stand for their step, climbed by EM and then by quasi-Newton."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy import optimize, special

from nailwright_core.common.arrays import Floats
from nailwright_core.fitting.maximum import SAME

Spread = Literal["free", "equal_sd", "constant_cv"]
Places = slice | NDArray[np.int64]
STARTS = 6
#: Every start runs this many steps of EM; the most likely ones then climb to their ends by quasi-Newton, since EM only crawls
#: where cohorts overlap.
SHORT_STEPS = 10
MAX_STEPS = 300
#: A fit has settled where one more step of EM raises the log likelihood by less; absolute, whatever the number of fish.
TOLERANCE = 1e-4
#: A cohort narrower than a board can tell is a spike on one reading, not a cohort, mm.
NARROWEST_MM = 1.0
#: More different readings than this say no more; they are put together.
MOST_READINGS = 800


@dataclass(frozen=True)
class Mixture:
    """Means and SDs (mm) and shares of each component, shape (k,)."""

    means: Floats
    sds: Floats
    shares: Floats


@dataclass(frozen=True)
class Result:
    """Where a climb ended, after how many steps, and how many starts agree."""

    mixture: Mixture
    log_likelihood: float
    steps: int
    converged: bool
    agree: int = 1
    starts: int = 1


@dataclass(frozen=True)
class Readings:
    """Different readings ``x`` (mm) with how many fish each has, and the step that each stands for (0: a point)."""

    x: Floats
    weight: Floats
    step: float

    @property
    def narrowest(self) -> float:
        return max(NARROWEST_MM, self.step)

    @cached_property
    def edges(self) -> tuple[Floats, Places, Places]:
        """Where steps begin and end, mm, in order and each once; and for each reading the places of its lower and upper edge among them."""
        both = np.concatenate([self.x - self.step / 2, self.x + self.step / 2])
        # sums of steps differ in their last digits
        _, first, place = np.unique(np.round(both / self.step, 6), return_index=True, return_inverse=True)
        n = self.x.size
        if first.size == n + 1:  # no reading between the shortest and the longest is missing
            return both[first], slice(0, n), slice(1, n + 1)
        return both[first], place[:n], place[n:]


def readings_of(x: Floats, weight: Floats, step: float) -> Readings:
    """The lengths as readings; of very many different ones, near ones are told together.

    Args:
        x: lengths in order, mm, shape (m,).
        weight: how many fish have each, shape (m,).
        step: of the board, mm.
    """
    if x.size <= MOST_READINGS:
        return Readings(x, weight, step)
    width = max(step, float(x[-1] - x[0]) / MOST_READINGS)
    place = np.floor((x - x[0]) / width).astype(np.int64)
    middles = x[0] + (np.arange(place[-1] + 1) + 0.5) * width
    fish = np.bincount(place, weights=weight).astype(np.float64)
    return Readings(middles[fish > 0], fish[fish > 0], width)


def most_likely(
    data: Readings,
    k: int,
    spread: Spread,
    rng: np.random.Generator,
    given: Sequence[float] | None,
    fewer: Result | None,
) -> Result:
    """The most likely end of several starts: quantiles, even, random fish, and the fit of one cohort fewer with each of its
    cohorts split in turn, from which the likelihood only rises.

    Args:
        data: lengths as they were read.
        k: cohorts.
        spread: how the spreads of cohorts hang together.
        rng: for starts at random fish.
        given: means to start from, mm; None: several starts are tried.
        fewer: the fit of one cohort fewer, whose cohorts are split.
    """
    if given is not None:
        first = _initial(data, _apart(np.sort(np.asarray(given, dtype=np.float64)), data))
        return climb_to_peak(data, _em(data, first, spread, SHORT_STEPS).mixture, spread)
    cumulative = np.cumsum(data.weight) / data.weight.sum()
    starts = [data.x[np.searchsorted(cumulative, (np.arange(k) + 0.5) / k).clip(max=data.x.size - 1)]]
    starts.append(np.linspace(data.x[0], data.x[-1], k + 2)[1:-1])
    starts += [np.sort(rng.choice(data.x, k, replace=False)) for _ in range(STARTS if k > 1 else 0)]
    mixtures = [_initial(data, _apart(means, data)) for means in starts]
    if fewer is not None:
        mixtures += [_split(fewer.mixture, place, data) for place in range(k - 1)]
    begun = sorted(
        (_em(data, mixture, spread, SHORT_STEPS) for mixture in mixtures), key=lambda each: -each.log_likelihood
    )
    ended = [climb_to_peak(data, each.mixture, spread) for each in begun[:3]]
    best = max(ended, key=lambda each: each.log_likelihood)
    if fewer is not None and best.log_likelihood < fewer.log_likelihood - 1e-9:
        # no start found anything better than a cohort that holds nobody
        best = _em(data, _split(fewer.mixture, int(np.argmax(fewer.mixture.shares)), data, 1e-9), spread, 1)
    agree = sum(best.log_likelihood - each.log_likelihood < SAME for each in ended)
    return replace(best, agree=agree, starts=len(ended))


def _apart(means: Floats, data: Readings) -> Floats:
    """Starting means with equal ones moved apart: from one place two cohorts would go the same way for ever."""
    moved = means.astype(np.float64)
    for place in range(1, moved.size):
        moved[place] = max(moved[place], moved[place - 1] + 2 * data.narrowest)
    return moved


def _split(mixture: Mixture, place: int, data: Readings, share: float = 0.5) -> Mixture:
    """One cohort as two beside each other."""
    means, sds, shares = (each.tolist() for each in (mixture.means, mixture.sds, mixture.shares))
    off = 0.7 * sds[place] if share == 0.5 else 0.0
    means[place : place + 1] = [means[place] - off, means[place] + off]
    sds[place : place + 1] = [max(sds[place] * (0.7 if off else 1.0), data.narrowest)] * 2
    shares[place : place + 1] = [shares[place] * share, shares[place] * (1 - share)]
    return Mixture(np.array(means), np.array(sds), np.array(shares))


def _initial(data: Readings, means: Floats) -> Mixture:
    k = means.size
    mean = np.average(data.x, weights=data.weight)
    whole = math.sqrt(np.average((data.x - mean) ** 2, weights=data.weight))
    gaps = np.diff(np.sort(means))
    sd = max(data.narrowest, whole if k == 1 else min(whole, float(np.median(gaps)) / 2))
    return Mixture(means, np.full(k, sd), np.full(k, 1 / k))


def climb_to_peak(data: Readings, mixture: Mixture, spread: Spread, held: int | None = None) -> Result:
    """To the nearest maximum of the likelihood; the mean of the cohort ``held`` stays where it is.

    By L-BFGS-B in means, log spreads and log shares, whose gradient is that of the expected complete likelihood (Louis 1982).

    Args:
        data: lengths as they were read.
        mixture: where to start.
        spread: how the spreads of cohorts hang together.
        held: number of the cohort whose mean stays; None: all move.
    """
    k, scale = mixture.means.size, float(mixture.sds.mean())
    n_spreads = k if spread == "free" else 1
    n = float(data.weight.sum())

    def mixture_of(theta: Floats) -> Mixture:
        means = theta[:k] * scale
        spreads = np.exp(theta[k : k + n_spreads])
        sds = spreads * means if spread == "constant_cv" else np.broadcast_to(spreads, (k,))
        logits = theta[k + n_spreads :]
        shares = np.exp(logits - logits.max())
        return Mixture(means, np.maximum(sds, data.narrowest), shares / shares.sum())

    def fall(theta: Floats) -> tuple[float, Floats]:
        now = mixture_of(theta)
        density, x, squares = _expected(data, now)
        total = np.maximum(density.sum(axis=0), 1e-300)
        belongs = density / total * data.weight
        fish = belongs.sum(axis=1)
        off = (belongs * x).sum(axis=1) - now.means * fish
        spreading = (belongs * squares).sum(axis=1) - 2 * now.means * (belongs * x).sum(axis=1) + now.means**2 * fish
        by_mean = off / now.sds**2
        by_log_sd = np.where(now.sds > data.narrowest, spreading / now.sds**2 - fish, 0.0)
        if spread == "constant_cv":
            by_mean = by_mean + by_log_sd / now.means
        by_spread = by_log_sd if spread == "free" else by_log_sd.sum(keepdims=True)
        by_share = fish - now.shares * fish.sum()
        # a fish: so that what counts as flat does not hang on how many there are
        gradient = np.concatenate([by_mean * scale, by_spread, by_share]) / n
        return -float(data.weight @ np.log(total)) / n, -gradient

    steps = 0
    for _ in range(_ROUNDS):
        first = mixture.sds / mixture.means if spread == "constant_cv" else mixture.sds
        spreads = np.log(first if spread == "free" else [float(mixture.shares @ first)])
        theta = np.concatenate([mixture.means / scale, spreads, np.log(np.maximum(mixture.shares, 1e-9))])
        edge = (float(data.x[0]) - 20 * scale) / scale, (float(data.x[-1]) + 20 * scale) / scale
        bounds: list[tuple[float | None, float | None]] = [edge] * k
        if held is not None:
            bounds[held] = (theta[held], theta[held])
        tightest = None if spread == "constant_cv" else math.log(data.narrowest)
        bounds += [(tightest, None)] * n_spreads + [(-25.0, 25.0)] * k
        found = optimize.minimize(
            fall, theta, jac=True, method="L-BFGS-B", bounds=bounds,
            # what is gained or still to be gained by then is far below what one fish says, however many there are
            options={"maxiter": MAX_STEPS, "maxfun": 2 * MAX_STEPS, "ftol": 1e-7 / n, "gtol": 1e-4 / math.sqrt(n), "maxcor": 20},
        )  # fmt: skip
        # what one more step of EM still gains is how far it has settled; where it does, rounding stopped the climb
        ended = _em(data, mixture_of(found.x), spread, SHORT_STEPS, held)
        steps += int(found.nit)
        mixture = ended.mixture
        if ended.converged:
            break
    return Result(ended.mixture, ended.log_likelihood, steps, ended.converged)


#: Climbs from where the last one stopped, before a fit is told as not settled.
_ROUNDS = 5


def _em(data: Readings, mixture: Mixture, spread: Spread, most_steps: int, held: int | None = None) -> Result:
    """EM from a mixture; the mean of the cohort ``held`` stays where it is."""
    before = -math.inf
    for step in range(1, most_steps + 1):
        density, first, second = _expected(data, mixture)
        # far from every cohort the density is 0 in floating point; the nearest one then takes the fish
        total = np.maximum(density.sum(axis=0), 1e-300)
        now = float(data.weight @ np.log(total))
        if abs(now - before) <= TOLERANCE:
            return Result(mixture, now, step, True)
        before = now
        mixture = _maximise(density / total * data.weight, first, second, mixture, spread, data.narrowest, held)
    return Result(mixture, before, most_steps, False)


def _expected(data: Readings, mixture: Mixture) -> tuple[Floats, Floats, Floats]:
    """Share-weighted density of each reading per mm, and the first two moments of a cohort's fish within its step: (k, m)."""
    if data.step == 0:
        density = weighted_density(data.x, mixture)
        return density, np.broadcast_to(data.x, density.shape), np.broadcast_to(data.x**2, density.shape)
    mean, sd = mixture.means[:, None], mixture.sds[:, None]
    # neighbours on a board share an edge: each edge is worked out once
    edges, of_low, of_high = data.edges
    z = (edges - mean) / sd
    tails, heights = special.ndtr(-np.abs(z)), np.exp(-0.5 * z * z) / _ROOT_2PI
    low, high, tail_low, tail_high = z[:, of_low], z[:, of_high], tails[:, of_low], tails[:, of_high]
    at_low, at_high = heights[:, of_low], heights[:, of_high]
    # on one side of the mean the smaller tails are taken from each other, so that a difference of two ones is not all that is left
    chance = np.where((low < 0) & (high > 0), 1 - tail_low - tail_high, np.abs(tail_low - tail_high))
    known = chance > 1e-290
    safe = np.where(known, chance, 1.0)
    z1 = np.where(known, (at_low - at_high) / safe, (low + high) / 2)
    z2 = np.where(known, 1 + (low * at_low - high * at_high) / safe, z1 * z1)
    # within its step whatever rounding says
    z1 = np.clip(z1, low, high)
    z2 = np.maximum(z2, z1 * z1)
    return mixture.shares[:, None] * chance / data.step, mean + sd * z1, mean**2 + 2 * mean * sd * z1 + sd**2 * z2


_ROOT_2PI = math.sqrt(2 * math.pi)


def _maximise(
    belongs: Floats,
    x: Floats,
    squares: Floats,
    mixture: Mixture,
    spread: Spread,
    narrowest: float,
    held: int | None,
) -> Mixture:
    """The M step; for constant CV the mean given the CV, then the CV given the means (each has a closed form)."""
    each = np.maximum(belongs.sum(axis=1), 1e-12)
    first = (belongs * x).sum(axis=1) / each
    second = (belongs * squares).sum(axis=1) / each
    shares = each / each.sum()
    means = first.copy()
    if spread == "constant_cv":
        cv2 = float(np.mean((mixture.sds / mixture.means) ** 2))
        means = (-first + np.sqrt(first**2 + 4 * cv2 * second)) / (2 * cv2)
    if held is not None:
        means[held] = mixture.means[held]
    if spread == "constant_cv":
        cv = math.sqrt(max(float(shares @ (second / means**2 - 2 * first / means + 1)), 1e-12))
        return Mixture(means, np.maximum(cv * means, narrowest), shares)
    variance = np.maximum(second - 2 * first * means + means**2, 0)
    if spread == "equal_sd":
        variance = np.full(each.size, float(shares @ variance))
    return Mixture(means, np.maximum(np.sqrt(variance), narrowest), shares)


def weighted_density(x: Floats, mixture: Mixture) -> Floats:
    """Density of each cohort at each length times its share, per mm, shape (k, n).

    Args:
        x: lengths, mm, shape (n,).
        mixture: means and SDs in mm, shares.
    """
    z = (x[None, :] - mixture.means[:, None]) / mixture.sds[:, None]
    scale = mixture.shares / (mixture.sds * math.sqrt(2 * math.pi))
    return np.asarray(scale[:, None] * np.exp(-0.5 * z**2))
