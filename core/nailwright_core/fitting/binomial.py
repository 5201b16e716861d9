"""Binomial regression on the logit scale with an offset, by Newton's steps."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike
from scipy import special

from nailwright_core.common.arrays import Floats

_STEPS = 60


@dataclass(frozen=True)
class BinomialFit:
    """Coefficients with their information (the inverse of their covariance) and the log likelihood."""

    coefficients: Floats
    information: Floats
    log_likelihood: float


def fit_binomial(design: ArrayLike, hit: ArrayLike, offset: float = 0.0) -> BinomialFit:
    """Of each row whether it was a hit, on the columns of a design.

    Args:
        design: shape (n, columns). hit: 0 or 1, shape (n,). offset: added to every logit.

    Source: iteratively reweighted least squares (Nelder and Wedderburn 1972, J. R. Stat. Soc. A 135, 370-384, from memory);
    checked against statsmodels.
    """
    rows, values = np.asarray(design, float), np.asarray(hit, float)
    beta = np.zeros(rows.shape[1])
    information = np.eye(beta.size)
    for _ in range(_STEPS):
        p = special.expit(offset + rows @ beta)
        information = (rows * (p * (1 - p))[:, None]).T @ rows
        step = np.linalg.lstsq(information, rows.T @ (values - p), rcond=None)[0]
        beta = beta + np.clip(step, -4, 4)
        if np.abs(step).max() < 1e-10:
            break
    at = offset + rows @ beta
    return BinomialFit(beta, information, float(values @ at - np.logaddexp(0, at).sum()))
