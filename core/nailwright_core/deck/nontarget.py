"""The share of non-target fish among the last that were caught: where it is high, the crew moves on.

The Deck does this with no signal (``web/src/features/deck/rules/nontarget.ts``); both are held to ``tests/shared/nontarget.json``.
"""

from __future__ import annotations

from collections.abc import Sequence


def nontarget_share(wanted: Sequence[str], caught: Sequence[tuple[str, int]], last: int) -> float | None:
    """Share of fish that are of no wanted species among the last ones; None before so many were caught, or where none is wanted.

    Args:
        wanted: codes of the species that are looked for.
        caught: species and count of each entry, in the order in which they were caught.
        last: how many of the last fish count; the oldest entry counts with as many as are needed.
    """
    if not wanted or sum(count for _, count in caught) < last:
        return None
    left, other = last, 0
    for species, count in reversed(caught):
        taken = min(count, left)
        other += taken if species not in wanted else 0
        left -= taken
        if left == 0:
            break
    return other / last
