"""Findings that hold groups against each other, and cohorts within one."""

from __future__ import annotations

from itertools import combinations
from typing import Any

import numpy as np

from nailwright.findings.answers import categories_of, estimate_row, nothing_to_show, number
from nailwright.findings.groups import lengths_by_group, pairs_by_group
from nailwright.findings.queries import lengths_of
from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Programme
from nailwright_core.common import species as species_table
from nailwright_core.common.intervals import median_interval
from nailwright_core.common.multiple import holm
from nailwright_core.findings import condition, size_structure
from nailwright_core.findings.cohorts import Spread
from nailwright_core.records.wording import cohort_sentence, condition_comparison_sentence, size_comparison_sentence

SEED = 20240501

SIZE_METHOD = {
    "page": "comparison",
    "text": "Kolmogorov-Smirnov distance of each pair with a permutation p (1,999 draws), corrected after Holm; difference of "
    "medians by bootstrap; size categories by chi-square. Lengths on a millimetre board tie, so the textbook p does not hold.",
    "sources": ["Kolmogorov 1933; Smirnov 1939", "Holm 1979", "Gabelhouse 1984"],
}
CONDITION_METHOD = {
    "page": "comparison",
    "text": "Analysis of covariance of log10 mass on log10 length: slopes first; only where they may be parallel are heights "
    "compared, as mass at the common mean length, pairs corrected after Holm. Relative weight by ranks (Kruskal-Wallis), "
    "pairs by Mann-Whitney with Holm.",
    "sources": ["Sokal and Rohlf 1995", "Kruskal and Wallis 1952", "Holm 1979"],
}
COHORT_METHOD = {
    "page": "cohorts",
    "text": "Finite mixture of normals on raw lengths by expectation-maximisation, several seeded starts, the number of cohorts by "
    "BIC unless chosen. Standard errors from the empirical information.",
    "sources": ["Dempster, Laird and Rubin 1977", "Schwarz 1978", "Behboodian 1970"],
}


def size_compared(
    programme: Programme, selection: Selection, by: str, bin_mm: float | None, level: float
) -> dict[str, Any]:
    """Lengths of groups against each other.

    Raises:
        CoreError: ``too_few_groups``, ``too_many_groups``, ``too_few_fish`` and as core's functions.
    """
    kind = species_table.get(selection.species)
    groups = lengths_by_group(programme, selection, kind, by)
    everything = np.concatenate(list(groups.values()))
    width = size_structure.suggest_bin(everything) if bin_mm is None else bin_mm
    frame = size_structure.length_frequency(everything, width)
    found = {pair: size_structure.compare_lengths(groups[pair[0]], groups[pair[1]], SEED, kind.size_categories, level)
             for pair in combinations(groups, 2)}  # fmt: skip
    corrected = holm([each.ks_p for each in found.values()])
    rows: list[dict[str, Any]] = []
    for name, lengths in groups.items():
        distribution = None
        if kind.size_categories:
            distribution = size_structure.proportional_size_distribution(lengths, kind.size_categories, level)
        counts = size_structure.length_frequency(lengths, width, float(frame.edges[0])).counts
        rows.append(
            {
                "name": name,
                "n": lengths.size,
                "counts": [*counts.tolist(), *[0] * (len(frame.counts) - len(counts))],
                "median": estimate_row("Median length", "mm", median_interval(lengths, level)),
                "psd": estimate_row("PSD", "%", distribution.psd) if distribution else None,
            }
        )
    pairs: list[dict[str, Any]] = [
        {
            "first": first,
            "second": second,
            "ks": each.ks,
            "ks_p": each.ks_p,
            "p_holm": float(p),
            "median_difference": estimate_row("Difference of medians", "mm", each.median_difference),
            "category_p": each.category_p,
        }
        for ((first, second), each), p in zip(found.items(), corrected, strict=True)
    ]
    medians: dict[str, float] = {row["name"]: row["median"]["value"] for row in rows}
    return {
        "sentence": size_comparison_sentence(kind, medians, [pair["p_holm"] for pair in pairs]),
        "species": kind,
        "n": everything.size,
        "left_out": (),
        "edges": frame.edges.tolist(),
        "bin_mm": width,
        "categories": categories_of(kind),
        "groups": rows,
        "pairs": pairs,
        "assumptions": next(iter(found.values())).assumptions,
        "method": SIZE_METHOD,
    }


def condition_compared(programme: Programme, selection: Selection, by: str, level: float) -> dict[str, Any]:
    """Length-mass lines and relative weight of groups against each other.

    Raises:
        CoreError: as ``size_compared``.
    """
    kind = species_table.get(selection.species)
    groups = pairs_by_group(programme, selection, kind, by)
    lines = condition.compare_lines(groups, level)
    fits = {name: condition.fit_length_mass(*pair, level) for name, pair in groups.items()}
    weights = {}
    if kind.standard_weight:
        weights = {name: condition.relative_weight(kind, *pair) for name, pair in groups.items()}
        weights = {name: wr for name, wr in weights.items() if np.isfinite(wr).any()}
    values = condition.compare_values(weights) if len(weights) > 1 else None
    means = {name: condition.summarise_relative_weight(kind, *groups[name], level).overall for name in weights}
    return {
        "sentence": condition_comparison_sentence(kind, lines, values),
        "species": kind,
        "n": sum(lines.n.values()),
        "left_out": (),
        "at_mm": lines.at_mm,
        "slopes": {"f": number(lines.slopes_f), "df": lines.slopes_df, "p": lines.slopes_p},
        "heights": {"f": number(lines.heights_f), "df": lines.heights_df, "p": lines.heights_p}
        if lines.heights_df and lines.heights_f is not None
        else None,
        "parallel": lines.parallel,
        "groups": [
            {
                "name": name,
                "n": lines.n[name],
                "slope": estimate_row("Slope b", "", lines.slopes[name]),
                "adjusted": estimate_row("Mass at the common length", "g", lines.adjusted_mass_g[name])
                if lines.parallel
                else None,
                "wr": estimate_row("Mean Wr", "", means[name]) if name in means else None,
            }
            for name in groups
        ],
        "line_pairs": [_pair(each) for each in lines.pairs],
        "wr_test": {"h": values.h, "df": values.df, "p": values.p} if values else None,
        "wr_pairs": [_pair(each) for each in values.pairs] if values else [],
        "assumptions": next(iter(fits.values())).assumptions,
        "method": CONDITION_METHOD,
    }


def cohorts_finding(
    programme: Programme,
    selection: Selection,
    k: int | None,
    spread: Spread,
    starts: list[float],
    bin_mm: float | None,
    level: float,
) -> dict[str, Any]:
    """Year-classes within a selection.

    Raises:
        CoreError: ``no_lengths`` and as ``fit_cohorts``.
    """
    kind = species_table.get(selection.species)
    lengths = lengths_of(captures_in(programme, selection), kind, selection.estimated)
    if lengths.length_mm.size == 0:
        raise nothing_to_show(kind, "measured", lengths.left_out)
    fit = size_structure.fit_cohorts(lengths.length_mm, k, spread, SEED, starts or None, level)
    width = size_structure.suggest_bin(lengths.length_mm) / 2 if bin_mm is None else bin_mm
    frequency = size_structure.length_frequency(lengths.length_mm, width)
    at = np.linspace(frequency.edges[0], frequency.edges[-1], 240)
    return {
        "sentence": cohort_sentence(kind, fit),
        "species": kind,
        "n": fit.n,
        "left_out": lengths.left_out,
        "edges": frequency.edges.tolist(),
        "counts": frequency.counts.tolist(),
        "bin_mm": width,
        "at_mm": at.round(2).tolist(),
        "curves": (fit.density(at) * fit.n * width).round(4).tolist(),
        "cohorts": [
            {
                "mean": estimate_row(f"Cohort {place + 1}", "mm", mean),
                "sd_mm": float(sd),
                "share": float(share),
                "n": float(n),
            }
            for place, (mean, sd, share, n) in enumerate(
                zip(fit.mean_estimates, fit.sds, fit.shares, fit.n_each, strict=True)
            )
        ],
        "k": fit.k,
        "spread": fit.spread,
        "bic": [{"k": tried, "bic": bic} for tried, bic in fit.bic_by_k.items()],
        "seed": SEED,
        "assumptions": fit.assumptions,
        "method": COHORT_METHOD,
    }


def _pair(pair: Any) -> dict[str, Any]:
    return {
        "first": pair.first,
        "second": pair.second,
        "difference": pair.difference,
        "p": pair.p,
        "p_holm": pair.p_holm,
    }
