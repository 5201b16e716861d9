"""How many tags that went out are reported, and how many of those that are met."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.checks import check_level
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import exact_share
from nailwright_core.tags.retention import reporting_rate


@dataclass(frozen=True)
class Returned:
    """Tags of one group: the share that was reported; ``share.n`` went out."""

    name: str
    share: Estimate
    reported: int


@dataclass(frozen=True)
class ReturnRate:
    """Attributes:
    all: every tag. groups: in order of their names.
    reporting: share of met tags that are reported, told by those with a reward; None without them.
    assumptions: what it takes for granted.
    """

    all: Returned
    groups: tuple[Returned, ...]
    reporting: Estimate | None
    assumptions: tuple[Assumption, ...]


def return_rate(reported: ArrayLike, reward: ArrayLike, groups: Sequence[str], level: float = 0.95) -> ReturnRate:
    """Shares of tags that were reported, of fish that were let go alive with them.

    Args:
        reported: of each tag, shape (n,). reward: whether one was promised on it. groups: the group's name of each.

    Raises:
        CoreError: ``no_tags``, ``lengths_differ``, ``level_out_of_range``.

    Source: exact binomials (Clopper and Pearson 1934); ``tags.retention.reporting_rate``.
    """
    check_level(level)
    told, high, of = np.asarray(reported, dtype=bool), np.asarray(reward, dtype=bool), np.asarray(groups)
    if told.ndim != 1 or told.shape != high.shape or told.shape != of.shape:
        raise CoreError(
            "lengths_differ", "Expected of each tag whether it was reported, its reward and its group.", "reported"
        )
    if not told.size:
        raise CoreError("no_tags", "Expected tags in fish that were let go; got none.", "reported")
    rate = None
    # of so few that none came back nothing can be told; of ordinary ones alone neither
    if high.any() and not high.all() and told[high].any():
        rate = reporting_rate(int(told[~high].sum()), int((~high).sum()), int(told[high].sum()), int(high.sum()), level)
    return ReturnRate(
        _returned("all", told, level),
        tuple(_returned(str(name), told[of == name], level) for name in np.unique(of)),
        rate,
        _assumptions(rate is not None),
    )


def _returned(name: str, told: np.ndarray, level: float) -> Returned:
    k = int(told.sum())
    return Returned(name, exact_share(k, int(told.size), "tags", level), k)


def _assumptions(by_reward: bool) -> tuple[Assumption, ...]:
    told = (
        Assumption(
            "A share reported is no share harvested",
            "not checked",
            "It is the product of being met, of keeping the tag until then, and of being reported. Fish that die of tagging are among those that went out.",
        ),
        Assumption(
            "Fish meet their finders one by one",
            "not checked",
            "Fish that are met in schools make the interval too narrow.",
        ),
    )
    if not by_reward:
        return told
    return (
        *told,
        Assumption(
            "Every tag with a high reward that is met is reported",
            "not checked",
            "A ladder of rewards would test it (Nichols et al. 1991). Fish with and without are taken to be alike in size, place and day of release.",
        ),
    )


def return_sentence(found: ReturnRate, species: str, tag: str, within_a_year: bool) -> str:
    """What was found, how sure, from how many tags."""
    share = found.all.share
    when = " within a year" if within_a_year else ""
    told = (
        f"Of {share.n:,} {species} let go with a {tag}, {found.all.reported:,} were reported{when} and verified: "
        f"{100 * share.value:.1f} % ({100 * share.lower:.1f} to {100 * share.upper:.1f})"
    )
    rate = found.reporting
    if rate is None:
        return f"{told}. How many were met and not reported cannot be told without tags of high reward."
    return (
        f"{told}. By tags with a reward {100 * rate.value:.0f} % of those met are reported "
        f"({100 * rate.lower:.0f} to {100 * rate.upper:.0f})."
    )
