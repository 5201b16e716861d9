"""How many fish, from marks.

Chapman (1951), Univ. Calif. Publ. Stat. 1, 131-160; Bailey (1951), Biometrika 38, 293-306; choice of interval: Seber (1982),
The Estimation of Animal Abundance. All from memory of these sources.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import exact_binomial

ESTIMATORS = ("chapman", "bailey", "petersen")


INTERVALS = ("auto", "binomial", "poisson", "normal")


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
    interval: str = "auto",
) -> MarkEstimate:
    """Fish in a closed water from one marking and one catch.

    Args:
        marked: fish marked and alive at the second catch, M.
        caught: fish looked at in the second catch, C.
        recaptured: of them marked, R.
        estimator: "chapman", "bailey" (sampling with replacement) or "petersen" (M C / R).
        interval: "auto" takes the binomial where R/C > 0.1, else the normal where R > 50, else the Poisson (Seber 1982).

    Raises:
        CoreError: ``count_out_of_range``, ``no_recaptures`` (petersen only), ``choice_unknown``.
    """
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
    how = interval
    if how == "auto":
        how = "binomial" if recaptured > 0.1 * caught else "normal" if recaptured > 50 else "poisson"
    low, high = mark_interval(how, estimator, marked, caught, recaptured, value, se, level)
    alive = float(marked + caught - recaptured)  # so many different fish were in hand
    n = Estimate(value, se, max(low, alive), high, level, f"{how}, {estimator}", recaptured)
    return MarkEstimate(n, estimator, _mark_assumptions(marked, caught, recaptured, n))


def chapman(marked: ArrayLike, caught: ArrayLike, recaptured: ArrayLike) -> NDArray[np.float64]:
    """Chapman's estimate for many surveys at once, of the shape that the three arrays broadcast to."""
    m, c, r = (np.asarray(values, dtype=float) for values in (marked, caught, recaptured))
    return np.asarray((m + 1) * (c + 1) / (r + 1) - 1, dtype=float)


def chapman_intervals(
    marked: ArrayLike, caught: ArrayLike, recaptured: ArrayLike, level: float = 0.95
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """The intervals that ``petersen`` gives by default, for many surveys at once: lower and upper of one shape."""
    m, c, r = np.broadcast_arrays(*(np.asarray(values, dtype=float) for values in (marked, caught, recaptured)))
    tail = (1 - level) / 2
    with np.errstate(divide="ignore", invalid="ignore"):
        share_low = np.where(r > 0, special.betaincinv(r, c - r + 1, tail), 0.0)
        share_high = np.where(r < c, special.betaincinv(r + 1, np.maximum(c - r, 0), 1 - tail), 1.0)
        few = np.where(r > 0, special.gammaincinv(np.maximum(r, 1), tail), 0.0), special.gammaincinv(r + 1, 1 - tail)
        half = special.ndtri(1 - tail) * np.sqrt((m + 1) * (c + 1) * (m - r) * (c - r) / ((r + 1) ** 2 * (r + 2)))
    value = chapman(m, c, r)
    binomial = r > 0.1 * c
    normal = ~binomial & (r > 50)
    low = np.where(binomial, chapman(m, c, c * share_high), np.where(normal, value - half, chapman(m, c, few[1])))
    high = np.where(binomial, chapman(m, c, c * share_low), np.where(normal, value + half, chapman(m, c, few[0])))
    return np.maximum(low, m + c - r), high


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


def mark_interval(
    how: str, estimator: str, m: int, c: int, r: int, value: float, se: float, level: float
) -> tuple[float, float]:
    """Ends for N: those for R put into the estimator; the normal is symmetric about N."""
    if how == "normal":
        z = float(special.ndtri(0.5 + level / 2))
        return value - z * se, value + z * se
    if how == "binomial":
        low_r, high_r = (c * share for share in exact_binomial(r, c, level))
    else:
        low_r, high_r = poisson(r, level)
    form = _ESTIMATES[estimator]
    return form(m, c, high_r)[0], (form(m, c, low_r)[0] if low_r > 0 or estimator != "petersen" else math.inf)


def poisson(k: int, level: float) -> tuple[float, float]:
    """Exact interval for a Poisson mean (Garwood 1936)."""
    tail = (1 - level) / 2
    return (float(special.gammaincinv(k, tail)) if k else 0.0), float(special.gammaincinv(k + 1, 1 - tail))


def inverted(inverse: float, half: float) -> tuple[float, float]:
    """Ends of an interval for N from one for 1/N, its middle and half width; no upper end where that reaches 0."""
    return 1 / (inverse + half), 1 / (inverse - half) if inverse > half else math.inf


def _check_marks(marked: int, caught: int, recaptured: int) -> None:
    for name, value in (("marked", marked), ("caught", caught), ("recaptured", recaptured)):
        if value < 0 or value != int(value):
            raise CoreError("count_out_of_range", f"Expected a whole number of fish, 0 or more; got {value}.", name)
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
    wide = f"It spans a factor of {factor:.1f}: " if recaptured < 10 and math.isfinite(factor) else ""
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
