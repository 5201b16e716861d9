"""How the spread of residuals about a line changes along it.

Fish of one length differ in mass more where some have spawned or fed and others have not, so the spread on the logarithm is not
the same at every length; a mean mass is 10^(s^2 ln 10 / 2) times the median, with the spread at its own length. log s^2 is a line
too, fitted by maximum likelihood (Harvey 1976, Econometrica 44, 461-465, from memory), with the sandwich form of its variance,
which bears residuals that are not normal. Where the same spread at every length is not refuted, it is taken.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.arrays import Floats

#: With fewer fish the spread is told for all lengths together.
FEWEST_FISH = 30
#: Of more, every so manieth tells it: 20,000 fish know a standard deviation to half a per cent.
_ENOUGH = 20_000
_STEPS = 25
#: Standard errors from which on a spread that is the same everywhere is refuted (p of 0.05).
_REFUTES = 1.96


@dataclass(frozen=True)
class Spread:
    """Variance of residuals at x: log of it is ``at`` + ``slope`` (x - ``middle``).

    Attributes:
        covariance: of ``at`` and ``slope``, shape (2, 2).
    """

    at: float
    slope: float
    middle: float
    covariance: Floats

    def variance(self, x: ArrayLike) -> Floats:
        """At each x, of any shape."""
        return np.exp(self.at + self.slope * (np.asarray(x, dtype=np.float64) - self.middle))

    def variance_of_variance(self, x: ArrayLike) -> Floats:
        """How sure that is, at each x."""
        off = np.asarray(x, dtype=np.float64) - self.middle
        part = np.stack([np.ones_like(off), off], axis=-1)
        return np.asarray(self.variance(x) ** 2 * np.einsum("...i,ij,...j->...", part, self.covariance, part))


def spread_along(x: Floats, residual: Floats) -> Spread:
    """The spread of residuals of a straight line, which took two degrees of freedom.

    Args:
        x, residual: shape (n,).
    """
    n, middle = x.size, float(x.mean())
    whole = max(float(residual @ residual) / max(n - 2, 1), 1e-300)
    alike = Spread(math.log(whole), 0.0, middle, np.diag([2 / max(n - 2, 1), 0.0]))
    every = slice(None, None, max(1, n // _ENOUGH))
    off, squares = x[every] - middle, residual[every] ** 2
    if n < FEWEST_FISH or whole <= 1e-18 or np.ptp(off) < 1e-6:
        return alike
    design = np.column_stack([np.ones_like(off), off])
    bread = np.linalg.inv(design.T @ design)
    at = np.array([math.log(whole * (n - 2) / n), 0.0])
    for _ in range(_STEPS):
        share = squares * np.exp(-(design @ at))
        step = bread @ (design.T @ (share - 1))
        at = at + np.clip(step, -2, 2)
        if np.abs(step).max() < 1e-9:
            break
    else:
        return alike  # it does not settle: residuals that are nearly all 0
    off_share = squares * np.exp(-(design @ at)) - 1
    covariance = bread @ (design.T @ (design * (off_share * off_share)[:, None])) @ bread
    if abs(at[1]) <= _REFUTES * math.sqrt(max(float(covariance[1, 1]), 0.0)):
        return alike
    return Spread(float(at[0]) + math.log(n / (n - 2)), float(at[1]), middle, covariance)
