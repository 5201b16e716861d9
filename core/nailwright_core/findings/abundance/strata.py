"""How many fish, from marks in several strata: lengths, zones or sexes that are caught unlike.

Each stratum has its own Chapman estimate; their sum's interval is put together from the strata's exact ones (recovery of
variance estimates; Zou and Donner 2008, Stat. Med. 27, 1693-1702, from memory), so that it keeps their lopsidedness.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used

from nailwright_core.common.checks import check_level
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate, Verdict
from nailwright_core.findings.abundance.marks import MarkEstimate, petersen

#: A test of pooling is asked for so much certainty before strata are called unlike (ours, no source).
_SMALL_P = 0.05


@dataclass(frozen=True)
class StratifiedMarks:
    """Fish over all strata, fish in each, and whether one estimate for all would have done."""

    n: Estimate
    strata: dict[str, MarkEstimate]
    assumptions: tuple[Assumption, ...]


def petersen_strata(strata: Mapping[str, tuple[int, int, int]], level: float = 0.95) -> StratifiedMarks:
    """Fish in a closed water from one marking and one catch, stratum by stratum; fish stay in their stratum.

    Args:
        strata: name -> (marked, caught, recaptured).

    Raises:
        CoreError: ``no_data`` without strata, and as ``petersen``.
    """
    check_level(level)
    if not strata:
        raise CoreError("no_data", "Expected at least one stratum with marks, catch and recaptures.", "strata")
    found = {name: petersen(*counts, level=level) for name, counts in strata.items()}
    each = [mark.n for mark in found.values()]
    value = sum(one.value for one in each)
    low = value - math.sqrt(sum((one.value - one.lower) ** 2 for one in each))
    high = value + math.sqrt(sum((one.upper - one.value) ** 2 for one in each))
    seen = sum(marked + caught - again for marked, caught, again in strata.values())
    se = math.sqrt(sum(one.se**2 for one in each))
    n = Estimate(value, se, max(low, seen), high, level, "exact in each stratum, summed", sum(one.n for one in each))
    closed = next(iter(found.values())).assumptions[1:]
    return StratifiedMarks(n, found, (_pooling(strata), *closed))


def strata_of_two_catches(
    marked: Mapping[str, int],
    caught: Mapping[str, int],
    recaptured: Mapping[str, int],
    moved: int,
    part: str,
    level: float = 0.95,
) -> StratifiedMarks:
    """The same from what two catches counted by stratum, refused where it would not hold.

    Args:
        marked: fish let go with a mark at the first catch. caught: fish looked at at the second. recaptured: of them with a mark.
        moved: recaptured fish that were in another stratum than they were marked in.
        part: what a stratum is called.

    Raises:
        CoreError: ``strata_too_few`` where fewer than two have marks, ``strata_without_marks`` where fish were caught in one that has none,
            ``strata_moved``; and as ``petersen_strata``.
    """
    with_marks = [name for name, n in marked.items() if n]
    if len(with_marks) < 2:
        raise CoreError("strata_too_few", f"Fish were marked in one {part} only.", "strata")
    bare = [name for name, n in caught.items() if n and not marked.get(name)]
    if bare:
        raise CoreError(
            "strata_without_marks", f"Fish were caught where none had been marked ({', '.join(bare)}): nothing is known of how many there are.", "strata"
        )  # fmt: skip
    if moved:
        again = sum(recaptured.values())
        raise CoreError(
            "strata_moved", f"{moved} of {again} recaptured fish were marked in another {part}: they do not stay in theirs.", "strata"
        )  # fmt: skip
    counts = {name: (marked[name], caught.get(name, 0), recaptured.get(name, 0)) for name in with_marks}
    return petersen_strata(counts, level)


def _pooling(strata: Mapping[str, tuple[int, int, int]]) -> Assumption:
    """Whether marks were as common in every stratum's catch: then one estimate for all would be as right, and surer."""
    name = "Marks are as common in every stratum"
    table = np.array([(again, caught - again) for _, caught, again in strata.values()])
    if len(table) < 2 or not table.sum(axis=0).all():
        return Assumption(name, "not checked", "It takes two strata, and fish with and without marks.")
    p = float(scipy.stats.chi2_contingency(table, correction=False).pvalue)
    verdict: Verdict = "not refuted" if p > _SMALL_P else "fails"
    told = (
        "one estimate for all would be as right"
        if p > _SMALL_P
        else "one estimate for all would be wrong; this one is not"
    )
    return Assumption(name, verdict, f"Chi-square p = {p:.2g}: {told}.")
