"""The day's ledger: what came aboard, how it left, and what the deaths say with their uncertainty."""

from __future__ import annotations

from dataclasses import dataclass

from nailwright_core.common.errors import CoreError
from nailwright_core.common.intervals import exact_binomial

LEVEL = 0.95


@dataclass(frozen=True)
class Deaths:
    """Deaths among fish that came aboard: ``share`` of 1, and ``upper``, the highest true rate that so few still allow.

    The limit is one-sided and exact binomial (Clopper and Pearson 1934) at 95 %, for none as for some: with none of n it is 1 - 0.05^(1/n),
    about 3/n. Each fish counts for itself: fish of one batch may share their fate, and then it is too low.
    """

    dead: int
    n: int
    share: float
    upper: float

    def line(self) -> str:
        """In words, for whoever asks."""
        if self.dead == 0:
            return f"None of {self.n:,} died; true rate up to {_percent(self.upper)} (95 %)."
        return (
            f"{self.dead:,} of {self.n:,} died: {_percent(self.share)}; true rate up to {_percent(self.upper)} (95 %)."
        )


def deaths_among(dead: int, n: int) -> Deaths:
    """What so many deaths among n fish say.

    Args:
        dead: fish that died.
        n: fish that came aboard.

    Raises:
        CoreError: ``counts_wrong`` where none came aboard, or more died than came.
    """
    if not 0 <= dead <= n or n == 0:
        raise CoreError("counts_wrong", f"Expected 0 to n deaths among one fish or more; got {dead} of {n}.", "dead")
    return Deaths(dead, n, dead / n, exact_binomial(dead, n, 2 * LEVEL - 1)[1])


def _percent(share: float) -> str:
    return f"{100 * share:.1f} %"
