"""Length-mass lines and relative weight of groups held against each other."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from rest_framework import serializers

from nailwright.findings.comparison_query import ComparedQuerySerializer
from nailwright.findings.formatting import estimate_row, number, trend_row
from nailwright.findings.groups import GroupedFish, grouped
from nailwright.findings.registry import FindingKind
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer, TrendSerializer
from nailwright.programmes.models import Programme
from nailwright_core.common.by_site import INDEPENDENT_FISH
from nailwright_core.common.estimate import Assumption
from nailwright_core.findings.condition_comparison import ConditionComparison, compare_condition
from nailwright_core.findings.group_trend import group_trend
from nailwright_core.records.wording import condition_comparison_sentence

METHOD = {
    "page": "comparison",
    "text": "Each group has its own line of log10 mass on log10 length. A pair of lines is tested once, height and slope together "
    "(Hotelling's F); how far it differs is told at a short, a middle and a long length that all groups hold. Relative weight by "
    "the difference of means. All p of one comparison are corrected together after Holm. Over sites: variances by leaving out one "
    "site after the other. Over fish: White's covariance (HC3); relative weight by Mann and Whitney with the shift of Hodges and "
    "Lehmann.",
    "sources": ["MacKinnon and White 1985", "Hodges and Lehmann 1963", "Mann and Whitney 1947", "Holm 1979"],
}


@dataclass(frozen=True)
class ConditionComparedQuestion:
    """What groups are made by, the level of the intervals, whether they are over sites, and the benchmark of Wr (%)."""

    by: str
    level: float
    over_sites: bool
    benchmark: tuple[float, float]


class ConditionGroupSerializer(serializers.Serializer):
    name = serializers.CharField()
    n = serializers.IntegerField()
    slope = EstimateSerializer()
    masses = EstimateSerializer(many=True, help_text="Mass at each of the lengths")
    wr = EstimateSerializer(allow_null=True)
    wr_by_category = EstimateSerializer(many=True)


class LinePairSerializer(serializers.Serializer):
    first = serializers.CharField()
    second = serializers.CharField()
    differences = EstimateSerializer(
        many=True, help_text="Of the second from the first at each of the lengths, per cent"
    )
    p_holm = serializers.FloatField(allow_null=True)


class ValuePairSerializer(serializers.Serializer):
    first = serializers.CharField()
    second = serializers.CharField()
    difference = EstimateSerializer()
    p_holm = serializers.FloatField(allow_null=True)


class CategoryPairSerializer(serializers.Serializer):
    category = serializers.CharField()
    first = serializers.CharField()
    second = serializers.CharField()
    difference = EstimateSerializer()


class ConditionComparedSerializer(FindingSerializer):
    benchmark = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)
    at_mm = serializers.ListField(child=serializers.FloatField(), min_length=3, max_length=3)
    groups = ConditionGroupSerializer(many=True)
    line_pairs = LinePairSerializer(many=True)
    wr_pairs = ValuePairSerializer(many=True)
    category_pairs = CategoryPairSerializer(many=True)
    trend = TrendSerializer(allow_null=True)


def rows(programme: Programme, selection: Selection, question: ConditionComparedQuestion) -> GroupedFish:
    """Lengths and masses of each group.

    Raises:
        CoreError: ``too_few_groups``, ``too_many_groups``, ``too_few_fish``.
    """
    return grouped(programme, selection, question.by, weighed=True)


def compute(selection: Selection, given: GroupedFish, question: ConditionComparedQuestion) -> dict[str, Any]:
    """Lines and relative weight of groups against each other."""
    kind = given.kind
    over_sites = question.over_sites and given.by_site
    groups = {name: (group.length_mm, group.mass_g) for name, group in given.groups.items()}
    sites = {name: group.sites for name, group in given.groups.items()} if over_sites else None
    found = compare_condition(kind, groups, question.level, sites)
    lines = found.lines
    order = given.order
    middle = [lines.masses[name][1].value for name in groups]
    trend = (
        None if order is None else group_trend(middle, order.at, order.per, order.along, question.level, per_cent=True)
    )
    return {
        "sentence": condition_comparison_sentence(kind, found, trend),
        "species": kind,
        "n": sum(lines.n.values()),
        "left_out": given.left_out,
        "derived": given.derived,
        "doubts": given.doubts,
        "at_mm": lines.at_mm,
        "groups": [
            {
                "name": name,
                "n": lines.n[name],
                "slope": estimate_row("Slope b", "", lines.slopes[name]),
                "masses": [
                    estimate_row(f"Mass at {at:.0f} mm", "g", each)
                    for at, each in zip(lines.at_mm, lines.masses[name], strict=True)
                ],
                "wr": estimate_row("Mean Wr", "", found.wr[name].overall) if name in found.wr else None,
                "wr_by_category": [
                    estimate_row(category, "", each) for category, each in found.wr[name].by_category.items()
                ]
                if name in found.wr
                else [],
            }
            for name in groups
        ],
        **_pairs(found),
        "trend": trend_row(trend, "%"),
        "assumptions": (*_assumptions(found, over_sites), *given.alike, *(trend.assumptions if trend else ())),
        "benchmark": question.benchmark,
        "method": METHOD,
    }


def _pairs(found: ConditionComparison) -> dict[str, Any]:
    """Differences of lines, of relative weight, and of that in size categories."""
    return {
        "line_pairs": [
            {
                "first": each.first,
                "second": each.second,
                "differences": [
                    estimate_row(f"at {at:.0f} mm", "%", part)
                    for at, part in zip(found.lines.at_mm, each.differences, strict=True)
                ],
                "p_holm": number(p),
            }
            for each, p in zip(found.lines.pairs, found.line_p, strict=True)
        ],
        "wr_pairs": [
            {
                "first": each.first,
                "second": each.second,
                "difference": estimate_row("Difference of Wr", "", each.difference),
                "p_holm": number(p),
            }
            for each, p in zip(found.wr_pairs, found.wr_p, strict=True)
        ],
        "category_pairs": [
            {
                "category": each.category,
                "first": each.first,
                "second": each.second,
                "difference": estimate_row("Difference of mean Wr", "", each.difference),
            }
            for each in found.by_category
        ],
    }


def _assumptions(found: ConditionComparison, over_sites: bool) -> list[Assumption]:
    shared = Assumption(
        "Groups hold fish of the same lengths",
        "holds" if found.lines.shared else "doubtful",
        f"Lines are compared at {', '.join(f'{at:.0f}' for at in found.lines.at_mm)} mm"
        + (
            ", which every group holds."
            if found.lines.shared
            else ": beyond the fish of some groups, where lines are only drawn on."
        ),
    )
    if not over_sites:
        return [shared, INDEPENDENT_FISH]
    untold = int(np.isnan([*found.line_p, *found.wr_p]).sum())
    told = (
        f"{untold} of the pairs have too few sites to say anything"
        if untold
        else "Variances and p are over sites, not over fish"
    )
    return [shared, Assumption("Fish of one site may be alike", "doubtful" if untold else "holds", f"{told}.")]


def _seconds(found: GroupedFish) -> float:
    fish = sum(group.length_mm.size for group in found.groups.values())
    pairs = len(found.groups) * (len(found.groups) - 1) / 2
    return pairs * (0.1 + fish / len(found.groups) * 1e-6)


KIND = FindingKind(
    name="condition-compared",
    query=ComparedQuerySerializer,
    question=lambda asked: ConditionComparedQuestion(
        asked["by"], asked["level"], asked["over"] == "sites", asked["benchmark"]
    ),
    rows=rows,
    compute=compute,
    shown=ConditionComparedSerializer,
    seconds=_seconds,
)
