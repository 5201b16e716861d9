"""What else differs between groups of fish that are compared: season, sex, gear, place.

A difference between groups that were sampled unlike is not yet a change in the fish.
"""

from __future__ import annotations

from collections.abc import Mapping
from itertools import combinations

import numpy as np

from nailwright_core.common.estimate import Assumption

#: Two groups whose shares differ by this much in all are unlike enough to be told (ours, no source).
_UNLIKE = 0.2
#: Of fewer fish shares are chance.
_FEW = 10


def sampled_alike(factor: str, groups: Mapping[str, Mapping[str, int]]) -> Assumption | None:
    """Whether groups are alike in a factor.

    Args:
        factor: what it is called, such as "season".
        groups: group -> level of the factor -> fish; groups of fewer than ten fish are left out.

    Returns:
        None where fewer than two groups can be told apart, or all fish are of one level.
    """
    levels = sorted({level for counts in groups.values() for level in counts})
    large = {name: counts for name, counts in groups.items() if sum(counts.values()) >= _FEW}
    if len(large) < 2 or len(levels) < 2:
        return None
    shares = {
        name: np.array([counts.get(level, 0) for level in levels], dtype=float) / sum(counts.values())
        for name, counts in large.items()
    }
    # half the sum of absolute differences: the share of fish that would have to be of another level
    apart = {(a, b): float(np.abs(shares[a] - shares[b]).sum() / 2) for a, b in combinations(shares, 2)}
    a, b = max(apart, key=lambda pair: apart[pair])
    level = int(np.argmax(np.abs(shares[a] - shares[b])))
    told = f"{100 * shares[a][level]:.0f} % {levels[level]} in {a}, {100 * shares[b][level]:.0f} % in {b}"
    if apart[a, b] < _UNLIKE:
        return Assumption(f"Groups are alike in {factor}", "holds", f"At most {told}.")
    return Assumption(
        f"Groups are alike in {factor}",
        "doubtful",
        f"{told}: a difference may be that of {factor}. Narrow the selection.",
    )
