"""Does condition differ between groups: length-mass lines and relative weight, as one family of tests.

A reader asks "any difference at all?", so all tests of one comparison are corrected together (Holm 1979).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.estimate import Estimate
from nailwright_core.common.multiple import holm
from nailwright_core.common.species import Species
from nailwright_core.findings.condition import CATEGORIES, relative_weight
from nailwright_core.findings.line_comparison import Groups, LineComparison, Sites, compare_lines
from nailwright_core.findings.relative_weight import RelativeWeightSummary, summarise_relative_weight
from nailwright_core.findings.value_comparison import ValuePair, compare_values, mean_difference


@dataclass(frozen=True)
class CategoryPair:
    """Difference of mean relative weight in one size category, with its own interval; no test of the family."""

    category: str
    first: str
    second: str
    difference: Estimate


@dataclass(frozen=True)
class ConditionComparison:
    """Condition of groups held against each other.

    Attributes:
        lines: the length-mass lines.
        wr: relative weight of each group that has one.
        wr_pairs: every pair of those.
        line_p, wr_p: p of the pairs in their order, corrected as one family; nan where nothing can be said.
        by_category: pairs of groups within each size category that both hold.
    """

    lines: LineComparison
    wr: dict[str, RelativeWeightSummary]
    wr_pairs: tuple[ValuePair, ...]
    line_p: NDArray[np.float64]
    wr_p: NDArray[np.float64]
    by_category: tuple[CategoryPair, ...]


def compare_condition(
    kind: Species, groups: Groups, level: float = 0.95, sites: Sites | None = None
) -> ConditionComparison:
    """Compare lines and relative weight of two or more groups.

    Args:
        groups: name -> (lengths mm, masses g).
        sites: name -> site of each of those fish, labels of one numbering; without it each fish stands for itself.

    Raises:
        CoreError: as ``compare_lines``.
    """
    lines = compare_lines(groups, level, sites)
    values = {name: relative_weight(kind, *pair) for name, pair in groups.items()}
    values = {name: wr for name, wr in values.items() if np.isfinite(wr).any()}
    wr = {
        name: summarise_relative_weight(kind, *groups[name], level, None if sites is None else sites[name])
        for name in values
    }
    pairs = compare_values(values, level, sites) if len(values) > 1 else ()
    corrected = holm([*(each.p for each in lines.pairs), *(each.p for each in pairs)])
    at = len(lines.pairs)
    return ConditionComparison(
        lines, wr, pairs, corrected[:at], corrected[at:], _by_category(kind, groups, values, level, sites)
    )


def _by_category(
    kind: Species, groups: Groups, values: Mapping[str, ArrayLike], level: float, sites: Sites | None
) -> tuple[CategoryPair, ...]:
    if kind.size_categories is None:
        return ()
    limits = [limit for _, limit in kind.size_categories]
    place = {name: np.searchsorted(limits, np.asarray(groups[name][0]), side="right") for name in values}
    known = {name: np.isfinite(np.asarray(wr)) for name, wr in values.items()}

    def of(name: str, category: int, what: ArrayLike) -> NDArray[np.float64]:
        return np.asarray(np.asarray(what).ravel()[(place[name] == category) & known[name]])

    found = []
    for number, category in enumerate(CATEGORIES):
        for a, b in combinations(values, 2):
            first, second = of(a, number, values[a]), of(b, number, values[b])
            if not first.size or not second.size:
                continue
            where = None if sites is None else (of(a, number, sites[a]), of(b, number, sites[b]))
            found.append(CategoryPair(category, a, b, mean_difference(first, second, level, where)[0]))
    return tuple(found)
