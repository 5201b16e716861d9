"""Which of several models, by what they explain and what they cost.

AICc: Sugiura (1978), Commun. Stat. A 7, 13-26; Hurvich and Tsai (1989), Biometrika 76, 297-307. Weights: Buckland, Burnham and
Augustin (1997), Biometrics 53, 603-618. BIC: Schwarz (1978), Ann. Stat. 6, 461-464. All from memory.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.fitting.maximum import Fit


def aicc(log_likelihood: float, parameters: int, n: int) -> float:
    """AIC with its correction for few observations; inf where there are too few for so many parameters.

    Args:
        log_likelihood: at the maximum.
        parameters: number of parameters that were fitted.
        n: number of observations.
    """
    if n - parameters - 1 <= 0:
        return math.inf
    return -2 * log_likelihood + 2 * parameters + 2 * parameters * (parameters + 1) / (n - parameters - 1)


def bic(log_likelihood: float, parameters: int, n: int) -> float:
    """Schwarz's criterion.

    Args:
        log_likelihood: at the maximum.
        parameters: number of parameters that were fitted.
        n: number of observations.
    """
    return -2 * log_likelihood + parameters * math.log(n)


def weights(values: ArrayLike) -> Floats:
    """Weight of each of several models of the same data by its AIC or AICc, adding to 1.

    Args:
        values: of each model, shape (m,); inf for one that has none; where none has one all weights are nan.
    """
    told = np.asarray(values, dtype=np.float64)
    if np.isinf(told.min()):
        return np.full(told.shape, np.nan)
    raw = np.exp(-(told - told.min()) / 2)
    return np.asarray(raw / raw.sum())


@dataclass(frozen=True)
class ModelRow:
    """One model in the table.

    Attributes:
        delta: AICc less that of the best. weight: of the model among these, adding to 1.
    """

    name: str
    parameters: int
    log_likelihood: float
    aicc: float
    delta: float
    weight: float


def model_table(fits: Sequence[Fit]) -> tuple[ModelRow, ...]:
    """Models of the same data, the best first.

    Args:
        fits: of models of the same data.

    Raises:
        CoreError: ``models_unlike`` unless all count the same observations; ``too_few_observations`` where none can be told.
    """
    if len({each.model.n for each in fits}) != 1:
        raise CoreError("models_unlike", "Expected models of the same observations; their numbers differ.")
    values = np.array([aicc(each.log_likelihood, each.parameters, each.model.n) for each in fits])
    best = float(values.min())
    if math.isinf(best):
        raise CoreError("too_few_observations", f"{fits[0].model.n} observations are too few for any of these models.")
    rows = [
        ModelRow(
            each.model.name, each.parameters, each.log_likelihood, float(value), float(value) - best, float(weight)
        )
        for each, value, weight in zip(fits, values, weights(values), strict=True)
    ]
    return tuple(sorted(rows, key=lambda row: row.delta))
