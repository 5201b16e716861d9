"""Year-classes as a mixture of normals, fitted by EM.

EM: Dempster, Laird and Rubin (1977), J. R. Stat. Soc. B 39, 1-38. Number of cohorts by BIC: Schwarz (1978), Ann. Stat.
6, 461-464. When two modes cannot be told apart: Behboodian (1970), Technometrics 12, 131-139. Equal lengths are handled
together, so that 200,000 fish of a millimetre board cost no more than its few hundred different readings.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate

Spread = Literal["free", "equal_sd", "constant_cv"]
Floats = NDArray[np.float64]

MAX_COHORTS = 6
STARTS = 6
#: Every start runs this far; only the most likely one then runs to its end.
SHORT_STEPS = 60
MAX_STEPS = 3000
TOLERANCE = 1e-9
#: A cohort narrower than a board can tell is a spike on one reading, not a cohort, mm.
NARROWEST_MM = 1.0
#: Fewer fish than this in a cohort say little of its mean and spread (common practice, no source).
FEW_FISH = 15


@dataclass(frozen=True)
class CohortFit:
    """Cohorts in order of mean length; arrays of shape (k,).

    Attributes:
        means, sds: mm. ``shares``: of all fish, adding to 1. ``n_each``: shares x n.
        mean_estimates: each mean with its SE and normal interval, from the empirical information.
        bic, log_likelihood, n, k, spread: of this fit.
        bic_by_k: BIC of every number of cohorts that was tried.
        separated: shape (k - 1,): whether neighbours are further apart than twice the smaller SD.
        steps, converged: how EM ended.
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
    separated: NDArray[np.bool_]
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


def fit_cohorts(
    length_mm: ArrayLike,
    k: int | None = None,
    spread: Spread = "free",
    seed: int = 0,
    start_means_mm: Sequence[float] | None = None,
    level: float = 0.95,
) -> CohortFit:
    """Fit 1 to 6 normal cohorts to lengths of one species and length type.

    Args:
        length_mm: shape (n,), mm.
        k: number of cohorts; None tries 1 to 6 and takes the smallest BIC.
        spread: each its own SD ("free"), one for all ("equal_sd"), or SD in proportion to the mean ("constant_cv").
        seed: of the random starts; same seed, same answer.
        start_means_mm: where the means start, for instance as somebody dragged them; then ``k`` is their number.

    Raises:
        CoreError: ``no_lengths``, ``length_not_positive``, ``lengths_all_equal``, ``cohorts_out_of_range``,
            ``too_few_lengths`` (fewer than two different lengths for each cohort), ``spread_unknown``.
    """
    if spread not in ("free", "equal_sd", "constant_cv"):
        raise CoreError(
            "spread_unknown", f"Expected a spread of free, equal_sd or constant_cv; got '{spread}'.", "spread"
        )
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
    if k is not None and not 1 <= k <= MAX_COHORTS:
        raise CoreError("cohorts_out_of_range", f"Expected 1 to {MAX_COHORTS} cohorts; got {k}.", "k")
    if k is not None and x.size < 2 * k:
        raise CoreError(
            "too_few_lengths", f"{k} cohorts need at least {2 * k} different lengths; got {x.size}.", "length_mm"
        )
    tried = [k] if k else [each for each in range(1, MAX_COHORTS + 1) if x.size >= 2 * each]
    rng = np.random.default_rng(seed)
    results = {each: _best(x, weight.astype(np.float64), each, spread, rng, start_means_mm) for each in tried}
    bics = {each: _bic(result, each, spread, lengths.size) for each, result in results.items()}
    chosen = min(bics, key=lambda each: bics[each])
    return _report(x, weight.astype(np.float64), results[chosen], chosen, spread, bics, level)


def _best(
    x: Floats, weight: Floats, k: int, spread: Spread, rng: np.random.Generator, given: Sequence[float] | None
) -> _Result:
    """The most likely end of several starts: quantiles first, then random fish."""
    if given is not None:
        starts = [np.sort(np.asarray(given, dtype=np.float64))]
    else:
        cumulative = np.cumsum(weight) / weight.sum()
        starts = [x[np.searchsorted(cumulative, (np.arange(k) + 0.5) / k).clip(max=x.size - 1)]]
        starts.append(np.linspace(x[0], x[-1], k + 2)[1:-1])
        starts += [np.sort(rng.choice(x, k, replace=False)) for _ in range(STARTS if k > 1 else 0)]
    begun = [_em(x, weight, _initial(x, weight, means), spread, SHORT_STEPS) for means in starts]
    best = max(begun, key=lambda each: each.log_likelihood)
    return best if best.converged else _em(x, weight, best.mixture, spread, MAX_STEPS)


def _initial(x: Floats, weight: Floats, means: Floats) -> _Mixture:
    k = means.size
    mean = np.average(x, weights=weight)
    whole = math.sqrt(np.average((x - mean) ** 2, weights=weight))
    gaps = np.diff(np.sort(means))
    sd = max(NARROWEST_MM, whole if k == 1 else min(whole, float(np.median(gaps)) / 2))
    return _Mixture(means, np.full(k, sd), np.full(k, 1 / k))


def _em(x: Floats, weight: Floats, mixture: _Mixture, spread: Spread, most_steps: int) -> _Result:
    before = -math.inf
    for step in range(1, most_steps + 1):
        density = _weighted_density(x, mixture)
        # far from every cohort the density is 0 in floating point; the nearest one then takes the fish
        total = np.maximum(density.sum(axis=0), 1e-300)
        now = float(weight @ np.log(total))
        if abs(now - before) <= TOLERANCE * (1 + abs(now)):
            return _Result(mixture, now, step, True)
        before = now
        belongs = density / total * weight
        mixture = _maximise(x, belongs, mixture, spread)
    return _Result(mixture, before, most_steps, False)


def _maximise(x: Floats, belongs: Floats, mixture: _Mixture, spread: Spread) -> _Mixture:
    """The M step; for constant CV the mean given the CV, then the CV given the means (each has a closed form)."""
    each = np.maximum(belongs.sum(axis=1), 1e-12)
    first = belongs @ x / each
    second = belongs @ x**2 / each
    shares = each / each.sum()
    if spread == "constant_cv":
        cv2 = float(np.mean((mixture.sds / mixture.means) ** 2))
        means = (-first + np.sqrt(first**2 + 4 * cv2 * second)) / (2 * cv2)
        cv = math.sqrt(max(float(shares @ (second / means**2 - 2 * first / means + 1)), 1e-12))
        return _Mixture(means, np.maximum(cv * means, NARROWEST_MM), shares)
    variance = np.maximum(second - first**2, 0)
    if spread == "equal_sd":
        variance = np.full(each.size, float(shares @ variance))
    return _Mixture(first, np.maximum(np.sqrt(variance), NARROWEST_MM), shares)


def _weighted_density(x: Floats, mixture: _Mixture) -> Floats:
    z = (x[None, :] - mixture.means[:, None]) / mixture.sds[:, None]
    scale = mixture.shares / (mixture.sds * math.sqrt(2 * math.pi))
    return np.asarray(scale[:, None] * np.exp(-0.5 * z**2))


def _parameters(k: int, spread: Spread) -> int:
    return (k - 1) + k + (k if spread == "free" else 1)


def _bic(result: _Result, k: int, spread: Spread, n: int) -> float:
    return -2 * result.log_likelihood + _parameters(k, spread) * math.log(n)


def _report(
    x: Floats, weight: Floats, result: _Result, k: int, spread: Spread, bics: dict[int, float], level: float
) -> CohortFit:
    order = np.argsort(result.mixture.means)
    mixture = _Mixture(result.mixture.means[order], result.mixture.sds[order], result.mixture.shares[order])
    n = int(weight.sum())
    separated = np.diff(mixture.means) > 2 * np.minimum(mixture.sds[:-1], mixture.sds[1:])
    half = float(special.ndtri(0.5 + level / 2))
    estimates = tuple(
        Estimate(
            float(mean), float(se), float(mean - half * se), float(mean + half * se), level, "normal", round(n * share)
        )
        for mean, se, share in zip(mixture.means, _mean_errors(x, weight, mixture, spread), mixture.shares, strict=True)
    )
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
        separated=separated,
        steps=result.steps,
        converged=result.converged,
        assumptions=_assumptions(mixture, separated, n, result.converged),
    )


def _mean_errors(x: Floats, weight: Floats, mixture: _Mixture, spread: Spread) -> Floats:
    """SE of the means from the empirical information: the sum of squared scores over the fish."""
    k = mixture.means.size
    density = _weighted_density(x, mixture)
    belongs = density / np.maximum(density.sum(axis=0), 1e-300)
    z = (x[None, :] - mixture.means[:, None]) / mixture.sds[:, None]
    by_mean = belongs * z / mixture.sds[:, None]
    by_sd = belongs * (z**2 - 1) / mixture.sds[:, None]
    by_share = (
        belongs[:-1] / mixture.shares[:-1, None] - belongs[-1] / mixture.shares[-1] if k > 1 else np.empty((0, x.size))
    )
    if spread == "equal_sd":
        by_sd = by_sd.sum(axis=0, keepdims=True)
    elif spread == "constant_cv":
        cv = float(np.mean(mixture.sds / mixture.means))
        by_mean = by_mean + cv * by_sd
        by_sd = (by_sd * mixture.means[:, None]).sum(axis=0, keepdims=True)
    scores = np.vstack([by_mean, by_sd, by_share])
    information = (scores * weight) @ scores.T
    covariance = np.linalg.pinv(information)
    return np.asarray(np.sqrt(np.maximum(np.diag(covariance)[:k], 0)))


def _assumptions(mixture: _Mixture, separated: NDArray[np.bool_], n: int, converged: bool) -> tuple[Assumption, ...]:
    close = [place for place, apart in enumerate(separated) if not apart]
    if close:
        named = "; ".join(f"{mixture.means[place]:.0f} and {mixture.means[place + 1]:.0f} mm" for place in close)
        apart = Assumption(
            "Cohorts stand apart", "doubtful", f"Closer than 2 SD, so no two modes can be seen: {named}."
        )
    else:
        apart = Assumption(
            "Cohorts stand apart", "holds", "All neighbours are further apart than twice the smaller SD."
        )
    smallest = float(mixture.shares.min()) * n
    return (
        apart,
        Assumption(
            "Enough fish in each cohort",
            "holds" if smallest >= FEW_FISH else "doubtful",
            f"The smallest holds about {smallest:.0f} fish; fewer than {FEW_FISH} say little.",
        ),
        Assumption("The fit has settled", "holds" if converged else "fails", "EM ran until the likelihood stood still."
                   if converged else f"EM had not settled after {MAX_STEPS} steps."),
        Assumption("Lengths within a cohort are normal", "not checked", "Uneven growth or gear that spares small fish skews them."),
    )  # fmt: skip
