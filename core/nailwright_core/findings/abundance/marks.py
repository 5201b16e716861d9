"""How many fish, from marks.

Chapman (1951), Univ. Calif. Publ. Stat. 1, 131-160; Bailey (1951), Biometrika 38, 293-306; Robson and Regier (1964), Trans.
Am. Fish. Soc. 93, 215-226. All from memory of these sources. Intervals: the distribution of the recaptures, inverted for N.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import exact_binomial
from nailwright_core.common.searching import first_not

ESTIMATORS = ("chapman", "bailey", "petersen")


INTERVALS = ("exact", "normal")


#: Fewer recaptures, or fewer marks times catch than this many times the population, leave a bias (Robson, Regier 1964).
FEW_RECAPTURES = 7


BIAS_PRODUCT = 4


@dataclass(frozen=True)
class MarkEstimate:
    """Fish in a closed water, from marks. ``n`` is the number of fish; ``n.n`` the recaptures behind it."""

    n: Estimate
    estimator: str
    assumptions: tuple[Assumption, ...]


def petersen(
    marked: int,
    caught: int,
    recaptured: int,
    estimator: str = "chapman",
    level: float = 0.95,
    interval: str = "exact",
) -> MarkEstimate:
    """Fish in a closed water from one marking and one catch.

    Args:
        marked: fish marked and alive at the second catch, M.
        caught: fish looked at in the second catch, C.
        recaptured: of them marked, R.
        estimator: "chapman", "bailey" (sampling with replacement) or "petersen" (M C / R).
        interval: "exact" inverts the distribution of R for N (hypergeometric; binomial with Bailey's form), covers at least
            ``level`` and has no upper end where R = 0 (``upper`` is inf); "normal" is the textbook's.

    Raises:
        CoreError: ``count_out_of_range``, ``level_out_of_range``, ``no_recaptures`` (petersen only), ``choice_unknown``.
    """
    check_level(level)
    _check_marks(marked, caught, recaptured)
    if estimator not in ESTIMATORS or interval not in INTERVALS:
        raise CoreError(
            "choice_unknown",
            f"Expected an estimator of {', '.join(ESTIMATORS)} and an interval of {', '.join(INTERVALS)}; got "
            f"'{estimator}', '{interval}'.",
            "estimator",
        )
    if estimator == "petersen" and recaptured == 0:
        raise CoreError(
            "no_recaptures", "With no recapture M C / R has no value; take Chapman's form, or catch more.", "recaptured"
        )
    value, variance = _ESTIMATES[estimator](marked, caught, recaptured)
    se = math.sqrt(variance) if recaptured else math.nan
    if interval == "normal":
        z = float(special.ndtri(0.5 + level / 2))
        low, high, how = max(value - z * se, float(marked + caught - recaptured)), value + z * se, "normal"
    elif estimator == "bailey":
        shares = exact_binomial(recaptured, caught, level)
        low, high = marked / shares[1], marked / shares[0] if recaptured else math.inf
        how = "exact binomial"
    else:
        low, high = (float(end) for end in chapman_intervals(marked, caught, recaptured, level))
        how = "exact hypergeometric"
    n = Estimate(value, se, min(low, value), max(high, value), level, f"{how}, {estimator}", recaptured)
    return MarkEstimate(n, estimator, _mark_assumptions(marked, caught, recaptured, n))


def chapman(marked: ArrayLike, caught: ArrayLike, recaptured: ArrayLike) -> Floats:
    """Chapman's estimate for many surveys at once, of the shape that the three arrays broadcast to.

    Args:
        marked: fish marked, one or many surveys.
        caught: fish caught, one or many surveys or occasions.
        recaptured: of those caught, fish with marks.
    """
    m, c, r = (np.asarray(values, dtype=float) for values in (marked, caught, recaptured))
    return np.asarray((m + 1) * (c + 1) / (r + 1) - 1, dtype=float)


def chapman_intervals(
    marked: ArrayLike, caught: ArrayLike, recaptured: ArrayLike, level: float = 0.95
) -> tuple[Floats, Floats]:
    """The exact intervals that ``petersen`` gives by default, for many surveys at once: lower and upper of one shape.

    The lowest N at which so few recaptures, and the highest at which so many, are not rarer than (1 - level) / 2.

    Args:
        marked: fish marked, one or many surveys.
        caught: fish caught, one or many surveys or occasions.
        recaptured: of those caught, fish with marks.
        level: of the interval, between 0 and 1.
    """
    surveys = np.stack(np.broadcast_arrays(*(np.asarray(each, dtype=float) for each in (marked, caught, recaptured))))
    different, place = np.unique(surveys.reshape(3, -1), axis=1, return_inverse=True)
    ends = np.empty((2, different.shape[1]))
    for design in np.unique(different[:2], axis=1).T:
        chosen = (different[:2] == design[:, None]).all(axis=0)
        ends[:, chosen] = _ends_of_one(float(design[0]), float(design[1]), different[2, chosen], level)
    low, high = ends[:, place.ravel()]
    return low.reshape(surveys.shape[1:]), high.reshape(surveys.shape[1:])


def _ends_of_one(m: float, c: float, recaptured: Floats, level: float) -> Floats:
    """Lower and upper ends of one design, shape (2, n); those found before are known."""
    known = _known(m, c, level)
    r = np.array([each for each in recaptured if each not in known])
    if r.size:
        tail = (1 - level) / 2 * (1 - 1e-9)  # a chance that is just that is not rarer
        alive = m + c - r  # so many different fish were in hand
        low = first_not(lambda n: scipy.stats.hypergeom.cdf(r, n, m, c) < tail, alive)
        beyond = first_not(lambda n: (scipy.stats.hypergeom.sf(r - 1, n, m, c) >= tail) & (r > 0), alive)
        high = np.where(r > 0, np.maximum(beyond - 1, low), np.inf)
        known.update(zip(r.tolist(), zip(low.tolist(), high.tolist(), strict=True), strict=True))
    return np.array([known[each] for each in recaptured]).T


@lru_cache(maxsize=256)
def _known(m: float, c: float, level: float) -> dict[float, tuple[float, float]]:
    """Ends by recaptures, filled as they are asked for: a rehearsal asks for the same few a thousand times."""
    return {}


def repeated_catches(
    marked: int, caught: Sequence[int], recaptured: ArrayLike, level: float = 0.95
) -> tuple[Floats, Floats, Floats]:
    """N and its interval from several catches that look for one lot of marks, for many surveys of one design.

    A fish may be met in several catches, so their sum is no sample without replacement: the recaptures of all catches
    together are a sum of hypergeometric numbers, whose distribution is inverted for N. N itself is Bailey's form of the sum.

    Args:
        marked: marks at large in every catch.
        caught: fish looked at in each catch.
        recaptured: of all catches together, shape (surveys,).

    Returns:
        Value, lower, upper, each of shape (surveys,); no upper end (inf) where nothing was met again.

    Raises:
        CoreError: ``count_out_of_range``, ``level_out_of_range``.
    """
    check_level(level)
    r, catches = whole_counts(recaptured, "recaptured"), whole_counts(caught, "caught")
    whole_counts([marked], "marked")
    if marked < 1 or catches.size == 0 or (catches < 1).any():
        raise CoreError("count_out_of_range", "Marks and catches are needed: each is 1 or more.", "caught")
    if (r > np.minimum(catches, marked).sum()).any():
        raise CoreError("count_out_of_range", "More recaptures than the catches and marks allow.", "recaptured")
    value = marked * (catches.sum() + 1) / (r + 1)
    # rounded up, so that the same table serves the next surveys of the design
    most = int(min(1 << int(r.max()).bit_length(), np.minimum(catches, marked).sum())) if r.size else 0
    low, high = _ends_of_sum(marked, tuple(sorted(catches)), most, level)
    at = r.astype(int)
    return value, np.minimum(low[at], value), np.maximum(high[at], value)


@lru_cache(maxsize=64)
def _ends_of_sum(marked: int, catches: tuple[float, ...], most: int, level: float) -> tuple[Floats, Floats]:
    """Lower and upper ends for every number of recaptures from 0 to ``most``, each of shape (most + 1,).

    The chances are worked out for 400 numbers of fish, evenly on a log scale; between them the normal deviate of a chance is
    as good as a line in log N.
    """
    sizes, times = np.unique(np.array(catches), return_counts=True)
    tail = (1 - level) / 2
    least = max(float(marked), float(sizes.max()))
    numbers = np.geomspace(least, max(4 * marked * sum(catches) / tail, 2 * least), 400)
    at_most = np.array([_chances_of_sum(marked, sizes, times, n, most) for n in numbers])  # falls with r, rises with N
    fewer = np.concatenate([np.zeros((numbers.size, 1)), at_most[:, :-1]], axis=1)

    def crossing(chances: Floats, level: float) -> float:
        deviate = special.ndtri(np.clip(np.maximum.accumulate(chances), 1e-15, 1 - 1e-15))
        return float(np.exp(np.interp(special.ndtri(level), deviate, np.log(numbers))))

    low = np.array([crossing(chances, tail) for chances in at_most.T])
    high = np.array([crossing(chances, 1 - tail) for chances in fewer.T])
    high[0] = np.inf
    return low, high


def _chances_of_sum(marked: int, sizes: Floats, times: NDArray[Any], n: float, most: int) -> Floats:
    """Chance of at most 0, 1, ... ``most`` recaptures among ``n`` fish, in so many catches of each size together."""
    fish = round(n)
    share = marked / fish
    mean = float(sizes @ times) * share
    spread = math.sqrt(float((sizes * times * (fish - sizes)).sum()) * share * (1 - share) / max(fish - 1, 1))
    r = np.arange(most + 1)
    if spread == 0:
        return np.asarray(r >= mean, dtype=float)
    if mean > 400 or most > 8192:  # the sum of so many is as good as normal
        return np.asarray(special.ndtr((r + 0.5 - mean) / spread))
    size = 1 << (2 * int(max(most, mean + 12 * spread) + 20)).bit_length()
    told = np.ones(size // 2 + 1, dtype=complex)
    for catch, again in zip(sizes, times, strict=True):
        told *= np.fft.rfft(_hypergeometric(fish, marked, catch), size) ** int(again)
    return np.cumsum(np.fft.irfft(told, size)[: most + 1])


def _hypergeometric(fish: int, marked: int, caught: float) -> Floats:
    """Chances of 0, 1, ... marks in a catch; those so far up that they are nothing are left out."""
    mean = caught * marked / fish
    r = np.arange(int(min(marked, caught, mean + 12 * math.sqrt(mean) + 20)) + 1)
    possible = fish - marked - caught + r >= 0
    plain = np.where(possible, fish - marked - caught + r, 0)
    log = (
        _log_choose(marked, r)
        + special.gammaln(fish - marked + 1) - special.gammaln(caught - r + 1) - special.gammaln(plain + 1)
        - _log_choose(fish, caught)
    )  # fmt: skip
    return np.where(possible, np.exp(log), 0.0)


def _log_choose(n: float, k: Any) -> Any:
    return special.gammaln(n + 1) - special.gammaln(k + 1) - special.gammaln(n - k + 1)


def _petersen(m: float, c: float, r: float) -> tuple[float, float]:
    return m * c / r, m * m * c * (c - r) / r**3


def _chapman(m: float, c: float, r: float) -> tuple[float, float]:
    return (m + 1) * (c + 1) / (r + 1) - 1, (m + 1) * (c + 1) * (m - r) * (c - r) / ((r + 1) ** 2 * (r + 2))


def _bailey(m: float, c: float, r: float) -> tuple[float, float]:
    return m * (c + 1) / (r + 1), m * m * (c + 1) * (c - r) / ((r + 1) ** 2 * (r + 2))


_ESTIMATES: dict[str, Callable[[float, float, float], tuple[float, float]]] = {
    "petersen": _petersen,
    "chapman": _chapman,
    "bailey": _bailey,
}


def _check_marks(marked: int, caught: int, recaptured: int) -> None:
    for name, value in (("marked", marked), ("caught", caught), ("recaptured", recaptured)):
        whole_counts([value], name)
    if marked < 1 or caught < 1:
        raise CoreError("count_out_of_range", "Marks and a second catch are needed: both are 1 or more.", "marked")
    if recaptured > min(marked, caught):
        raise CoreError(
            "count_out_of_range",
            f"{recaptured} recaptures cannot be among {marked} marks and {caught} fish caught; are they swapped?",
            "recaptured",
        )


def _mark_assumptions(marked: int, caught: int, recaptured: int, n: Estimate) -> tuple[Assumption, ...]:
    few = recaptured < FEW_RECAPTURES
    small = marked * caught < BIAS_PRODUCT * n.value
    factor = n.upper / n.lower
    wide = f"The interval spans a factor of {factor:.1f}. " if recaptured < 10 and math.isfinite(factor) else ""
    if recaptured == 0:
        wide = "Nothing marked was met again, so there is no upper limit. "
    return (
        Assumption(
            "Enough recaptures",
            "fails" if few or small else "holds",
            f"{recaptured} recaptures. {wide}"
            + (
                f"With fewer than {FEW_RECAPTURES}, or marks times catch under {BIAS_PRODUCT} times the population, the "
                "estimate is biased low."
                if few or small
                else "The bias is below one in fifty."
            ),
        ),
        Assumption(
            "Closed between the two catches",
            "not checked",
            "No births, deaths or moves; marks known to have died or left must be taken off.",
        ),
        Assumption("Marks are kept and seen", "not checked", "Double tags show how many are lost."),
        Assumption(
            "Every fish is as likely to be caught", "not checked", "Compare the share of marks by size, site and gear."
        ),
    )
