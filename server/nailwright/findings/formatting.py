"""How values of a finding are told."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.species import Species
from nailwright_core.findings.group_trend import GroupTrend


def nothing_to_show(kind: Species, how: str, left_out: Any) -> CoreError:
    """The error where a selection holds no usable fish."""
    why = "; ".join(f"{each.n:,} {each.reason}" for each in left_out)
    left = f" Left out: {why}." if why else ""
    return CoreError(
        "no_lengths", f"No {kind.common_name} in this selection was {how}.{left} Widen the selection.", "selection"
    )


def about_years(over: str, years: NDArray[np.int64]) -> tuple[Assumption, ...]:
    """Which years the question is about, where fish of several are asked.

    Args:
        over: what intervals are over: "sites", "years" or "fish".
        years: of each fish, shape (n,).
    """
    many = np.unique(years).size
    if many < 2 or over == "years":
        return ()
    return (
        Assumption(
            f"The question is about the {many} years that were fished",
            "not checked",
            "The interval says nothing of other years. For the water in any year take intervals over sites and years.",
        ),
    )


def categories_of(kind: Species) -> list[dict[str, Any]]:
    """Size categories with their lower limits."""
    return [{"name": name, "from_mm": mm} for name, mm in kind.size_categories or ()]


def estimate_row(name: str, unit: str, estimate: Estimate) -> dict[str, Any]:
    """An Estimate with its name and unit."""
    return {
        "name": name,
        "unit": unit,
        "value": number(estimate.value),
        "se": number(estimate.se),
        "lower": number(estimate.lower),
        "upper": number(estimate.upper),
        "level": estimate.level,
        "interval": estimate.interval,
        "n": estimate.n,
    }


def trend_row(trend: GroupTrend | None, unit: str) -> dict[str, Any] | None:
    """A trend over groups with what its step is."""
    if trend is None:
        return None
    return {
        "slope": estimate_row(f"{trend.along[:1].upper()}{trend.along[1:]}, {trend.per}", unit, trend.slope),
        "p": trend.p,
    }


def per_cent(share: Estimate) -> Estimate:
    """A share of 1 in per cent."""
    return replace(share, value=100 * share.value, se=100 * share.se, lower=100 * share.lower, upper=100 * share.upper)


def percent_row(name: str, change: Estimate) -> dict[str, Any]:
    """A change or share of 1 in per cent, with its name."""
    return estimate_row(name, "%", per_cent(change))


def number(value: float) -> float | None:
    """JSON has neither nan nor infinity."""
    return float(value) if np.isfinite(value) else None
