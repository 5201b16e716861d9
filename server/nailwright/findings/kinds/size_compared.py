"""Lengths of groups held against each other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations
from typing import Any

import numpy as np
from numpy.typing import NDArray
from rest_framework import serializers

from nailwright.deck.serializers import CategorySerializer
from nailwright.findings.compared import ComparedQuerySerializer
from nailwright.findings.groups import lengths_by_group
from nailwright.findings.registry import FindingKind
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.telling import categories_of, estimate_row
from nailwright.programmes.models import Programme
from nailwright_core.common import species as species_table
from nailwright_core.common.intervals import median_interval
from nailwright_core.common.multiple import holm
from nailwright_core.findings import size_structure
from nailwright_core.records.wording import size_comparison_sentence

SEED = 20240501


METHOD = {
    "page": "comparison",
    "text": "Kolmogorov-Smirnov distance of each pair with its permutation p (counted up to 10,000 fish, beyond that drawn), corrected after Holm; difference of "
    "medians by bootstrap; size categories by chi-square. Lengths on a millimetre board tie, so the textbook p does not hold.",
    "sources": ["Kolmogorov 1933; Smirnov 1939", "Holm 1979", "Gabelhouse 1984"],
}


Groups = Mapping[str, NDArray[np.float64]]


@dataclass(frozen=True)
class SizeComparedQuestion:
    """What groups are made by, width of the bins (mm; suggested where it is None), level of the intervals."""

    by: str
    bin_mm: float | None
    level: float


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
    p_holm = serializers.FloatField()
    p_at_most = serializers.BooleanField(help_text="Whether p is only known to be at most that")
    median_difference = EstimateSerializer()
    category_p = serializers.FloatField(allow_null=True)


class SizeComparedSerializer(FindingSerializer):
    edges = serializers.ListField(child=serializers.FloatField())
    bin_mm = serializers.FloatField()
    categories = CategorySerializer(many=True)
    groups = ComparedGroupSerializer(many=True)
    pairs = LengthPairSerializer(many=True)


def rows(programme: Programme, selection: Selection, question: SizeComparedQuestion) -> Groups:
    """Lengths of each group.

    Raises:
        CoreError: ``too_few_groups``, ``too_many_groups``, ``too_few_fish``.
    """
    return lengths_by_group(programme, selection, question.by)


def compute(selection: Selection, groups: Groups, question: SizeComparedQuestion) -> dict[str, Any]:
    """Lengths of groups against each other."""
    kind = species_table.get(selection.species)
    everything = np.concatenate(list(groups.values()))
    width = size_structure.suggest_bin(everything) if question.bin_mm is None else question.bin_mm
    frame = size_structure.length_frequency(everything, width)
    found = {pair: size_structure.compare_lengths(groups[pair[0]], groups[pair[1]], SEED, kind.size_categories, question.level)
             for pair in combinations(groups, 2)}  # fmt: skip
    corrected = holm([each.ks_p for each in found.values()])
    rows: list[dict[str, Any]] = []
    for name, lengths in groups.items():
        distribution = None
        if kind.size_categories:
            distribution = size_structure.proportional_size_distribution(lengths, kind.size_categories, question.level)
        counts = size_structure.length_frequency(lengths, width, float(frame.edges[0])).counts
        rows.append(
            {
                "name": name,
                "n": lengths.size,
                "counts": [*counts.tolist(), *[0] * (len(frame.counts) - len(counts))],
                "median": estimate_row("Median length", "mm", median_interval(lengths, question.level)),
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
            "p_at_most": each.ks_p_at_most,
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
        "method": METHOD,
    }


def _seconds(groups: Groups) -> float:
    """Each pair is permuted: counted fish by fish, or drawn at a cost that does not grow."""
    sizes = [lengths.size for lengths in groups.values()]
    return sum(min((a + b) * 2e-5, 0.25) for a, b in combinations(sizes, 2))


KIND = FindingKind(
    name="size-compared",
    query=ComparedQuerySerializer,
    question=lambda asked: SizeComparedQuestion(asked["by"], asked.get("bin_mm"), asked["level"]),
    rows=rows,
    compute=compute,
    shown=SizeComparedSerializer,
    seconds=_seconds,
    seed=SEED,
)
