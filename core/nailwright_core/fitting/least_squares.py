"""Least squares with its t intervals, for a straight line and for a line in several figures at once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate


@dataclass(frozen=True)
class LeastSquares:
    """A fit of y on the columns of a design.

    Attributes:
        params: one for each column. covariance: of the params.
        residual_sd: in the unit of y. df: rows less columns. n: rows. interval: its name.
    """

    params: Floats
    covariance: Floats
    residual_sd: float
    df: int
    n: int
    interval: str = "t, least squares"

    def estimate(self, place: int, level: float = 0.95) -> Estimate:
        """The param of one column with its t interval."""
        value, se = float(self.params[place]), float(np.sqrt(self.covariance[place, place]))
        reach = float(scipy.stats.t.ppf((1 + level) / 2, self.df)) * se
        return Estimate(value, se, value - reach, value + reach, level, self.interval, self.n)

    def mean_at(self, design: ArrayLike, level: float = 0.95) -> tuple[Floats, Floats, Floats]:
        """Mean of y at each row of a design of shape (m, columns), with the ends of its t interval."""
        rows = np.atleast_2d(np.asarray(design, float))
        mean = rows @ self.params
        reach = scipy.stats.t.ppf((1 + level) / 2, self.df) * np.sqrt(
            np.einsum("ij,jk,ik->i", rows, self.covariance, rows)
        )
        return mean, mean - reach, mean + reach


def least_squares(design: ArrayLike, y: ArrayLike) -> LeastSquares:
    """Fit y on the columns of a design.

    Args:
        design: shape (n, columns), a column of ones among them where there is an intercept. y: shape (n,).

    Raises:
        CoreError: ``too_few_rows`` unless there are more rows than columns; ``columns_alike`` where a column follows from others.

    Source: textbook least squares; checked against statsmodels.
    """
    rows, values = np.asarray(design, float), np.asarray(y, float)
    n, columns = rows.shape
    if n <= columns:
        raise CoreError("too_few_rows", f"Expected more than {columns} observations; got {n}.")
    params, _, rank, _ = np.linalg.lstsq(rows, values, rcond=None)
    if rank < columns:
        raise CoreError("columns_alike", "Expected figures of which none follows from the others.")
    variance = float(np.sum((values - rows @ params) ** 2)) / (n - columns)
    covariance = variance * np.linalg.inv(rows.T @ rows)
    return LeastSquares(params, covariance, float(np.sqrt(variance)), n - columns, n)
