"""From who was met when to histories and their m-array.

Lebreton, Burnham, Clobert and Anderson (1992), Ecol. Monogr. 62, 67-118, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.errors import CoreError

Counts = NDArray[np.int64]


@dataclass(frozen=True)
class MArray:
    """Of the fish let go at each occasion, how many were next met at which.

    Attributes:
        released: at occasions 1 to s - 1, shape (s - 1,); a fish that was met and did not go back is not among them.
        recaptured: shape (s - 1, s - 1); row: let go at, column: next met at the occasion after.
    """

    released: Counts
    recaptured: Counts

    @property
    def never_again(self) -> Counts:
        """Of each release those that were not met again, shape (s - 1,)."""
        return np.asarray(self.released - self.recaptured.sum(axis=1))


def histories(fish: ArrayLike, occasion: ArrayLike, occasions: int) -> tuple[NDArray[np.generic], Counts]:
    """Each fish's history of 0 and 1.

    Args:
        fish: whose encounter it is, labels, shape (m,). occasion: its place in the order of occasions, from 0, shape (m,).
        occasions: how many there were, those at which no fish was met among them.

    Returns:
        Labels of the fish, shape (n,), and histories, shape (n, occasions).

    Raises:
        CoreError: ``occasion_unknown`` where a place is not among the occasions.
    """
    at = np.asarray(occasion, dtype=np.int64)
    if at.size and (at.min() < 0 or at.max() >= occasions):
        raise CoreError("occasion_unknown", f"Expected occasions 0 to {occasions - 1}; got {at.min()} to {at.max()}.")
    labels, whose = np.unique(np.asarray(fish), return_inverse=True)
    x = np.zeros((labels.size, occasions), dtype=np.int64)
    x[whose.ravel(), at] = 1
    return labels, x


def from_histories(x: ArrayLike, lost: ArrayLike | None = None) -> MArray:
    """The m-array of histories.

    Args:
        x: 0 and 1, shape (n, s). lost: whether the fish did not go back after its last encounter, shape (n,); none where None.

    Raises:
        CoreError: ``occasions_too_few`` with fewer than two, ``history_unreadable`` where a cell is neither 0 nor 1.
    """
    seen = np.asarray(x, dtype=np.int64)
    if seen.ndim != 2 or seen.shape[1] < 2:
        raise CoreError("occasions_too_few", "Expected histories of two occasions or more.", "x")
    if not np.isin(seen, (0, 1)).all():
        raise CoreError("history_unreadable", "Expected 0 or 1 at every occasion of a history.", "x")
    n, s = seen.shape
    gone = np.zeros(n, dtype=bool) if lost is None else np.asarray(lost, dtype=bool)
    released = np.zeros(s - 1, dtype=np.int64)
    recaptured = np.zeros((s - 1, s - 1), dtype=np.int64)
    next_met = np.full(n, -1)
    for at in range(s - 1, -1, -1):
        here = seen[:, at] == 1
        if at < s - 1:
            back = here & ((next_met >= 0) | ~gone)
            released[at] = back.sum()
            again = next_met[here & (next_met >= 0)]
            np.add.at(recaptured[at], again - 1, 1)
        next_met = np.where(here, at, next_met)
    return MArray(released, recaptured)
