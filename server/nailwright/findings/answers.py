"""The findings themselves: core's results over a selection, with their sentence, assumptions and method."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from nailwright.findings.queries import lengths_of, pairs_of
from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Programme
from nailwright_core.common import species as species_table
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.intervals import median_interval
from nailwright_core.common.species import Species
from nailwright_core.findings import condition, size_structure
from nailwright_core.records.wording import condition_sentence, size_sentence

#: A picture with more points than this is a smear and slow; the rest are drawn at random, by a fixed seed.
MAX_POINTS = 1500
POINTS_SEED = 20240501

SIZE_METHOD = {
    "page": "size-structure",
    "text": "Length-frequency in bins [start, start + width). Proportional size distribution: 100 x fish of a category's "
    "length or longer / fish of stock length or longer, Wilson intervals; incremental shares with Goodman's "
    "simultaneous intervals; median with order-statistic interval.",
    "sources": ["Gabelhouse 1984", "Guy et al. 2007", "Wilson 1927", "Goodman 1965"],
}
CONDITION_METHOD = {
    "page": "condition",
    "text": "log10 mass = a + b log10 length by ordinary least squares; t intervals; the test of b = 3 by t. Predictions are "
    "back-transformed with 10^(s^2 ln10 / 2). Relative weight Wr = 100 W / Ws, means with t intervals.",
    "sources": ["Le Cren 1951", "Wege and Anderson 1978", "Froese 2006"],
}


def size_finding(programme: Programme, selection: Selection, bin_mm: float | None, level: float) -> dict[str, Any]:
    """Size structure of a selection.

    Raises:
        CoreError: ``no_lengths`` where the selection holds no usable length, and as core's functions.
    """
    kind = species_table.get(selection.species)
    lengths = lengths_of(captures_in(programme, selection), kind, selection.estimated)
    if lengths.length_mm.size == 0:
        raise nothing_to_show(kind, "measured", lengths.left_out)
    suggested = size_structure.suggest_bin(lengths.length_mm)
    width = suggested if bin_mm is None else bin_mm
    frequency = size_structure.length_frequency(lengths.length_mm, width)
    median = median_interval(lengths.length_mm, level)
    distribution = None
    if kind.size_categories:
        distribution = size_structure.proportional_size_distribution(lengths.length_mm, kind.size_categories, level)
    return {
        "sentence": size_sentence(kind, distribution, median),
        "species": kind,
        "n": lengths.length_mm.size,
        "left_out": lengths.left_out,
        "frequency": {
            "edges": frequency.edges.tolist(),
            "counts": frequency.counts.tolist(),
            "bin_mm": width,
            "suggested_mm": suggested,
            "freedman_diaconis_mm": number(size_structure.freedman_diaconis(lengths.length_mm)),
            "offered_mm": size_structure.BIN_WIDTHS_MM,
        },
        "categories": categories_of(kind),
        "median": estimate_row("Median length", "mm", median),
        "distribution": _distribution_rows(distribution),
        "n_stock": distribution.n_stock if distribution else None,
        "assumptions": distribution.assumptions if distribution else (),
        "method": SIZE_METHOD,
    }


def condition_finding(programme: Programme, selection: Selection, level: float) -> dict[str, Any]:
    """Condition of a selection.

    Raises:
        CoreError: ``no_lengths``, ``too_few_lengths``.
    """
    kind = species_table.get(selection.species)
    pairs = pairs_of(captures_in(programme, selection), kind, selection.estimated)
    if not pairs.keys:
        raise nothing_to_show(kind, "weighed and measured", pairs.left_out)
    fit = condition.fit_length_mass(pairs.length_mm, pairs.mass_g, level)
    weight = None
    if kind.standard_weight and np.any(pairs.length_mm >= kind.standard_weight.min_mm):
        weight = condition.summarise_relative_weight(kind, pairs.length_mm, pairs.mass_g, level)
    drawn = _drawn(fit)
    return {
        "sentence": condition_sentence(kind, fit, weight),
        "species": kind,
        "n": fit.n,
        "left_out": pairs.left_out,
        "line": [estimate_row("Intercept a (log10 g)", "", fit.log10_a), estimate_row("Slope b", "", fit.b)],
        "residual_sd": fit.residual_sd,
        "r_squared": number(fit.r_squared),
        "length_range_mm": fit.length_range_mm,
        "isometry": {"t": number(fit.isometry_t), "p": fit.isometry_p},
        "back_transformation": fit.back_transformation,
        "curve": _curve(fit, level),
        "points": {
            "capture": [pairs.keys[i] for i in drawn],
            "length_mm": pairs.length_mm[drawn].tolist(),
            "mass_g": pairs.mass_g[drawn].tolist(),
            "studentised": fit.studentised[drawn].round(4).tolist(),
            "wr": [number(value) for value in weight.wr[drawn].round(2)] if weight else [None] * len(drawn),
        },
        "n_drawn": len(drawn),
        "n_flagged": len(fit.flagged),
        "wr": estimate_row("All fish", "", weight.overall) if weight else None,
        "wr_by_category": [estimate_row(name, "", each) for name, each in weight.by_category.items()] if weight else [],
        "wr_trend": estimate_row("Wr per 100 mm", "", weight.trend) if weight and weight.trend else None,
        "wr_undefined": weight.n_undefined if weight else None,
        "assumptions": fit.assumptions,
        "method": CONDITION_METHOD,
    }


def nothing_to_show(kind: Species, how: str, left_out: Any) -> CoreError:
    """The error where a selection holds no usable fish."""
    why = "; ".join(f"{each.n:,} {each.reason}" for each in left_out)
    left = f" Left out: {why}." if why else ""
    return CoreError(
        "no_lengths", f"No {kind.common_name} in this selection was {how}.{left} Widen the selection.", "selection"
    )


def _drawn(fit: condition.LengthMassFit) -> NDArray[np.int64]:
    """Which fish the picture shows: every flagged one, and at most MAX_POINTS in all."""
    if fit.n <= MAX_POINTS:
        return np.arange(fit.n)
    flagged = fit.flagged[:MAX_POINTS]
    others = np.setdiff1d(np.arange(fit.n), fit.flagged, assume_unique=True)
    some = np.random.default_rng(POINTS_SEED).choice(others, MAX_POINTS - len(flagged), replace=False)
    return np.sort(np.concatenate([flagged, some]))


def _curve(fit: condition.LengthMassFit, level: float) -> dict[str, list[float]]:
    length = np.geomspace(*fit.length_range_mm, 60)
    predicted = fit.predict(length, level)
    return {
        "length_mm": length.round(2).tolist(),
        "mass_g": predicted.mass_g.tolist(),
        "lower_g": predicted.lower_g.tolist(),
        "upper_g": predicted.upper_g.tolist(),
    }


def _distribution_rows(distribution: size_structure.SizeDistribution | None) -> list[dict[str, Any]]:
    if distribution is None:
        return []
    cumulative = {
        "PSD": distribution.psd,
        "PSD-P": distribution.psd_p,
        "PSD-M": distribution.psd_m,
        "PSD-T": distribution.psd_t,
    }
    return [estimate_row(name, "%", each) for name, each in {**cumulative, **distribution.incremental}.items()]


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


def number(value: float) -> float | None:
    """JSON has neither nan nor infinity."""
    return float(value) if np.isfinite(value) else None
