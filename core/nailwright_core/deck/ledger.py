"""The day's ledger: what came aboard, how it left, and what the deaths say with their uncertainty."""

from __future__ import annotations

from dataclasses import dataclass

from nailwright_core.common.errors import CoreError
from nailwright_core.common.intervals import exact_binomial
from nailwright_core.deck.handling import zero_deaths_upper

LEVEL = 0.95


@dataclass(frozen=True)
class Deaths:
    """Deaths among fish that came aboard: ``share`` with ``lower`` and ``upper``, each of 1.

    With none of n the upper end is one-sided, 1 - 0.05^(1/n), about 3/n; else the interval is exact binomial (Clopper and
    Pearson 1934) at 95 %. Each fish counts for itself: fish of one batch may share their fate, and then it is too narrow.
    """

    dead: int
    n: int
    share: float
    lower: float
    upper: float

    def line(self) -> str:
        """In words, for whoever asks."""
        if self.dead == 0:
            return f"None of {self.n:,} died; true rate up to {_percent(self.upper)} (95 %)."
        return f"{self.dead:,} of {self.n:,} died: {_percent(self.share)} ({_percent(self.lower)} to {_percent(self.upper)}, 95 %)."


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
    if dead == 0:
        return Deaths(0, n, 0.0, 0.0, zero_deaths_upper(n, LEVEL))
    lower, upper = exact_binomial(dead, n, LEVEL)
    return Deaths(dead, n, dead / n, lower, upper)


def _percent(share: float) -> str:
    return f"{100 * share:.1f} %"
