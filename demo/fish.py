"""Fish drawn from the truth, as a crew would write them down."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from demo.truth import TrueSpecies, condition_factor


@dataclass(frozen=True)
class Fish:
    """Caught fish of one species in one run, arrays of shape (n,): ``mass_g`` is nan where not weighed."""

    length_mm: NDArray[np.float64]
    mass_g: NDArray[np.float64]
    female: NDArray[np.bool_]


def catch(
    rng: np.random.Generator, kind: TrueSpecies, n: int, reach: str, year: int, day_of_year: int, weighed: float
) -> Fish:
    """``n`` fish the gear took: ages by year-class and survival, lengths by growth, kept by the gear's selectivity."""
    ages = np.arange(kind.max_age + 1)
    share = np.array([kind.strength(year - int(age)) * kind.survival**age for age in ages])
    lengths: list[NDArray[np.float64]] = []
    while sum(map(len, lengths)) < n:
        age = rng.choice(ages, size=8 * n + 50, p=share / share.sum())
        exact = age + max(0.0, (day_of_year - 130) / 365)  # hatched in May
        mean = kind.l_infinity * (1 - np.exp(-kind.k * (exact - kind.t_zero)))
        drawn = mean * (1 + kind.length_cv * rng.standard_normal(mean.size))
        taken = rng.random(mean.size) < 1 / (1 + np.exp(-kind.selected_slope * (drawn - kind.selected_at)))
        lengths.append(drawn[taken & (drawn > 40)])
    length = np.round(np.concatenate(lengths)[:n])
    log_mass = kind.log10_a + kind.b * np.log10(length) + kind.mass_sd * rng.standard_normal(n)
    mass = 10**log_mass * condition_factor(kind.code, reach, year)
    mass = np.where(mass >= 200, np.round(mass / 5) * 5, np.maximum(np.round(mass), 1))
    mass[rng.random(n) >= weighed] = np.nan
    return Fish(length, mass, rng.random(n) < 0.5)
