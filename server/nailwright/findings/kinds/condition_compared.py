"""Length-mass lines and relative weight of groups held against each other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from rest_framework import serializers

from nailwright.findings.compared import ComparedQuerySerializer
from nailwright.findings.groups import pairs_by_group
from nailwright.findings.registry import FindingKind
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.telling import estimate_row, number
from nailwright.programmes.models import Programme
from nailwright_core.common import species as species_table
from nailwright_core.findings import condition
from nailwright_core.records.wording import condition_comparison_sentence

METHOD = {
    "page": "comparison",
    "text": "Analysis of covariance of log10 mass on log10 length: slopes first; only where they may be parallel are heights "
    "compared, as mass at the common mean length, pairs corrected after Holm. Relative weight by ranks (Kruskal-Wallis), "
    "pairs by Mann-Whitney with Holm.",
    "sources": ["Sokal and Rohlf 1995", "Kruskal and Wallis 1952", "Holm 1979"],
}


Groups = Mapping[str, tuple[NDArray[np.float64], NDArray[np.float64]]]


@dataclass(frozen=True)
class ConditionComparedQuestion:
    """What groups are made by, and the level of the intervals."""

    by: str
    level: float


class FTestSerializer(serializers.Serializer):
    f = serializers.FloatField(allow_null=True)
    df = serializers.ListField(child=serializers.IntegerField(), min_length=2, max_length=2)
    p = serializers.FloatField()


class RankTestSerializer(serializers.Serializer):
    h = serializers.FloatField()
    df = serializers.IntegerField()
    p = serializers.FloatField()


class ConditionGroupSerializer(serializers.Serializer):
    name = serializers.CharField()
    n = serializers.IntegerField()
    slope = EstimateSerializer()
    adjusted = EstimateSerializer(allow_null=True)
    wr = EstimateSerializer(allow_null=True)


class PairSerializer(serializers.Serializer):
    first = serializers.CharField()
    second = serializers.CharField()
    difference = serializers.FloatField()
    p = serializers.FloatField()
    p_holm = serializers.FloatField()


class ConditionComparedSerializer(FindingSerializer):
    at_mm = serializers.FloatField()
    slopes = FTestSerializer()
    heights = FTestSerializer(allow_null=True)
    parallel = serializers.BooleanField()
    groups = ConditionGroupSerializer(many=True)
    line_pairs = PairSerializer(many=True)
    wr_test = RankTestSerializer(allow_null=True)
    wr_pairs = PairSerializer(many=True)


def rows(programme: Programme, selection: Selection, question: ConditionComparedQuestion) -> Groups:
    """Lengths and masses of each group.

    Raises:
        CoreError: ``too_few_groups``, ``too_many_groups``, ``too_few_fish``.
    """
    return pairs_by_group(programme, selection, question.by)


def compute(selection: Selection, groups: Groups, question: ConditionComparedQuestion) -> dict[str, Any]:
    """Lines and relative weight of groups against each other."""
    kind = species_table.get(selection.species)
    lines = condition.compare_lines(groups, question.level)
    fits = {name: condition.fit_length_mass(*pair, question.level) for name, pair in groups.items()}
    weights = {}
    if kind.standard_weight:
        weights = {name: condition.relative_weight(kind, *pair) for name, pair in groups.items()}
        weights = {name: wr for name, wr in weights.items() if np.isfinite(wr).any()}
    values = condition.compare_values(weights) if len(weights) > 1 else None
    means = {name: condition.summarise_relative_weight(kind, *groups[name], question.level).overall for name in weights}
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
        "method": METHOD,
    }


def _pair(pair: Any) -> dict[str, Any]:
    return {
        "first": pair.first,
        "second": pair.second,
        "difference": pair.difference,
        "p": pair.p,
        "p_holm": pair.p_holm,
    }


KIND = FindingKind(
    name="condition-compared",
    query=ComparedQuerySerializer,
    question=lambda asked: ConditionComparedQuestion(asked["by"], asked["level"]),
    rows=rows,
    compute=compute,
    shown=ConditionComparedSerializer,
    seconds=lambda groups: sum(length.size for length, _ in groups.values()) * len(groups) * 2e-6,
)
