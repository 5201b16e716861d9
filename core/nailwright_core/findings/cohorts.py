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

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.clusters import numbered
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.findings.board_steps import board_step_mm, heaped_step_mm
from nailwright_core.findings.cohort_sites import FEWEST_SITES, MOST_GROUPS, groups_of, spread_over_sites
from nailwright_core.findings.mixture import (
    Mixture,
    Readings,
    Result,
    Spread,
    climb_to_peak,
    most_likely,
    readings_of,
    weighted_density,
)
from nailwright_core.fitting.comparison import bic
from nailwright_core.fitting.profile import profile_end

MAX_COHORTS = 6
#: Fewer fish than this in a cohort say little of its mean and spread (common practice, no source).
FEW_FISH = 15
#: Two neighbours stand apart where at most this share of their fish is nearer to the other (ours, no source).
BLURRED = 0.1


@dataclass(frozen=True)
class CohortFit:
    """Cohorts in order of mean length; arrays of shape (k,).

    Attributes:
        means, sds: mm. ``shares``: of all fish, adding to 1. ``n_each``: shares x n.
        mean_estimates: each mean with its SE and its interval by profile of the likelihood; an end is nan where the
            likelihood does not fall on that side before the next cohort is reached: the mean cannot be placed.
        bic, log_likelihood, n, k, spread: of this fit.
        share_estimates: each share with its interval, on the logit scale.
        bic_by_k, icl_by_k: BIC of every number of cohorts that was tried, and BIC with what cannot be told apart counted against it
            (integrated completed likelihood: Biernacki, Celeux and Govaert 2000, IEEE Trans. Pattern Anal. 22, 719-725, from memory).
        misclassified: shape (k - 1,): of the fish of one of two neighbours, the share that the other describes better; of
            that cohort of which it is the larger.
        separated: shape (k - 1,): whether that is at most ``BLURRED``.
        step_mm: what a reading stands for; 0 where lengths lie on no step. heaped: whether a part was read so coarse and all are taken so.
        sites: over how many the intervals are; 0: over fish.
        agree, starts: how many of so many starts ended at this likelihood.
        steps, converged: how the climb ended.
    """

    means: Floats
    sds: Floats
    shares: Floats
    n_each: Floats
    mean_estimates: tuple[Estimate, ...]
    share_estimates: tuple[Estimate, ...]
    bic: float
    log_likelihood: float
    n: int
    k: int
    spread: Spread
    bic_by_k: dict[int, float]
    icl_by_k: dict[int, float]
    misclassified: Floats
    separated: NDArray[np.bool_]
    step_mm: float
    heaped: bool
    sites: int
    agree: int
    starts: int
    steps: int
    converged: bool
    assumptions: tuple[Assumption, ...]

    def density(self, length_mm: ArrayLike) -> Floats:
        """Share-weighted density of each cohort at each length, per mm, shape (k, n)."""
        x = np.asarray(length_mm, dtype=np.float64)
        return weighted_density(x, Mixture(self.means, self.sds, self.shares))


def fit_cohorts(
    length_mm: ArrayLike,
    k: int | None = None,
    spread: Spread = "free",
    seed: int = 0,
    start_means_mm: Sequence[float] | None = None,
    level: float = 0.95,
    step_mm: float | None = None,
    sites: ArrayLike | None = None,
) -> CohortFit:
    """Fit 1 to 6 normal cohorts to lengths of one species and length type.

    Args:
        length_mm: shape (n,), mm.
        k: number of cohorts; None tries 1 to 6 and takes the smallest BIC.
        spread: each its own SD ("free"), one for all ("equal_sd"), or SD in proportion to the mean ("constant_cv").
        seed: of the random starts; same seed, same answer.
        start_means_mm: where the means start, for instance as somebody dragged them; then ``k`` is their number.
        step_mm: what the board was read to, or the width of classes whose middles the lengths are; found where it is None.
        sites: label of the site of each fish, shape (n,): from three on intervals are over sites too, each the wider of the two.

    Raises:
        CoreError: ``no_lengths``, ``length_not_positive``, ``lengths_all_equal``, ``cohorts_out_of_range``,
            ``too_few_lengths`` (fewer than two different lengths for each cohort), ``spread_unknown``, ``step_out_of_range``,
            ``level_out_of_range``, ``lengths_differ``.
    """
    if spread not in ("free", "equal_sd", "constant_cv"):
        raise CoreError(
            "spread_unknown", f"Expected a spread of free, equal_sd or constant_cv; got '{spread}'.", "spread"
        )
    check_level(level)
    if step_mm is not None and not (isinstance(step_mm, int | float) and 0 <= step_mm <= 500):  # also not a number
        raise CoreError("step_out_of_range", f"Expected a step of 0 to 500 mm; got {step_mm}.", "step_mm")
    lengths = np.asarray(length_mm, dtype=np.float64).ravel()
    if lengths.size == 0:
        raise CoreError(
            "no_lengths", "Expected at least one measured length; got none. Widen the selection.", "length_mm"
        )
    if not (np.all(np.isfinite(lengths)) and np.all(lengths > 0)):
        raise CoreError("length_not_positive", "Every length must be a finite number above 0 mm.", "length_mm")
    site, n_sites = (None, 0) if sites is None else numbered(sites, lengths.size)
    step = board_step_mm(lengths) if step_mm is None else step_mm
    heaped = step_mm is None and heaped_step_mm(lengths, step) > step
    if heaped:
        step = heaped_step_mm(lengths, step)
        lengths = np.maximum(np.round(lengths / step) * step, step / 2)
    x, weight = np.unique(lengths, return_counts=True)
    if x.size == 1:
        raise CoreError(
            "lengths_all_equal", f"All {lengths.size} fish are {x[0]:g} mm long; cohorts need a spread.", "length_mm"
        )
    if start_means_mm is not None:
        starts = numbers(start_means_mm, "start_means_mm")
        if (starts <= 0).any():
            raise CoreError("length_not_positive", "Expected starting means above 0 mm.", "start_means_mm")
        k = starts.size
    if k is not None and not (isinstance(k, int | float) and 1 <= k <= MAX_COHORTS and k == int(k)):
        raise CoreError("cohorts_out_of_range", f"Expected 1 to {MAX_COHORTS} cohorts; got {k}.", "k")
    if k is not None and x.size < 2 * k:
        raise CoreError(
            "too_few_lengths", f"{k} cohorts need at least {2 * k} different lengths; got {x.size}.", "length_mm"
        )
    k = None if k is None else int(k)
    readings = readings_of(x, weight.astype(np.float64), step)
    most = k or max(each for each in range(1, MAX_COHORTS + 1) if x.size >= 2 * each)
    rng = np.random.default_rng(seed)
    results: dict[int, Result] = {}
    before: Result | None = None
    for each in range(most if start_means_mm is not None else 1, most + 1):
        given = start_means_mm if each == k else None
        before = results[each] = most_likely(readings, each, spread, rng, given, before)
    tried = {k: results[k]} if k else results
    bics = {each: _bic(result, each, spread, lengths.size) for each, result in tried.items()}
    chosen = min(bics, key=lambda each: bics[each])
    icls = {each: bics[each] + 2 * _entropy(readings, result.mixture) for each, result in tried.items()}
    groups = None if site is None or n_sites < FEWEST_SITES else groups_of(site, n_sites, rng)
    return _report(readings, results[chosen], chosen, spread, (bics, icls), level, lengths, groups, heaped)


def _entropy(data: Readings, mixture: Mixture) -> float:
    """Of which cohort each fish is: 0 where all can be told."""
    density = weighted_density(data.x, mixture)
    belongs = density / np.maximum(density.sum(axis=0), 1e-300)
    return float(-(data.weight * special.xlogy(belongs, belongs)).sum())


def _parameters(k: int, spread: Spread) -> int:
    return (k - 1) + k + (k if spread == "free" else 1)


def _bic(result: Result, k: int, spread: Spread, n: int) -> float:
    return bic(result.log_likelihood, _parameters(k, spread), n)


def _report(
    data: Readings,
    result: Result,
    k: int,
    spread: Spread,
    criteria: tuple[dict[int, float], dict[int, float]],
    level: float,
    lengths: Floats,
    groups: NDArray[np.int64] | None,
    heaped: bool,
) -> CohortFit:
    bics, icls = criteria
    order = np.argsort(result.mixture.means)
    mixture = Mixture(result.mixture.means[order], result.mixture.sds[order], result.mixture.shares[order])
    n = int(data.weight.sum())
    misclassified = np.array([_misclassified(mixture, place) for place in range(k - 1)])
    best = Result(mixture, result.log_likelihood, result.steps, result.converged, result.agree, result.starts)
    means = tuple(_mean_estimate(data, best, place, spread, level, n) for place in range(k))
    of_mean, of_share, df = np.zeros(k), np.zeros(k), math.inf
    if groups is not None:
        of_mean, of_share = spread_over_sites(data, lengths, groups, mixture, spread)
        df = int(groups.max())
    t = float(special.ndtri(0.5 + level / 2) if math.isinf(df) else special.stdtrit(df, 0.5 + level / 2))
    over = "" if groups is None else f", t over {int(df) + 1} {'sites' if df + 1 < MOST_GROUPS else 'groups of sites'}"
    estimates = tuple(_wider(each, float(se), t, over) for each, se in zip(means, of_mean, strict=True))
    shares = tuple(
        _share_estimate(float(share), float(se), t, level, n, over)
        for share, se in zip(mixture.shares, of_share, strict=True)
    )
    separated = misclassified <= BLURRED
    return CohortFit(
        means=mixture.means,
        sds=mixture.sds,
        shares=mixture.shares,
        n_each=mixture.shares * n,
        mean_estimates=estimates,
        share_estimates=shares,
        bic=bics[k],
        log_likelihood=result.log_likelihood,
        n=n,
        k=k,
        spread=spread,
        bic_by_k=bics,
        icl_by_k=icls,
        misclassified=misclassified,
        separated=separated,
        step_mm=data.step,
        heaped=heaped,
        sites=0 if groups is None else int(groups.max()) + 1,
        agree=result.agree,
        starts=result.starts,
        steps=result.steps,
        converged=result.converged,
        assumptions=(
            *_assumptions(mixture, misclassified, estimates, n, result),
            _board(data.step, heaped),
            _normal(k, icls),
            _alike(groups),
        ),
    )


def _wider(mean: Estimate, se: float, t: float, over: str) -> Estimate:
    """The interval by the likelihood, or that over sites where it is wider; an end that cannot be placed stays so."""
    low, high = min(mean.lower, mean.value - t * se), max(mean.upper, mean.value + t * se)
    ends = (mean.lower if math.isnan(mean.lower) else low, mean.upper if math.isnan(mean.upper) else high)
    return replace(mean, se=max(mean.se, se), lower=ends[0], upper=ends[1], interval=mean.interval + over)


def _share_estimate(share: float, se_logit: float, t: float, level: float, n: int, over: str) -> Estimate:
    if not 0 < share < 1 - 1e-12:
        return Estimate(share, math.nan, share, share, level, "one cohort", n)
    se = max(se_logit, 1 / math.sqrt(n * share * (1 - share)))
    at = float(special.logit(share))
    low, high = (float(special.expit(at + side * t * se)) for side in (-1, 1))
    return Estimate(share, se * share * (1 - share), low, high, level, f"logit{over}", n)


def _misclassified(mixture: Mixture, place: int) -> float:
    """Of the fish of one of two neighbours, the share that lies where the other is the likelier: of that with the larger."""
    two = slice(place, place + 2)
    pair = Mixture(mixture.means[two], mixture.sds[two], mixture.shares[two] / mixture.shares[two].sum())
    reach = 8 * float(pair.sds.max())
    at = np.linspace(float(pair.means.min()) - reach, float(pair.means.max()) + reach, 4001)
    first, second = weighted_density(at, pair)
    lost = np.trapezoid(np.where(first < second, first, 0), at), np.trapezoid(np.where(first < second, 0, second), at)
    return float(max(np.array(lost) / pair.shares))


def _mean_estimate(data: Readings, best: Result, place: int, spread: Spread, level: float, n: int) -> Estimate:
    """A mean with the ends at which the profile of the likelihood is as low as chi-square allows."""
    mixture = best.mixture
    mean = float(mixture.means[place])
    target = float(special.ndtri(0.5 + level / 2))
    first = float(mixture.sds[place]) / math.sqrt(max(float(mixture.shares[place]) * n, 1.0))
    low_stop = float(mixture.means[place - 1]) if place else mean - 20 * float(mixture.sds[place])
    last = place == mixture.means.size - 1
    high_stop = mean + 20 * float(mixture.sds[place]) if last else float(mixture.means[place + 1])

    def climb(at: float, from_mixture: Mixture) -> tuple[float, Mixture]:
        means = from_mixture.means.copy()
        means[place] = at
        found = climb_to_peak(data, replace(from_mixture, means=means), spread, held=place)
        return found.log_likelihood, found.mixture

    low, high = (
        profile_end(climb, mean, best.log_likelihood, mixture, step, stop, level)
        for step, stop in ((-first, low_stop), (first, high_stop))
    )
    share = float(mixture.shares[place])
    return Estimate(mean, (high - low) / (2 * target), low, high, level, "profile likelihood", round(n * share))


def _assumptions(
    mixture: Mixture, misclassified: Floats, estimates: tuple[Estimate, ...], n: int, result: Result
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
    )


def _board(step: float, heaped: bool) -> Assumption:
    name = "Lengths are read evenly"
    if heaped:
        return Assumption(
            name,
            "fails",
            f"A part was read to {step:g} mm: all are taken to {step:g} mm, so that its heaps are no cohorts.",
        )
    each = (
        f"Each stands for its step of {step:g} mm, read to the nearest." if step else "They lie on no step of a board."
    )
    return Assumption(name, "not checked", each)


def _normal(k: int, icls: dict[int, float]) -> Assumption:
    name, seen = "Lengths within a cohort are normal", min(icls, key=lambda each: icls[each])
    if seen < k:
        which = "one cohort" if seen == 1 else f"{seen} cohorts"
        return Assumption(
            name, "doubtful", f"By what can be told apart (ICL) {which} would do: one that is skewed looks like two."
        )
    return Assumption(name, "not checked", "Uneven growth or gear that spares small fish skews them.")


def _alike(groups: NDArray[np.int64] | None) -> Assumption:
    name = "Fish of one site may be alike"
    if groups is None:
        return Assumption(name, "not checked", "Intervals are over fish: too few sites, or none told.")
    return Assumption(name, "holds", "Intervals of means and shares are over sites too, each the wider of the two.")
