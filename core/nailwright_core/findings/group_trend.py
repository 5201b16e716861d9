"""Groups that stand in an order, years or zones along a river, asked once whether they rise or fall along it.

Twenty pairs after Holm's correction may say nothing of values that fall year by year. A group counts once: fish and sites of one year share
that year, so that what is between the groups, and not how many fish were measured, says how sure a trend is.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike

from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.fitting.least_squares import least_squares

#: Fewer groups leave one degree of freedom or none, and an interval of no use.
FEWEST_GROUPS = 4


@dataclass(frozen=True)
class GroupTrend:
    """How values of groups change along their order.

    Attributes:
        slope: change with one step of ``per``, in the unit of the values or, where ``per_cent``, in per cent; t over groups.
        p: of no change. per: a step in words, "a year". along: the order in words, "over the years".
    """

    slope: Estimate
    p: float
    per: str
    along: str
    per_cent: bool
    assumptions: tuple[Assumption, ...]


def group_trend(
    values: ArrayLike, at: ArrayLike, per: str, along: str, level: float = 0.95, per_cent: bool = False
) -> GroupTrend | None:
    """Least squares of one value of each group on where it stands.

    Args:
        values: of each group, shape (g,); above 0 where the change is wanted in ``per_cent``.
        at: where each stands, in steps of ``per``, shape (g,).

    Returns:
        None of fewer than four groups, or where they stand at fewer than three places.

    Raises:
        CoreError: ``lengths_differ``, ``number_out_of_range``, ``level_out_of_range``.

    Source: least squares on the means of clusters (Murray 1998, Design and analysis of group-randomized trials; from memory).
    Coverage: core/tests/findings/test_group_trend.py.
    """
    check_level(level)
    y, x = numbers(values, "values"), numbers(at, "at")
    if y.size != x.size:
        raise CoreError("lengths_differ", f"Got {y.size} values at {x.size} places.", "at")
    if per_cent and (y <= 0).any():
        raise CoreError("number_out_of_range", "Expected values above 0 for a change in per cent.", "values")
    if y.size < FEWEST_GROUPS or np.unique(x).size < 3:
        return None
    fit = least_squares(np.column_stack([np.ones_like(x), x - x.mean()]), np.log(y) if per_cent else y)
    slope = fit.estimate(1, level)
    rounding = 1e-9 * float(np.abs(y).max())
    if fit.residual_sd <= rounding:  # groups exactly on a line
        p = 1.0 if abs(slope.value) <= rounding else 0.0
    else:
        p = float(2 * scipy.stats.t.sf(abs(slope.value / slope.se), fit.df))
    ends = slope.value, slope.lower, slope.upper
    value, lower, upper = (100 * float(np.expm1(each)) for each in ends) if per_cent else ends
    se = 100 * slope.se if per_cent else slope.se
    told = replace(slope, value=value, se=se, lower=lower, upper=upper, interval=f"t over {y.size} groups")
    alone = Assumption(
        f"Groups vary about a straight line {along}, each by itself",
        "not checked",
        f"A group counts once ({y.size} of them); neighbours that resemble each other make the interval too narrow.",
    )
    return GroupTrend(told, p, per, along, per_cent, (alone,))
