"""Passes of a removal run while they are fished: what they say so far, and whether another is worth it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from nailwright_core.common.checks import finite, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance.removal import RemovalEstimate, removal
from nailwright_core.findings.abundance.removal_falling import FALLS, FallingRemoval, removal_falling

#: Another pass is advised only where it is expected to bring so many fish of each that was caught: each pass costs the fish
#: that are left (ours, no source).
_WORTH = 0.05


@dataclass(frozen=True)
class PassesSoFar:
    """What passes say so far.

    Attributes:
        alike: by ``removal``, as if the chance of capture were the same in each pass; None where the passes cannot say.
        falling: by ``removal_falling``; None before the second pass and where nothing was caught.
        half_width: half of the interval over the estimate, averaged over how the chance may fall (of two passes: from the lowest end
            to the highest of all falls); inf where it has no upper end.
        another: whether another pass is advised. words: that in a sentence, with why.
    """

    catches: tuple[int, ...]
    alike: RemovalEstimate | None
    falling: FallingRemoval | None
    half_width: float
    another: bool
    words: str


def passes_so_far(catches: Sequence[int], wanted: float = 0.25, falls: Mapping[float, float] = FALLS) -> PassesSoFar:
    """Whether another pass is worth it.

    Args:
        catches: one count a pass, in their order.
        wanted: half-width of the 95 % interval, as a share of the estimate, from which on it is enough.
        falls: by how much the chance of capture may fall from pass to pass, each with how likely that is.

    Raises:
        CoreError: ``count_out_of_range``, ``wanted_out_of_range``, ``falls_out_of_range``.
    """
    counts = tuple(int(each) for each in whole_counts(catches, "catches"))
    if not 0 < finite(wanted, "wanted") <= 1:
        raise CoreError("wanted_out_of_range", f"Expected a half-width of 0 to 1; got {wanted:g}.", "wanted")
    if len(counts) < 2:
        return PassesSoFar(counts, None, None, math.inf, True, "One pass cannot say how many are left: fish another.")
    if not any(counts):
        words = f"No fish in {len(counts)} passes: another would hardly tell more."
        return PassesSoFar(counts, None, None, math.inf, False, words)
    falling = removal_falling(counts, falls)
    try:
        alike = removal(counts)
    except CoreError:
        words = "The catches do not fall yet, so nothing says how many are left: fish another."
        return PassesSoFar(counts, None, falling, math.inf, True, words)
    value, low, high = falling.reach
    half = (high - low) / 2 / value
    sentence = _sentence(alike, falling)
    if half <= wanted:
        return PassesSoFar(counts, alike, falling, half, False, f"{sentence} Enough: within {100 * half:.0f} % of it.")
    next_catch = falling.next_catch
    if next_catch < max(0.5, _WORTH * sum(counts)):
        brings = "none" if next_catch < 0.5 else f"about {next_catch:.0f}"
        words = f"{sentence} Another pass is expected to bring {brings}; it would hardly tell more."
        return PassesSoFar(counts, alike, falling, half, False, words)
    words = f"{sentence} Not within {100 * wanted:.0f} % yet; another pass is expected to bring about {next_catch:.0f}."
    return PassesSoFar(counts, alike, falling, half, True, words)


def _sentence(alike: RemovalEstimate, falling: FallingRemoval) -> str:
    """What the passes say, first as it is averaged, then as if the chance of capture were the same in each."""
    same = f"{_fish(alike.n.value)} ({_fish(alike.n.lower)} to {_fish(alike.n.upper)})"
    least, most = min(falling.by_fall), max(falling.by_fall)
    if most == 0:
        return f"{same} fish, the chance of capture being the same in each pass."
    if falling.n:
        n = falling.n
        return (
            f"{_fish(n.value)} fish ({_fish(n.lower)} to {_fish(n.upper)}), averaged over a chance of capture that falls by "
            f"{100 * least:g} to {100 * most:g} % from pass to pass; {same} if it stayed the same."
        )
    last = falling.by_fall[most]
    return (
        f"Two passes cannot tell how fast the chance of capture falls: {same} fish if it stayed the same, {_fish(last.value)} "
        f"({_fish(last.lower)} to {_fish(last.upper)}) if it fell by {100 * most:g} %."
    )


def _fish(n: float) -> str:
    return "no upper limit" if math.isinf(n) else f"{n:,.0f}"
