"""Passes of a removal run while they are fished: what they say so far, and whether another is worth it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from nailwright_core.common.checks import finite, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance.removal import RemovalEstimate, removal


@dataclass(frozen=True)
class PassesSoFar:
    """What passes say so far.

    Attributes:
        estimate: by ``removal``; None where they cannot say.
        next_catch: fish that another pass is expected to catch; None where there is no estimate.
        half_width: half of the estimate's interval over the estimate; inf where it has no upper end.
        another: whether another pass is advised. words: that in a sentence, with why.
    """

    catches: tuple[int, ...]
    estimate: RemovalEstimate | None
    next_catch: float | None
    half_width: float
    another: bool
    words: str


def passes_so_far(catches: Sequence[int], wanted: float = 0.25) -> PassesSoFar:
    """Whether another pass is worth it.

    Args:
        catches: one count a pass, in their order.
        wanted: half-width of the 95 % interval, as a share of the estimate, from which on it is enough.

    Raises:
        CoreError: ``count_out_of_range``, ``wanted_out_of_range``.
    """
    counts = tuple(int(each) for each in whole_counts(catches, "catches"))
    if not 0 < finite(wanted, "wanted") <= 1:
        raise CoreError("wanted_out_of_range", f"Expected a half-width of 0 to 1; got {wanted:g}.", "wanted")
    if len(counts) < 2:
        return PassesSoFar(counts, None, None, math.inf, True, "One pass cannot say how many are left: fish another.")
    try:
        found = removal(counts)
    except CoreError as refused:
        if refused.code == "no_fish":
            return PassesSoFar(
                counts, None, None, math.inf, False, f"No fish in {len(counts)} passes: another would hardly tell more."
            )
        return PassesSoFar(counts, None, None, math.inf, True, "The catches do not fall yet, so nothing says how many are left: fish another.")  # fmt: skip
    n, taken = found.n, sum(counts)
    expected = max(n.value - taken, 0.0) * found.p.value
    half = (n.upper - n.lower) / 2 / n.value
    said = f"{n.value:.0f} fish ({n.lower:.0f} to {'ever so many' if math.isinf(n.upper) else f'{n.upper:.0f}'})"
    if half <= wanted:
        return PassesSoFar(counts, found, expected, half, False, f"{said}: enough, within {half:.0%} of it.")
    if expected < 0.5:
        return PassesSoFar(counts, found, expected, half, False, f"{said}: another pass is expected to bring none; it would hardly tell more.")  # fmt: skip
    return PassesSoFar(counts, found, expected, half, True, f"{said}: not within {wanted:.0%} yet; another pass is expected to bring about {expected:.0f}.")  # fmt: skip
