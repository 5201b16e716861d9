"""How full a live well is: by the mass of what swims in it, each species by the room it needs, and by number where no mass is known.

The Deck does this with no signal (``web/src/features/deck/rules/well.ts``); both are held to ``tests/shared/well.json``.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

#: Fish of known mass from which the mean of an outing tells what those weigh that were not called yet (ours, no source).
LEAST_KNOWN = 5


@dataclass(frozen=True)
class InWell:
    """Fish of one entry in the live well.

    Attributes:
        count: how many. mass_g: all together, weighed or by length; None where nobody knows.
        g_l: grams of its kind that a litre takes; None: as the programme's fish in general.
    """

    count: int
    mass_g: float | None = None
    g_l: float | None = None


@dataclass(frozen=True)
class Filling:
    """Shares of a well that are taken, 1 is full: by known masses, and by the number of fish whose mass nobody knows."""

    load: float
    number: float

    @property
    def full_by(self) -> Literal["", "load", "number"]:
        """What takes most of a well that holds too much; empty where it holds more."""
        if self.load + self.number <= 1:
            return ""
        return "load" if self.load >= self.number else "number"


def filling(fish: Sequence[InWell], litres: float, most_fish: int, g_l: float) -> Filling:
    """How much of a live well its fish take. A fish of unknown mass counts as a large one, a place of ``most_fish``.

    Args:
        fish: entries in the well.
        litres: of the well.
        most_fish: large fish that it holds.
        g_l: grams that a litre takes.
    """
    load = sum(each.mass_g / ((each.g_l or g_l) * litres) for each in fish if each.mass_g is not None)
    return Filling(load, sum(each.count for each in fish if each.mass_g is None) / most_fish)


def mass_of_uncalled(left: int, n: int, batch_g: float | None, known: Sequence[tuple[int, float]]) -> float | None:
    """What the fish of a batch weigh that were not called yet, g; None where nothing tells.

    By what was said of the whole batch, else by the mean of the outing's fish whose mass is known.

    Args:
        left: of the batch, not called.
        n: in the batch.
        batch_g: of the whole batch, as it was said; None where it was not.
        known: count and mass together, g, of the outing's entries whose mass is known.
    """
    if batch_g is not None:
        return batch_g * left / n
    fish = sum(count for count, _ in known)
    return left * sum(mass for _, mass in known) / fish if fish >= LEAST_KNOWN else None
