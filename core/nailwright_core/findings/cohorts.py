"""Year-classes as a mixture of normals, each reading standing for its step on the board.

EM: Dempster, Laird and Rubin (1977), J. R. Stat. Soc. B 39, 1-38; on grouped data: McLachlan and Jones (1988), Biometrics
44, 571-578 (from memory). Number of cohorts by BIC: Schwarz (1978), Ann. Stat. 6, 461-464. A length read to the centimetre
says only within which centimetre it lies; taken for a point, its heaps look like cohorts of their own. Equal readings are
handled together, so that 200,000 fish of a millimetre board cost no more than its few hundred different readings.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import optimize, special

from nailwright_core.common.checks import check_level
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate

Spread = Literal["free", "equal_sd", "constant_cv"]
Floats = NDArray[np.float64]

MAX_COHORTS = 6
STARTS = 6
#: Every start runs this many steps of EM; the most likely ones then climb to their ends by quasi-Newton, since EM only crawls
#: where cohorts overlap.
SHORT_STEPS = 25
MAX_STEPS = 300
#: A fit has settled where one more step of EM raises the log likelihood by less; absolute, whatever the number of fish.
TOLERANCE = 1e-4
#: Ends of two starts whose log likelihoods differ by less are the same.
SAME = 0.05
#: A cohort narrower than a board can tell is a spike on one reading, not a cohort, mm.
NARROWEST_MM = 1.0
#: Fewer fish than this in a cohort say little of its mean and spread (common practice, no source).
FEW_FISH = 15
#: Two neighbours stand apart where at most this share of their fish is nearer to the other (ours, no source).
BLURRED = 0.1
#: Steps that boards have, mm: inch, half and quarter inch, cm, half cm, mm; and the share of readings that must lie on one.
BOARD_STEPS_MM = (25.4, 12.7, 10.0, 6.35, 5.0, 1.0)
ON_STEP = 0.98
#: More different readings than this say no more; they are put together.
MOST_READINGS = 800


@dataclass(frozen=True)
class CohortFit:
    """Cohorts in order of mean length; arrays of shape (k,).

    Attributes:
        means, sds: mm. ``shares``: of all fish, adding to 1. ``n_each``: shares x n.
        mean_estimates: each mean with its SE and its interval by profile of the likelihood; an end is nan where the
            likelihood does not fall on that side before the next cohort is reached: the mean cannot be placed.
        bic, log_likelihood, n, k, spread: of this fit.
        bic_by_k: BIC of every number of cohorts that was tried.
        misclassified: shape (k - 1,): of the fish of one of two neighbours, the share that the other describes better; of
            that cohort of which it is the larger.
        separated: shape (k - 1,): whether that is at most ``BLURRED``.
        step_mm: what a reading stands for; 0 where lengths lie on no step.
        agree, starts: how many of so many starts ended at this likelihood.
        steps, converged: how the climb ended.
    """

    means: Floats
    sds: Floats
    shares: Floats
    n_each: Floats
    mean_estimates: tuple[Estimate, ...]
    bic: float
    log_likelihood: float
    n: int
    k: int
    spread: Spread
    bic_by_k: dict[int, float]
    misclassified: Floats
    separated: NDArray[np.bool_]
    step_mm: float
    agree: int
    starts: int
    steps: int
    converged: bool
    assumptions: tuple[Assumption, ...]

    def density(self, length_mm: ArrayLike) -> Floats:
        """Share-weighted density of each cohort at each length, per mm, shape (k, n)."""
        x = np.asarray(length_mm, dtype=np.float64)
        return _weighted_density(x, _Mixture(self.means, self.sds, self.shares))


@dataclass(frozen=True)
class _Mixture:
    means: Floats
    sds: Floats
    shares: Floats


@dataclass(frozen=True)
class _Result:
    mixture: _Mixture
    log_likelihood: float
    steps: int
    converged: bool
    agree: int = 1
    starts: int = 1


@dataclass(frozen=True)
class _Readings:
    """Different readings ``x`` (mm) with how many fish each has, and the step that each stands for (0: a point)."""

    x: Floats
    weight: Floats
    step: float

    @property
    def narrowest(self) -> float:
        return max(NARROWEST_MM, self.step)


def fit_cohorts(
    length_mm: ArrayLike,
    k: int | None = None,
    spread: Spread = "free",
    seed: int = 0,
    start_means_mm: Sequence[float] | None = None,
    level: float = 0.95,
    step_mm: float | None = None,
) -> CohortFit:
    """Fit 1 to 6 normal cohorts to lengths of one species and length type.

    Args:
        length_mm: shape (n,), mm.
        k: number of cohorts; None tries 1 to 6 and takes the smallest BIC.
        spread: each its own SD ("free"), one for all ("equal_sd"), or SD in proportion to the mean ("constant_cv").
        seed: of the random starts; same seed, same answer.
        start_means_mm: where the means start, for instance as somebody dragged them; then ``k`` is their number.
        step_mm: what the board was read to, or the width of classes whose middles the lengths are; found where it is None.

    Raises:
        CoreError: ``no_lengths``, ``length_not_positive``, ``lengths_all_equal``, ``cohorts_out_of_range``,
            ``too_few_lengths`` (fewer than two different lengths for each cohort), ``spread_unknown``, ``step_out_of_range``,
            ``level_out_of_range``.
    """
    if spread not in ("free", "equal_sd", "constant_cv"):
        raise CoreError(
            "spread_unknown", f"Expected a spread of free, equal_sd or constant_cv; got '{spread}'.", "spread"
        )
    check_level(level)
    if step_mm is not None and not 0 <= step_mm <= 500:  # also not a number
        raise CoreError("step_out_of_range", f"Expected a step of 0 to 500 mm; got {step_mm:g}.", "step_mm")
    lengths = np.asarray(length_mm, dtype=np.float64).ravel()
    if lengths.size == 0:
        raise CoreError(
            "no_lengths", "Expected at least one measured length; got none. Widen the selection.", "length_mm"
        )
    if not (np.all(np.isfinite(lengths)) and np.all(lengths > 0)):
        raise CoreError("length_not_positive", "Every length must be a finite number above 0 mm.", "length_mm")
    x, weight = np.unique(lengths, return_counts=True)
    if x.size == 1:
        raise CoreError(
            "lengths_all_equal", f"All {lengths.size} fish are {x[0]:g} mm long; cohorts need a spread.", "length_mm"
        )
    if start_means_mm is not None:
        k = len(start_means_mm)
    if k is not None and (not 1 <= k <= MAX_COHORTS or k != int(k)):
        raise CoreError("cohorts_out_of_range", f"Expected 1 to {MAX_COHORTS} cohorts; got {k}.", "k")
    if k is not None and x.size < 2 * k:
        raise CoreError(
            "too_few_lengths", f"{k} cohorts need at least {2 * k} different lengths; got {x.size}.", "length_mm"
        )
    k = None if k is None else int(k)
    readings = _readings(x, weight.astype(np.float64), board_step_mm(lengths) if step_mm is None else step_mm)
    most = k or max(each for each in range(1, MAX_COHORTS + 1) if x.size >= 2 * each)
    rng = np.random.default_rng(seed)
    results: dict[int, _Result] = {}
    before: _Result | None = None
    for each in range(most if start_means_mm is not None else 1, most + 1):
        given = start_means_mm if each == k else None
        before = results[each] = _best(readings, each, spread, rng, given, before)
    tried = {k: results[k]} if k else results
    bics = {each: _bic(result, each, spread, lengths.size) for each, result in tried.items()}
    chosen = min(bics, key=lambda each: bics[each])
    return _report(readings, results[chosen], chosen, spread, bics, level)


def board_step_mm(length_mm: ArrayLike) -> float:
    """What a board was read to, mm: the widest usual step on which nearly all lengths lie; 0 where they lie on none."""
    lengths = np.asarray(length_mm, dtype=np.float64).ravel()
    for step in BOARD_STEPS_MM:
        places = lengths / step
        # an inch is kept to a tenth of a millimetre
        if np.mean(np.abs(places - np.round(places)) * step < 0.06) >= ON_STEP:
            return step
    return 0.0


def _readings(x: Floats, weight: Floats, step: float) -> _Readings:
    if x.size <= MOST_READINGS:
        return _Readings(x, weight, step)
    width = max(step, float(x[-1] - x[0]) / MOST_READINGS)
    place = np.floor((x - x[0]) / width).astype(np.int64)
    middles = x[0] + (np.arange(place[-1] + 1) + 0.5) * width
    fish = np.bincount(place, weights=weight).astype(np.float64)
    return _Readings(middles[fish > 0], fish[fish > 0], width)


def _best(
    data: _Readings,
    k: int,
    spread: Spread,
    rng: np.random.Generator,
    given: Sequence[float] | None,
    fewer: _Result | None,
) -> _Result:
    """The most likely end of several starts: quantiles, even, random fish, and the fit of one cohort fewer with each of its
    cohorts split in turn, from which the likelihood only rises."""
    if given is not None:
        first = _initial(data, _apart(np.sort(np.asarray(given, dtype=np.float64)), data))
        return _climb(data, _em(data, first, spread, SHORT_STEPS).mixture, spread)
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
    ended = [_climb(data, each.mixture, spread) for each in begun[:3]]
    best = max(ended, key=lambda each: each.log_likelihood)
    if fewer is not None and best.log_likelihood < fewer.log_likelihood - 1e-9:
        # no start found anything better than a cohort that holds nobody
        best = _em(data, _split(fewer.mixture, int(np.argmax(fewer.mixture.shares)), data, 1e-9), spread, 1)
    agree = sum(best.log_likelihood - each.log_likelihood < SAME for each in ended)
    return replace(best, agree=agree, starts=len(ended))


def _apart(means: Floats, data: _Readings) -> Floats:
    """Starting means with equal ones moved apart: from one place two cohorts would go the same way for ever."""
    moved = means.astype(np.float64)
    for place in range(1, moved.size):
        moved[place] = max(moved[place], moved[place - 1] + 2 * data.narrowest)
    return moved


def _split(mixture: _Mixture, place: int, data: _Readings, share: float = 0.5) -> _Mixture:
    """One cohort as two beside each other."""
    means, sds, shares = (each.tolist() for each in (mixture.means, mixture.sds, mixture.shares))
    off = 0.7 * sds[place] if share == 0.5 else 0.0
    means[place : place + 1] = [means[place] - off, means[place] + off]
    sds[place : place + 1] = [max(sds[place] * (0.7 if off else 1.0), data.narrowest)] * 2
    shares[place : place + 1] = [shares[place] * share, shares[place] * (1 - share)]
    return _Mixture(np.array(means), np.array(sds), np.array(shares))


def _initial(data: _Readings, means: Floats) -> _Mixture:
    k = means.size
    mean = np.average(data.x, weights=data.weight)
    whole = math.sqrt(np.average((data.x - mean) ** 2, weights=data.weight))
    gaps = np.diff(np.sort(means))
    sd = max(data.narrowest, whole if k == 1 else min(whole, float(np.median(gaps)) / 2))
    return _Mixture(means, np.full(k, sd), np.full(k, 1 / k))


def _climb(data: _Readings, mixture: _Mixture, spread: Spread, held: int | None = None) -> _Result:
    """To the nearest maximum of the likelihood; the mean of the cohort ``held`` stays where it is.

    By L-BFGS-B in means, log spreads and log shares, whose gradient is that of the expected complete likelihood (Louis 1982).
    """
    k, scale = mixture.means.size, float(mixture.sds.mean())
    n_spreads = k if spread == "free" else 1
    n = float(data.weight.sum())

    def mixture_of(theta: Floats) -> _Mixture:
        means = theta[:k] * scale
        spreads = np.exp(theta[k : k + n_spreads])
        sds = spreads * means if spread == "constant_cv" else np.broadcast_to(spreads, (k,))
        logits = theta[k + n_spreads :]
        shares = np.exp(logits - logits.max())
        return _Mixture(means, np.maximum(sds, data.narrowest), shares / shares.sum())

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
            options={"maxiter": MAX_STEPS, "maxfun": 2 * MAX_STEPS, "ftol": 1e-15, "gtol": 1e-9, "maxcor": 20},
        )  # fmt: skip
        # what one more step of EM still gains is how far it has settled; where it does, rounding stopped the climb
        ended = _em(data, mixture_of(found.x), spread, SHORT_STEPS, held)
        steps += int(found.nit)
        mixture = ended.mixture
        if ended.converged:
            break
    return _Result(ended.mixture, ended.log_likelihood, steps, ended.converged)


#: Climbs from where the last one stopped, before a fit is told as not settled.
_ROUNDS = 5


def _em(data: _Readings, mixture: _Mixture, spread: Spread, most_steps: int, held: int | None = None) -> _Result:
    """EM from a mixture; the mean of the cohort ``held`` stays where it is."""
    before = -math.inf
    for step in range(1, most_steps + 1):
        density, first, second = _expected(data, mixture)
        # far from every cohort the density is 0 in floating point; the nearest one then takes the fish
        total = np.maximum(density.sum(axis=0), 1e-300)
        now = float(data.weight @ np.log(total))
        if abs(now - before) <= TOLERANCE:
            return _Result(mixture, now, step, True)
        before = now
        mixture = _maximise(density / total * data.weight, first, second, mixture, spread, data.narrowest, held)
    return _Result(mixture, before, most_steps, False)


def _expected(data: _Readings, mixture: _Mixture) -> tuple[Floats, Floats, Floats]:
    """Share-weighted density of each reading per mm, and the first two moments of a cohort's fish within its step: (k, m)."""
    if data.step == 0:
        density = _weighted_density(data.x, mixture)
        return density, np.broadcast_to(data.x, density.shape), np.broadcast_to(data.x**2, density.shape)
    mean, sd = mixture.means[:, None], mixture.sds[:, None]
    low, high = (data.x - data.step / 2 - mean) / sd, (data.x + data.step / 2 - mean) / sd
    # the tail that is the smaller number, so that a difference of two ones is not all that is left
    flipped = low > 0
    chance = special.ndtr(np.where(flipped, -low, high)) - special.ndtr(np.where(flipped, -high, low))
    at_low, at_high = np.exp(-0.5 * low * low) / _ROOT_2PI, np.exp(-0.5 * high * high) / _ROOT_2PI
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
    mixture: _Mixture,
    spread: Spread,
    narrowest: float,
    held: int | None,
) -> _Mixture:
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
        return _Mixture(means, np.maximum(cv * means, narrowest), shares)
    variance = np.maximum(second - 2 * first * means + means**2, 0)
    if spread == "equal_sd":
        variance = np.full(each.size, float(shares @ variance))
    return _Mixture(means, np.maximum(np.sqrt(variance), narrowest), shares)


def _weighted_density(x: Floats, mixture: _Mixture) -> Floats:
    z = (x[None, :] - mixture.means[:, None]) / mixture.sds[:, None]
    scale = mixture.shares / (mixture.sds * math.sqrt(2 * math.pi))
    return np.asarray(scale[:, None] * np.exp(-0.5 * z**2))


def _parameters(k: int, spread: Spread) -> int:
    return (k - 1) + k + (k if spread == "free" else 1)


def _bic(result: _Result, k: int, spread: Spread, n: int) -> float:
    return -2 * result.log_likelihood + _parameters(k, spread) * math.log(n)


def _report(
    data: _Readings, result: _Result, k: int, spread: Spread, bics: dict[int, float], level: float
) -> CohortFit:
    order = np.argsort(result.mixture.means)
    mixture = _Mixture(result.mixture.means[order], result.mixture.sds[order], result.mixture.shares[order])
    n = int(data.weight.sum())
    misclassified = np.array([_misclassified(mixture, place) for place in range(k - 1)])
    best = _Result(mixture, result.log_likelihood, result.steps, result.converged, result.agree, result.starts)
    estimates = tuple(_mean_estimate(data, best, place, spread, level, n) for place in range(k))
    separated = misclassified <= BLURRED
    return CohortFit(
        means=mixture.means,
        sds=mixture.sds,
        shares=mixture.shares,
        n_each=mixture.shares * n,
        mean_estimates=estimates,
        bic=bics[k],
        log_likelihood=result.log_likelihood,
        n=n,
        k=k,
        spread=spread,
        bic_by_k=bics,
        misclassified=misclassified,
        separated=separated,
        step_mm=data.step,
        agree=result.agree,
        starts=result.starts,
        steps=result.steps,
        converged=result.converged,
        assumptions=_assumptions(mixture, misclassified, estimates, n, data.step, result),
    )


def _misclassified(mixture: _Mixture, place: int) -> float:
    """Of the fish of one of two neighbours, the share that lies where the other is the likelier: of that with the larger."""
    two = slice(place, place + 2)
    pair = _Mixture(mixture.means[two], mixture.sds[two], mixture.shares[two] / mixture.shares[two].sum())
    reach = 8 * float(pair.sds.max())
    at = np.linspace(float(pair.means.min()) - reach, float(pair.means.max()) + reach, 4001)
    first, second = _weighted_density(at, pair)
    lost = np.trapezoid(np.where(first < second, first, 0), at), np.trapezoid(np.where(first < second, 0, second), at)
    return float(max(np.array(lost) / pair.shares))


def _mean_estimate(data: _Readings, best: _Result, place: int, spread: Spread, level: float, n: int) -> Estimate:
    """A mean with the ends at which the profile of the likelihood is as low as chi-square allows."""
    mixture = best.mixture
    mean = float(mixture.means[place])
    target = float(special.ndtri(0.5 + level / 2))
    first = float(mixture.sds[place]) / math.sqrt(max(float(mixture.shares[place]) * n, 1.0))
    low_stop = float(mixture.means[place - 1]) if place else mean - 20 * float(mixture.sds[place])
    last = place == mixture.means.size - 1
    high_stop = mean + 20 * float(mixture.sds[place]) if last else float(mixture.means[place + 1])
    low = _profile_end(data, best, place, spread, target, -first, low_stop)
    high = _profile_end(data, best, place, spread, target, first, high_stop)
    share = float(mixture.shares[place])
    return Estimate(mean, (high - low) / (2 * target), low, high, level, "profile likelihood", round(n * share))


def _profile_end(
    data: _Readings, best: _Result, place: int, spread: Spread, target: float, step: float, stop: float
) -> float:
    """Where the root of twice the fall of the likelihood reaches ``target``; nan where it does not before ``stop``.

    That root is nearly a line in the mean, so that each try by the last two is near.
    """
    mean, mixture = float(best.mixture.means[place]), best.mixture

    def root_at(at: float) -> tuple[float, _Mixture]:
        means = from_mixture.means.copy()
        means[place] = at
        found = _climb(data, _Mixture(means, from_mixture.sds, from_mixture.shares), spread, held=place)
        return math.sqrt(max(2 * (best.log_likelihood - found.log_likelihood), 0.0)), found.mixture

    from_mixture = mixture
    inside, outside, at = (mean, 0.0), None, mean + 1.5 * step
    for _ in range(14):
        if (at - stop) * step >= 0:
            at = stop
        root, from_mixture = root_at(at)
        if abs(root - target) < 0.01:
            return at
        if root < target:
            inside = (at, root)
            if at == stop:
                return math.nan
        else:
            outside = (at, root)
        if outside is None:
            at = mean + (at - mean) * min(max(target / max(root, 1e-3), 1.3), 3.0)
        else:
            share = (target - inside[1]) / (outside[1] - inside[1])
            at = inside[0] + min(max(share, 0.1), 0.9) * (outside[0] - inside[0])
    return at if outside is not None else math.nan


def _assumptions(
    mixture: _Mixture, misclassified: Floats, estimates: tuple[Estimate, ...], n: int, step: float, result: _Result
) -> tuple[Assumption, ...]:
    def between(place: int) -> str:
        return f"{mixture.means[place]:.0f} and {mixture.means[place + 1]:.0f} mm ({100 * misclassified[place]:.0f} %)"

    blurred = [between(place) for place, share in enumerate(misclassified) if share > BLURRED]
    apart = Assumption(
        "Cohorts stand apart",
        "doubtful" if blurred else "holds",
        f"More than {100 * BLURRED:.0f} % of the fish of one belong by their length to the other: {'; '.join(blurred)}."
        if blurred
        else f"At most {100 * max(misclassified, default=0.0):.0f} % of the fish of one belong by their length to its neighbour.",
    )
    lost = [each for each in estimates if math.isnan(each.lower) or math.isnan(each.upper)]
    placed = Assumption(
        "Each mean can be placed",
        "fails" if lost else "holds",
        f"Not {', '.join(f'{each.value:.0f} mm' for each in lost)}: the lengths say as well of another place up to the next "
        "cohort. Take fewer cohorts, or start the means where you know them to be."
        if lost
        else "The likelihood falls on both sides of each.",
    )
    smallest = float(mixture.shares.min()) * n
    board = Assumption(
        "Lengths are read evenly",
        "not checked",
        f"Each stands for its step of {step:g} mm, read to the nearest." if step else "They lie on no step of a board.",
    )
    return (
        apart,
        placed,
        Assumption(
            "Enough fish in each cohort",
            "holds" if smallest >= FEW_FISH else "doubtful",
            f"The smallest holds about {smallest:.0f} fish; fewer than {FEW_FISH} say little.",
        ),
        Assumption(
            "The fit has settled",
            "holds" if result.converged else "fails",
            (
                f"{result.agree} of the {result.starts} best starts end here."
                if result.starts > 1
                else "From the means given."
            )
            if result.converged
            else f"It had not settled after {result.steps} steps.",
        ),
        board,
        Assumption(
            "Lengths within a cohort are normal",
            "not checked",
            "Uneven growth or gear that spares small fish skews them.",
        ),
    )
