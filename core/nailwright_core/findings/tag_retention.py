"""How many tags stay in their fish, told by fish that another mark identifies; and how often a tag that is there is read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.checks import check_level, numbers, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import exact_share
from nailwright_core.tags.retention import DAYS_PER_YEAR, FEWEST_FISH, RetentionCurve, retention_curve

_STEPS = 13
#: So much longer than half of the fish were out is the rate by years told (ours, no source).
_REACHES = 0.5


@dataclass(frozen=True)
class Kept:
    """Fish of one group: the share that still carried the tag when last seen, and the median time from tagging to then, days."""

    name: str
    share: Estimate
    median_days: float


@dataclass(frozen=True)
class TagRetention:
    """Attributes:
    all: every fish. groups: in order of their names.
    curve: kept over time; None below ten fish. at_days, mean, lower, upper: the curve with its interval, empty without one.
    assumptions: what it takes for granted.
    """

    all: Kept
    groups: tuple[Kept, ...]
    curve: RetentionCurve | None
    at_days: tuple[float, ...]
    mean: tuple[float, ...]
    lower: tuple[float, ...]
    upper: tuple[float, ...]
    assumptions: tuple[Assumption, ...]


def tag_retention(
    days: ArrayLike,
    gone: ArrayLike,
    seen_with: ArrayLike,
    groups: Sequence[str],
    lasting: int,
    level: float = 0.95,
) -> TagRetention:
    """Retention of a tag, from fish met again that were identified by another mark.

    Args:
        days: of each fish from tagging, shape (n,): to the last sighting with the tag, or to the first without it. gone: whether it was without.
        seen_with: days to the last sighting with it of those without, 0 where there was none.
        groups: the group's name of each. lasting: how many of the fish were identified by a mark that stays, a PIT.

    Raises:
        CoreError: ``no_fish``, ``lengths_differ``, ``days_out_of_range``, ``lasting_out_of_range``, and as ``retention_curve``.

    Source: ``tags.retention``; shares with exact binomial intervals (Clopper and Pearson 1934).
    """
    check_level(level)
    t, out = numbers(days, "days"), np.asarray(gone, dtype=bool)
    if t.ndim != 1 or t.shape != out.shape or len(groups) != t.size:
        raise CoreError(
            "lengths_differ", "Expected of each fish its days, whether the tag was gone, and its group.", "gone"
        )
    if not t.size:
        raise CoreError("no_fish", "Expected fish that were met again and known by another mark; got none.", "days")
    if (t <= 0).any():
        raise CoreError("days_out_of_range", "Expected days above 0 from tagging to the sighting.", "days")
    (known,) = whole_counts([lasting], "lasting")
    if known > t.size:
        raise CoreError(
            "lasting_out_of_range", f"Expected at most {t.size} fish with a lasting mark; got {known:g}.", "lasting"
        )
    curve = retention_curve(t, out, seen_with, level) if t.size >= FEWEST_FISH else None
    of = np.asarray(groups)
    at = np.linspace(0, float(t.max()), _STEPS)[1:] if curve else np.array([])
    line = [curve.kept_at(float(each)) for each in at] if curve else []
    return TagRetention(
        _kept("all", t, out, level),
        tuple(_kept(str(name), t[of == name], out[of == name], level) for name in np.unique(of)),
        curve,
        tuple(map(float, at)),
        tuple(each.value for each in line),
        tuple(each.lower for each in line),
        tuple(each.upper for each in line),
        _assumptions(int(known), int(t.size)),
    )


def read_rate(read: int, there: int, level: float = 0.95) -> Estimate:
    """How often a tag was read of the times in which it was there: known, since it was read again later.

    Raises:
        CoreError: ``more_read_than_there``, and as ``whole_counts``.

    Source: exact binomial (Clopper and Pearson 1934).
    """
    check_level(level)
    k, n = (int(each) for each in whole_counts([read, there], "read"))
    if k > n or n == 0:
        raise CoreError("more_read_than_there", f"Expected at most as many read as were there; got {k} of {n}.", "read")
    return exact_share(k, n, "fish", level)


def _kept(name: str, days: NDArray[np.float64], gone: NDArray[np.bool_], level: float) -> Kept:
    return Kept(name, exact_share(int((~gone).sum()), int(gone.size), "fish", level), float(np.median(days)))


def _assumptions(lasting: int, n: int) -> tuple[Assumption, ...]:
    known = (
        f"{lasting} of {n} were known by a PIT, which is taken never to be lost."
        if lasting
        else "No fish was known by a PIT: loss of that other mark is taken to have nothing to do with loss of this one; "
        "tags of one fish are not quite independent, and loss is then underestimated."
    )
    return (
        Assumption("The mark by which fish were known stays", "not checked", known),
        Assumption(
            "Fish with and without the tag are met alike",
            "not checked",
            "Only crews' own captures count. Finders' reports are left out: they see the tag or nothing.",
        ),
        Assumption(
            "Loss goes on at one rate after the first days",
            "not checked",
            "r(t) = rho exp(-L t). Loss lies between two sightings; when, nobody saw.",
        ),
    )


def retention_sentence(found: TagRetention, species: str, tag: str) -> str:
    """What was found, how sure, from how many fish."""
    share, n = found.all.share, found.all.share.n
    kept = round(share.value * n)
    told = (
        f"Of {n} {species} met again and known by another mark, {kept} still carried their {tag}: {_per_cent(share)}, "
        f"half of them after {_time(found.all.median_days)} or more"
    )
    curve = found.curve
    if curve is None:
        return f"{told}. Ten fish or more would tell how it goes on with time."
    if max(found.at_days) < _REACHES * DAYS_PER_YEAR:
        return f"{told}. Nobody was out for long enough to tell a loss by the year."
    return f"{told}. After a year {_per_cent(curve.kept_at(DAYS_PER_YEAR))} are kept."


def _per_cent(share: Estimate) -> str:
    return f"{100 * share.value:.0f} % ({100 * share.lower:.0f} to {100 * share.upper:.0f})"


def _time(days: float) -> str:
    return f"{days / DAYS_PER_YEAR:.1f} years" if days >= DAYS_PER_YEAR else f"{days:.0f} days"
