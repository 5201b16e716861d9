"""Several tests at once."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray


def holm(p: ArrayLike) -> NDArray[np.float64]:
    """p values corrected for their number, shape (m,), in the order given (Holm 1979, Scand. J. Stat. 6, 65-70)."""
    values = np.asarray(p, dtype=np.float64)
    order = np.argsort(values)
    steps = values[order] * np.arange(values.size, 0, -1)
    corrected = np.empty_like(values)
    corrected[order] = np.minimum(np.maximum.accumulate(steps), 1)
    return corrected
