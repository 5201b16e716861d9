"""How often intervals hold the truth, by seeded simulation."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.fitting.maximum import Fit, maximise
from nailwright_core.fitting.model import Model

#: One made-up survey: the ends of its interval and the truth; None where it gave no answer.
Survey = Callable[[np.random.Generator], tuple[float, float, float] | None]


@dataclass(frozen=True)
class Coverage:
    """Of the surveys that gave an answer.

    Attributes:
        share: of intervals that held the truth; nan without an answer.
        below, above: share of those that lay wholly below the truth, and wholly above it.
        width: median of their widths; inf where most had an open end.
        answered, surveys: how many of so many gave one.
        error: standard error of ``share`` if its truth were ``level``.
    """

    share: float
    below: float
    above: float
    width: float
    answered: int
    surveys: int
    error: float

    @property
    def refused(self) -> float:
        """Share of surveys that gave no interval."""
        return 1 - self.answered / self.surveys


def coverage(survey: Survey, surveys: int, rng: np.random.Generator, level: float = 0.95) -> Coverage:
    """Repeat a made-up survey and count; one that is refused with its reason shows no interval and does not count.

    Args:
        survey: makes up one survey and gives (lower, upper, truth).
        surveys: how many.
    """
    ends = []
    for _ in range(surveys):
        try:
            found = survey(rng)
        except CoreError:
            continue
        if found is not None:
            ends.append(found)
    if not ends:
        return Coverage(math.nan, math.nan, math.nan, math.nan, 0, surveys, math.nan)
    low, high, truth = np.array(ends, dtype=np.float64).T
    below, above = float((high < truth).mean()), float((low > truth).mean())
    error = math.sqrt(level * (1 - level) / len(ends))
    return Coverage(1 - below - above, below, above, float(np.median(high - low)), len(ends), surveys, error)


def of_model(
    model: Model, values: ArrayLike, name: str, interval: Callable[[Fit, str, float], Estimate], level: float = 0.95
) -> Survey:
    """A survey for ``coverage``: data made up by a model at some values, fitted anew.

    Args:
        model: with ``simulate``. values: the truth, shape (parameters,). name: of the parameter that is looked at.
        interval: ``Fit.wald`` or ``profile_interval``.

    Raises:
        ValueError: where the model cannot be simulated.
    """
    simulate, truth = model.simulate, np.asarray(values, float)
    if simulate is None:
        raise ValueError(f"{model.name} has no simulate")
    at = float(truth[model.place(name)])

    def survey(rng: np.random.Generator) -> tuple[float, float, float]:
        found = interval(maximise(simulate(truth, rng)), name, level)
        return found.lower, found.upper, at

    return survey
