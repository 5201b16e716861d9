"""Lengths of groups held against each other."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from itertools import combinations
from typing import Any

import numpy as np
from numpy.typing import NDArray
from rest_framework import serializers

from nailwright.deck.serializers import CategorySerializer
from nailwright.findings.comparison_query import ComparedQuerySerializer
from nailwright.findings.formatting import categories_of, estimate_row, number, trend_row
from nailwright.findings.groups import GroupedFish, grouped
from nailwright.findings.registry import FindingKind
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer, TrendSerializer
from nailwright.programmes.models import Programme
from nailwright_core.common.by_site import median_by_site
from nailwright_core.common.estimate import Assumption
from nailwright_core.common.intervals import median_interval
from nailwright_core.common.multiple import holm
from nailwright_core.findings import size_structure
from nailwright_core.findings.board_steps import on_one_grid
from nailwright_core.findings.group_trend import group_trend
from nailwright_core.findings.length_comparison import LengthComparison
from nailwright_core.records.wording import size_comparison_sentence

SEED = 20240501


METHOD = {
    "page": "comparison",
    "text": "Kolmogorov-Smirnov distance of each pair with its permutation p, corrected after Holm. Fish of one site are alike, so "
    "sites are permuted, not fish: a site with fish of both groups changes their labels within itself. Shift: the median of all "
    "differences between a fish of one group and one of the other, with the shifts that the same permutations of ranks do not "
    "refute. Where there are too few sites to refute anything so, means and PSD are compared by t over sites. Over fish: permutations of "
    "fish (counted up to 10,000, beyond that drawn), shift by Mann and Whitney's test.",
    "sources": ["Kolmogorov 1933; Smirnov 1939", "Hodges and Lehmann 1963", "Holm 1979", "Gabelhouse 1984"],
}


@dataclass(frozen=True)
class SizeComparedQuestion:
    """What groups are made by, width of the bins (mm; suggested where it is None), level of the intervals, what they are over."""

    by: str
    bin_mm: float | None
    level: float
    over_sites: bool


class ComparedGroupSerializer(serializers.Serializer):
    name = serializers.CharField()
    n = serializers.IntegerField()
    counts = serializers.ListField(child=serializers.IntegerField())
    median = EstimateSerializer()
    psd = EstimateSerializer(allow_null=True)


class LengthPairSerializer(serializers.Serializer):
    first = serializers.CharField()
    second = serializers.CharField()
    ks = serializers.FloatField()
    ks_p = serializers.FloatField()
    test = serializers.CharField()
    p_holm = serializers.FloatField(allow_null=True)
    p_at_most = serializers.BooleanField(help_text="Whether p is only known to be at most that")
    shift = EstimateSerializer()
    category_p = serializers.FloatField(allow_null=True)


class SizeComparedSerializer(FindingSerializer):
    edges = serializers.ListField(child=serializers.FloatField())
    bin_mm = serializers.FloatField()
    categories = CategorySerializer(many=True)
    groups = ComparedGroupSerializer(many=True)
    pairs = LengthPairSerializer(many=True)
    trend = TrendSerializer(allow_null=True)


def rows(programme: Programme, selection: Selection, question: SizeComparedQuestion) -> GroupedFish:
    """Lengths of each group.

    Raises:
        CoreError: ``too_few_groups``, ``too_many_groups``, ``too_few_fish``.
    """
    return grouped(programme, selection, question.by, weighed=False)


def compute(selection: Selection, found: GroupedFish, question: SizeComparedQuestion) -> dict[str, Any]:
    """Lengths of groups against each other."""
    kind = found.kind
    over_sites = question.over_sites and found.by_site
    grid = on_one_grid({name: group.length_mm for name, group in found.groups.items()})
    lengths = grid.lengths
    everything = np.concatenate(list(lengths.values()))
    width = size_structure.suggest_bin(everything) if question.bin_mm is None else question.bin_mm
    frame = size_structure.length_frequency(everything, width)
    pairs_of_groups = list(combinations(lengths, 2))
    compared = {
        (a, b): size_structure.compare_lengths(
            lengths[a], lengths[b], SEED, kind.size_categories, question.level,
            (found.groups[a].sites, found.groups[b].sites) if over_sites else None, len(pairs_of_groups),
        )
        for a, b in pairs_of_groups
    }  # fmt: skip
    corrected = holm([each.p for each in compared.values()])
    rows = _group_rows(found, lengths, question, width, frame)
    pairs: list[dict[str, Any]] = [
        {
            "first": first,
            "second": second,
            "ks": each.ks,
            "ks_p": each.ks_p,
            "test": each.test,
            "p_holm": number(p),
            "p_at_most": each.ks_p_at_most,
            "shift": estimate_row("Shift", "mm", each.shift),
            "category_p": each.category_p,
        }
        for ((first, second), each), p in zip(compared.items(), corrected, strict=True)
    ]
    medians: dict[str, float] = {row["name"]: row["median"]["value"] for row in rows}
    order = found.order
    trend = (
        None if order is None else group_trend(list(medians.values()), order.at, order.per, order.along, question.level)
    )
    return {
        "sentence": size_comparison_sentence(
            kind, medians, corrected, {each.test for each in compared.values()}, trend
        ),
        "species": kind,
        "n": everything.size,
        "left_out": found.left_out,
        "derived": found.derived,
        "doubts": found.doubts,
        "edges": frame.edges.tolist(),
        "bin_mm": width,
        "categories": categories_of(kind),
        "groups": rows,
        "pairs": pairs,
        "trend": trend_row(trend, "mm"),
        "assumptions": (
            *_weakest(compared.values()),
            grid.assumption,
            *found.alike,
            *(trend.assumptions if trend else ()),
        ),
        "method": METHOD,
    }


def _group_rows(
    found: GroupedFish,
    lengths: Mapping[str, NDArray[np.float64]],
    question: SizeComparedQuestion,
    width: float,
    frame: size_structure.LengthFrequency,
) -> list[dict[str, Any]]:
    """Each group's counts in the classes of all fish, its median and PSD."""
    rows: list[dict[str, Any]] = []
    for name, group in found.groups.items():
        sites = group.sites if question.over_sites and found.by_site else None
        distribution = None
        if found.kind.size_categories:
            distribution = size_structure.proportional_size_distribution(
                lengths[name], found.kind.size_categories, question.level, sites
            )
        counts = size_structure.length_frequency(lengths[name], width, float(frame.edges[0])).counts
        if sites is None:
            median = median_interval(lengths[name], question.level)
        else:
            median, _ = median_by_site(lengths[name], sites, question.level)
        rows.append(
            {
                "name": name,
                "n": lengths[name].size,
                "counts": [*counts.tolist(), *[0] * (len(frame.counts) - len(counts))],
                "median": estimate_row("Median length", "mm", median),
                "psd": estimate_row("PSD", "%", distribution.psd) if distribution else None,
            }
        )
    return rows


def _weakest(compared: Iterable[LengthComparison]) -> tuple[Assumption, ...]:
    """Of each assumption the pair in which it is most in doubt: a doubt about one pair must not hide behind another."""
    found: dict[str, Assumption] = {}
    for assumption in (each for pair in compared for each in pair.assumptions):
        if assumption.name not in found or assumption.verdict == "doubtful":
            found[assumption.name] = assumption
    return tuple(found.values())


def _seconds(found: GroupedFish) -> float:
    """Each pair is permuted, by site or fish by fish: a fraction of a second, which does not grow beyond that."""
    return len(found.groups) * (len(found.groups) - 1) / 2 * 0.15


KIND = FindingKind(
    name="size-compared",
    query=ComparedQuerySerializer,
    question=lambda asked: SizeComparedQuestion(
        asked["by"], asked.get("bin_mm"), asked["level"], asked["over"] == "sites"
    ),
    rows=rows,
    compute=compute,
    shown=SizeComparedSerializer,
    seconds=_seconds,
    seed=SEED,
)
