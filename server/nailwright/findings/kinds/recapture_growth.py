"""Growth of marked fish that were measured twice."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from rest_framework import serializers

from nailwright.findings.formatting import estimate_row, number
from nailwright.findings.movements.met_fish import measured_as, met_fish, sex_of, tag_kinds_of
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.subjects import ENCOUNTERS
from nailwright.findings.tagged import most_tagged
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.findings.growth.increments import LEAST, Increments, growth_by_increments, growth_sentence

METHOD = {
    "page": "growth",
    "text": "Of each fish the first and the last measured length. Von Bertalanffy's curve by Francis' likelihood: growth differs from fish to fish by a share of its mean, and two "
    "measurements have an error. Growth is told at lengths; intervals by t, leaving out one lot of fish after the other; length without end by Fieller. A second fit looks for gross slips.",
    "sources": ["Fabens 1965", "Francis 1988", "Fieller 1954"],
}
BY = ("sex", "tag", "zone")
LEAST_DAYS = (30, 90, 180, 365)
DAYS_PER_YEAR = 365.25
MONTHS_PER_YEAR = 12
#: More fish than this are drawn by every so manieth.
MOST_DRAWN = 3000


@dataclass(frozen=True)
class GrowthQuestion:
    """Least days between the two lengths, what groups are made by, and the error of the difference of two lengths (mm) where it is known."""

    days: int
    by: str
    error_mm: float | None


class GrowthQuerySerializer(SelectionSerializer):
    days = serializers.ChoiceField(
        LEAST_DAYS, required=False, default=90, help_text="Least days between the two lengths"
    )
    by = serializers.ChoiceField(BY, required=False, default="sex")
    error_mm = serializers.FloatField(
        required=False,
        min_value=0.1,
        max_value=100,
        help_text="SD of the difference of two lengths of one fish, from repeat measurements, mm",
    )


class GrownSerializer(serializers.Serializer):
    fish = serializers.UUIDField()
    length_mm = serializers.FloatField(help_text="At the first")
    grown_mm = serializers.FloatField()
    days = serializers.FloatField()
    mm_month = serializers.FloatField()
    mm_year = serializers.FloatField()
    expected_mm = serializers.FloatField(help_text="By the curve")


class GrowthAtSerializer(serializers.Serializer):
    length_mm = serializers.FloatField()
    mm_year = serializers.FloatField()


class GroupGrowthSerializer(serializers.Serializer):
    name = serializers.CharField()
    n = serializers.IntegerField()
    growth = EstimateSerializer(
        allow_null=True, help_text="In a year at the middle length, mm; none of fewer than ten fish"
    )


class RecaptureGrowthFindingSerializer(FindingSerializer):
    days = serializers.IntegerField()
    by = serializers.ChoiceField(BY)
    error_mm = serializers.FloatField(allow_null=True)
    at = EstimateSerializer(many=True, help_text="Growth in a year at some lengths, mm")
    line = GrowthAtSerializer(many=True, help_text="The mean at the least and the greatest length of these fish")
    curve = EstimateSerializer(many=True, help_text="Of the curve; not those of length at age")
    variation = serializers.FloatField(help_text="By how much growth differs from fish to fish, per cent of its mean")
    estimated_error_mm = serializers.FloatField()
    middle_mm = serializers.FloatField(help_text="The length at which groups are compared")
    groups = GroupGrowthSerializer(many=True)
    fish = GrownSerializer(many=True, help_text="Of many, every so manieth")


@dataclass(frozen=True)
class MeasuredTwice:
    """Fish with two lengths, each column of shape (n,), and how many were measured twice within too few days, and lengths of another type or by others."""

    fish: list[str]
    increments: Increments
    groups: list[str]
    too_soon: int
    other_lengths: int
    kind: Species


def rows(programme: Programme, selection: Selection, question: GrowthQuestion) -> MeasuredTwice:
    """The first and the last length of each fish that are so many days apart."""
    of = met_fish(programme, selection.species)
    kind = species_of(programme)[selection.species]
    own = measured_as(programme, selection.species, kind.length_type)
    lengths = ~np.isnan(of.met.length_mm)
    # the same way both times: a fork length that follows a total length is no shrinking, and a finder's rule no board
    alike = lengths & np.array([source in own for source in of.source], dtype=bool)
    measured = np.flatnonzero(alike)  # in order of time
    names, whose = np.unique(of.met.fish[measured], return_inverse=True)
    first = np.full(names.size, -1)
    first[whose[::-1]] = measured[::-1]  # the earliest is written last
    last = np.full(names.size, -1)
    last[whose] = measured
    days = (of.met.at[last] - of.met.at[first]) / np.timedelta64(1, "D")
    chosen = days >= question.days
    start, end = first[chosen], last[chosen]
    keys = [str(name) for name in names[chosen]]
    return MeasuredTwice(
        keys,
        Increments(
            of.met.length_mm[start], of.met.length_mm[end] - of.met.length_mm[start], days[chosen] / DAYS_PER_YEAR
        ),
        _groups(programme, selection.species, question.by, keys, [of.zone_of(int(place)) for place in start]),
        int(((days > 0) & ~chosen).sum()),
        int((lengths & ~alike).sum()),
        kind,
    )


def compute(selection: Selection, found: MeasuredTwice, question: GrowthQuestion) -> dict[str, Any]:
    """Growth at lengths.

    Raises:
        CoreError: as ``growth_by_increments``.
    """
    told = found.increments
    n = int(told.length_mm.size)
    if n < LEAST:
        raise CoreError(
            "fish_too_few",
            f"{n} {found.kind.common_name} were measured twice {question.days} days or more apart; {LEAST} are needed."
            + (f" {found.too_soon} more were measured again sooner." if found.too_soon else ""),
            "selection",
        )
    grown = growth_by_increments(told, error_mm=question.error_mm)
    middle = round(float(np.median(told.length_mm)), -1)
    curve = [
        ("Length without end", "mm", grown.l_infinity),
        ("K", "1/year", grown.k),
        ("Less growth for 100 mm more", "mm/year", grown.slows),
    ]
    return {
        "sentence": growth_sentence(grown, found.kind.common_name, n, float(np.median(told.years)) * MONTHS_PER_YEAR),
        "species": found.kind,
        "n": n,
        "left_out": [
            {"reason": reason, "n": left}
            for reason, left in (
                (f"measured again in less than {question.days} days", found.too_soon),
                ("lengths of another type, or not by a crew", found.other_lengths),
            )
            if left
        ],
        "derived": [],
        "doubts": [],
        "days": question.days,
        "by": question.by,
        "error_mm": question.error_mm,
        "at": [estimate_row(f"{mm:g} mm", "mm/year", each) for mm, each in grown.at],
        "line": [
            {"length_mm": mm, "mm_year": float(grown.in_a_year(mm))}
            for mm in (float(told.length_mm.min()), float(told.length_mm.max()))
        ],
        "curve": [estimate_row(name, unit, each) for name, unit, each in curve if each],
        "variation": 100 * grown.variation,
        "estimated_error_mm": grown.error_mm,
        "middle_mm": middle,
        "groups": [_group(name, found, middle, question.error_mm) for name in sorted(set(found.groups))],
        "fish": _drawn(found, grown.expected_mm),
        "assumptions": grown.assumptions,
        "method": METHOD,
    }


def _groups(programme: Programme, species: str, by: str, keys: list[str], zones: list[str]) -> list[str]:
    if by == "zone":
        return [zone or "no zone" for zone in zones]
    known = sex_of(programme, species) if by == "sex" else tag_kinds_of(programme, species)
    return [known.get(key, "unknown" if by == "sex" else "no tag of ours") for key in keys]


def _group(name: str, found: MeasuredTwice, middle: float, error_mm: float | None) -> dict[str, Any]:
    here = np.array([each == name for each in found.groups])
    n = int(here.sum())
    try:
        told = growth_by_increments(_some(found.increments, here), [middle], error_mm)
    except CoreError:  # too few, or all alike: the group is shown with its number alone
        return {"name": name, "n": n, "growth": None}
    return {"name": name, "n": n, "growth": estimate_row(name, "mm/year", told.at[0][1])}


def _some(all_of: Increments, here: NDArray[np.bool_]) -> Increments:
    return Increments(all_of.length_mm[here], all_of.grown_mm[here], all_of.years[here])


def _drawn(found: MeasuredTwice, expected: NDArray[np.float64]) -> list[dict[str, Any]]:
    of = found.increments
    return [
        {
            "fish": found.fish[place],
            "length_mm": float(of.length_mm[place]),
            "grown_mm": float(of.grown_mm[place]),
            "days": float(of.years[place]) * DAYS_PER_YEAR,
            "mm_month": float(of.grown_mm[place] / of.years[place] / MONTHS_PER_YEAR),
            "mm_year": float(of.grown_mm[place] / of.years[place]),
            "expected_mm": number(float(expected[place])),
        }
        for place in range(0, len(found.fish), -(-len(found.fish) // MOST_DRAWN))
    ]


KIND = FindingKind(
    name="recapture-growth",
    query=GrowthQuerySerializer,
    question=lambda asked: GrowthQuestion(int(asked["days"]), asked["by"], asked.get("error_mm")),
    rows=rows,
    compute=compute,
    shown=RecaptureGrowthFindingSerializer,
    # a fit of all and of each group, each anew without each of forty lots
    seconds=lambda found: (1 + len(set(found.groups))) * (0.3 + 2e-4 * found.increments.length_mm.size),
    subject=ENCOUNTERS,
    first_species=most_tagged,
)
