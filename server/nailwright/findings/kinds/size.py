"""Size structure."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from rest_framework import serializers

from nailwright.deck.serializers import CategorySerializer
from nailwright.findings.formatting import about_years, categories_of, estimate_row, nothing_to_show, number
from nailwright.findings.queries import Lengths, lengths_of
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SizeQuerySerializer, over_any_year
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.programmes.models import Programme
from nailwright_core.common.by_site import median_by_site
from nailwright_core.common.intervals import median_interval
from nailwright_core.findings import size_structure
from nailwright_core.records.wording import size_sentence

METHOD = {
    "page": "size-structure",
    "text": "Length-frequency in bins [start, start + width). Proportional size distribution: 100 x fish of a category's "
    "length or longer / fish of stock length or longer, Wilson intervals; incremental shares with simultaneous intervals; "
    "median with order-statistic interval. Over sites: Wilson for as many independent fish as would tell as much (leaving "
    "out one site after the other), t in place of z on the degrees of freedom of that variance; median after Woodruff. Over sites and "
    "years: both variances added.",
    "sources": [
        "Gabelhouse 1984",
        "Guy et al. 2007",
        "Wilson 1927",
        "Goodman 1965",
        "Korn and Graubard 1998",
        "Bell and McCaffrey 2002",
        "Woodruff 1952",
    ],
}


class SizeOfOneQuerySerializer(SizeQuerySerializer):
    over = over_any_year()


@dataclass(frozen=True)
class SizeQuestion:
    """Width of the bins (mm; suggested where it is None), level of the intervals, and what they are over ("sites", "years", "fish")."""

    bin_mm: float | None
    level: float
    over: str


class FrequencySerializer(serializers.Serializer):
    edges = serializers.ListField(child=serializers.FloatField())
    counts = serializers.ListField(child=serializers.IntegerField())
    bin_mm = serializers.FloatField()
    suggested_mm = serializers.FloatField()
    freedman_diaconis_mm = serializers.FloatField(allow_null=True)
    offered_mm = serializers.ListField(child=serializers.FloatField())


class SizeFindingSerializer(FindingSerializer):
    frequency = FrequencySerializer()
    categories = CategorySerializer(many=True)
    median = EstimateSerializer()
    distribution = EstimateSerializer(many=True)
    n_stock = serializers.IntegerField(allow_null=True)


def rows(programme: Programme, selection: Selection, question: SizeQuestion) -> Lengths:
    """The selection's lengths."""
    return lengths_of(programme, selection)


def compute(selection: Selection, lengths: Lengths, question: SizeQuestion) -> dict[str, Any]:
    """Size structure.

    Raises:
        CoreError: ``no_lengths`` where the selection holds no usable length, and as core's functions.
    """
    kind = lengths.kind
    if lengths.length_mm.size == 0:
        raise nothing_to_show(kind, "measured", lengths.left_out)
    suggested = size_structure.suggest_bin(lengths.length_mm)
    width = suggested if question.bin_mm is None else question.bin_mm
    frequency = size_structure.length_frequency(lengths.length_mm, width)
    sites = None if question.over == "fish" else lengths.sites
    years = lengths.years if question.over == "years" else None
    if sites is None:
        median = median_interval(lengths.length_mm, question.level)
    else:
        median, _ = median_by_site(lengths.length_mm, sites, question.level, years)
    distribution = None
    if kind.size_categories:
        distribution = size_structure.proportional_size_distribution(
            lengths.length_mm, kind.size_categories, question.level, sites, years
        )
    return {
        "sentence": size_sentence(kind, distribution, median),
        "species": kind,
        "n": lengths.length_mm.size,
        "left_out": lengths.left_out,
        "derived": lengths.derived,
        "doubts": lengths.doubts,
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
        "assumptions": (
            *(distribution.assumptions if distribution else ()),
            *about_years(question.over, lengths.years),
        ),
        "method": METHOD,
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


KIND = FindingKind(
    name="size",
    query=SizeOfOneQuerySerializer,
    question=lambda asked: SizeQuestion(asked.get("bin_mm"), asked["level"], asked["over"]),
    rows=rows,
    compute=compute,
    shown=SizeFindingSerializer,
    seconds=lambda lengths: lengths.length_mm.size * 1e-7,
)
