"""Several tests at once."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray


def holm(p: ArrayLike) -> NDArray[np.float64]:
    """p values corrected for their number, shape (m,), in the order given (Holm 1979, Scand. J. Stat. 6, 65-70).

    Those that could not be had (nan) stay so and do not count.

    Args:
        p: p values, shape (m,).
    """
    given = np.asarray(p, dtype=np.float64)
    known = ~np.isnan(given)
    values = given[known]
    order = np.argsort(values)
    steps = values[order] * np.arange(values.size, 0, -1)
    corrected = np.empty_like(values)
    corrected[order] = np.minimum(np.maximum.accumulate(steps), 1)
    found = np.full(given.shape, np.nan)
    found[known] = corrected
    return found
