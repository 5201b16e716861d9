"""How much is enough: fish for a precision, marks and catch for an accuracy.

Robson and Regier (1964), Trans. Am. Fish. Soc. 93, 215-226, for marks and catch; proportions and means by the normal
approximation with the finite correction left out. From memory of these sources.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.checks import check_level, finite, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import SizeCategories
from nailwright_core.findings.size_structure import proportional_size_distribution

#: Accuracy in Robson and Regier's words, as a share of N: preliminary, management, research.
ACCURACIES = {"preliminary": 0.50, "management": 0.25, "research": 0.10}


def fish_for_proportion(share: float, half_width: float, level: float = 0.95) -> int:
    """Fish to measure so that a proportion (a PSD / 100) has an interval of +- ``half_width``.

    Args:
        share: share that is expected.
        half_width: of the interval that is wanted.
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: ``share_out_of_range``, ``width_out_of_range``.
    """
    check_level(level)
    if not 0 < share < 1:
        raise CoreError("share_out_of_range", f"Expected a share between 0 and 1; got {share:g}.", "share")
    if not 1e-6 <= half_width < 0.5:
        raise CoreError(
            "width_out_of_range",
            f"Expected a half width from 0.000001 to below 0.5; got {half_width:g}.",
            "half_width",
        )
    z = float(special.ndtri(0.5 + level / 2))
    return math.ceil(z * z * share * (1 - share) / half_width**2 - 1e-9)


def fish_for_mean(sd: float, half_width: float, level: float = 0.95) -> int:
    """Fish to measure so that a mean has an interval of +- ``half_width``, by Student's t.

    Args:
        sd: standard deviation that is expected.
        half_width: of the interval that is wanted.
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: ``sd_out_of_range``, ``width_out_of_range``.
    """
    check_level(level)
    finite(sd, "sd"), finite(half_width, "half_width")
    if not sd > 0:
        raise CoreError("sd_out_of_range", f"Expected an SD above 0; got {sd:g}.", "sd")
    if not half_width >= 1e-6:
        raise CoreError(
            "width_out_of_range", f"Expected a half width of 0.000001 or more; got {half_width:g}.", "half_width"
        )
    n = max(2, math.ceil((float(special.ndtri(0.5 + level / 2)) * sd / half_width) ** 2))
    if n > 10_000_000:
        raise CoreError("width_out_of_range", f"It would take {n:,} fish; ask for a wider interval.", "half_width")
    while scipy.stats.t.ppf(0.5 + level / 2, n - 1) * sd / math.sqrt(n) > half_width:
        n += 1
    return n


@dataclass(frozen=True)
class LengthsBefore:
    """What past lengths say before a survey: n, mean and SD (mm; nan below two fish), PSD as a share or None."""

    n: int
    mean_mm: float
    sd_mm: float
    psd: float | None


def lengths_before(length_mm: ArrayLike, categories: SizeCategories | None) -> LengthsBefore:
    """Summary of past lengths, shape (n,), mm, of one length type.

    Args:
        length_mm: length of the fish, mm.
        categories: of the species; None where it has none.
    """
    data = np.asarray(length_mm, dtype=float)
    if data.size < 2:
        return LengthsBefore(int(data.size), math.nan, math.nan, None)
    psd = None
    if categories is not None and (data >= categories.stock).any():
        psd = proportional_size_distribution(data, categories).psd.value / 100
    return LengthsBefore(int(data.size), float(data.mean()), float(data.std(ddof=1)), psd)


def fish_for_difference(share_a: float, share_b: float, power: float = 0.8, level: float = 0.95) -> int:
    """Fish in each of two samples so that the difference of two proportions is seen with the wanted power.

    By Cohen's arcsine effect (Cohen 1988).

    Args:
        share_a: share in the one group.
        share_b: share in the other group.
        power: chance to see it.
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: ``share_out_of_range``, ``no_difference``.
    """
    check_level(level)
    finite(power, "power", 0.01, 0.999)
    for name, share in (("share_a", share_a), ("share_b", share_b)):
        if not 0 < share < 1:
            raise CoreError("share_out_of_range", f"Expected a share between 0 and 1; got {share:g}.", name)
    effect = 2 * abs(math.asin(math.sqrt(share_a)) - math.asin(math.sqrt(share_b)))
    if effect < 1e-6:
        raise CoreError("no_difference", "Two equal shares differ by nothing; no sample shows it.", "share_b")
    z = float(special.ndtri(0.5 + level / 2) + special.ndtri(power))
    return math.ceil(2 * (z / effect) ** 2 - 1e-9)


@dataclass(frozen=True)
class MarksNeeded:
    """Curves of equal accuracy: for each number of marks (k,) the catch needed (k,), nan where none suffices."""

    marks: NDArray[np.float64]
    catch: NDArray[np.float64]
    accuracy: float


def catch_for_marks(population: float, marks: ArrayLike, accuracy: float, level: float = 0.95) -> MarksNeeded:
    """The catch with which Petersen's estimate is within ``accuracy`` of N with probability ``level``.

    Args:
        population: how many fish there may be.
        marks: numbers of marks to look at, shape (k,).
        accuracy: share of N, 0.25 for a quarter.

    The recaptures are normal with the hypergeometric's mean and variance, as Robson and Regier take them; N is judged on
    both sides, N / (1 +- accuracy).

    Raises:
        CoreError: ``population_out_of_range``, ``accuracy_out_of_range``.
    """
    if not population >= 10:
        raise CoreError(
            "population_out_of_range", f"Expected a population of 10 or more; got {population:g}.", "population"
        )
    if not 0 < accuracy < 1:
        raise CoreError("accuracy_out_of_range", f"Expected an accuracy between 0 and 1; got {accuracy:g}.", "accuracy")
    check_level(level)
    finite(population, "population")
    m = numbers(marks, "marks")
    low, high = np.ones_like(m), np.full_like(m, float(population))
    enough = _within(population, m, high, accuracy) >= level
    for _ in range(60):
        middle = (low + high) / 2
        good = _within(population, m, middle, accuracy) >= level
        low, high = np.where(good, low, middle), np.where(good, middle, high)
    usable = enough & (m >= 1) & (m <= population)
    return MarksNeeded(m, np.where(usable, np.ceil(high), np.nan), accuracy)


def _within(
    population: float, marks: NDArray[np.float64], catch: NDArray[np.float64], accuracy: float
) -> NDArray[np.float64]:
    """Chance that the estimate lies within ``accuracy`` of the truth."""
    share = marks / population
    mean = catch * share
    variance = mean * (1 - share) * np.maximum(population - catch, 0) / max(population - 1, 1)
    with np.errstate(divide="ignore", invalid="ignore"):
        sd = np.sqrt(variance)
        few = (mean / (1 + accuracy) - mean) / sd
        many = (mean / (1 - accuracy) - mean) / sd
        chance = special.ndtr(many) - special.ndtr(few)
    return np.where(sd > 0, chance, np.where(mean > 0, 1.0, 0.0))


def fish_to_tell_mortality(low: float, high: float, power: float = 0.8, level: float = 0.95) -> int:
    """Fish to handle so that a death rate of ``low`` is told from one of ``high`` (5 % from 15 %), one-sided, exact binomial.

    The smallest n at which some number of deaths is unlikely (below 1 - level) under ``low`` and reached with the wanted
    power under ``high``, and stays so for larger n.

    Args:
        low: death rate that is hoped for, 0 to 1.
        high: death rate that must not be missed, 0 to 1.
        power: chance of telling them apart.
        level: one less the chance of a false alarm.

    Raises:
        CoreError: ``share_out_of_range``.
    """
    if not 0 < low < high < 1:
        raise CoreError(
            "share_out_of_range", f"Expected two rates with 0 < low < high < 1; got {low:g} and {high:g}.", "low"
        )
    check_level(level)
    finite(power, "power", 0.01, 0.999)
    most = 1000
    while most <= 128_000:
        n = np.arange(1, most + 1)
        cut = scipy.stats.binom.ppf(level, n, low) + 1
        fails = np.flatnonzero(scipy.stats.binom.sf(cut - 1, n, high) < power)
        # the power goes up and down with every step of the cut, and up on the whole: with as many again it stays up
        if fails.size and n[fails[-1]] * 2 < most:
            return int(n[fails[-1]]) + 1
        most *= 2
    raise CoreError(
        "share_out_of_range", "The two rates are too alike: more than 100,000 fish would be needed.", "high"
    )
