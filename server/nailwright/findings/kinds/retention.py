"""How many tags of a kind stay in their fish."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from rest_framework import serializers

from nailwright.findings.formatting import estimate_row, per_cent
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.subjects import MARKS
from nailwright.findings.tagged import Tagged, TagsInFishSerializer, most_tagged, tagged_with
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.tags.models import TagKind
from nailwright.tags.retention_rows import Sightings, sightings_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.findings.tag_retention import Kept, read_rate, retention_sentence, tag_retention

METHOD = {
    "page": "retention",
    "text": "Fish that crews met again and knew by another mark, most often a PIT: the share that still carried the tag when last seen, with the "
    "exact binomial interval; over time r(t) = rho exp(-L t) by likelihood, loss lying between two sightings, with profile intervals.",
    "sources": ["Clopper and Pearson 1934", "Seber 1982", "Barrowman and Myers 1996"],
}
#: What tags are grouped by, in words.
GROUPS = {
    "batch": "batch", "colour": "colour", "site": "place on the body", "quality": "quality of placement", "year": "year of tagging",
}  # fmt: skip


@dataclass(frozen=True)
class RetentionQuestion:
    """Kind of the tag, empty: the one of which most are in fish; and what its groups are made by."""

    tag: str
    by: str


class RetentionQuerySerializer(SelectionSerializer):
    tag = serializers.ChoiceField(TagKind.choices, required=False, default="")
    by = serializers.ChoiceField([*GROUPS], required=False, default="batch")


class KeptSerializer(serializers.Serializer):
    name = serializers.CharField()
    kept = EstimateSerializer(help_text="Share that still carried it, per cent")
    median_days = serializers.FloatField(help_text="From tagging to the last sighting")


class RetentionFindingSerializer(FindingSerializer):
    tag = serializers.ChoiceField(TagKind.choices)
    by = serializers.ChoiceField([*GROUPS])
    kinds = TagsInFishSerializer(many=True, help_text="All that can be asked for, most tags first")
    kept = KeptSerializer(help_text="Of all of them")
    groups = KeptSerializer(many=True)
    lost_a_year = EstimateSerializer(
        allow_null=True, help_text="Of those kept beyond the first days, the share lost in a year; per cent"
    )
    at_once = EstimateSerializer(allow_null=True, help_text="Kept beyond the first days, per cent")
    read = EstimateSerializer(
        allow_null=True,
        help_text="How often it was read when it must have been there, since it was read later; per cent",
    )
    at_days = serializers.ListField(child=serializers.FloatField())
    mean = serializers.ListField(child=serializers.FloatField(), help_text="Kept, per cent")
    lower = serializers.ListField(child=serializers.FloatField())
    upper = serializers.ListField(child=serializers.FloatField())


@dataclass(frozen=True)
class RetentionRows:
    """Sightings of the chosen kind, and how many tags of each kind are in fish of the species."""

    tagged: Tagged
    seen: Sightings
    kind: Species


def rows(programme: Programme, selection: Selection, question: RetentionQuestion) -> RetentionRows:
    """What crews saw of the tags.

    Raises:
        CoreError: ``no_tags`` where no fish of the species carries one.
    """
    kind = species_of(programme)[selection.species]
    tagged = tagged_with(programme, kind, question.tag)
    return RetentionRows(tagged, sightings_of(programme, selection.species, tagged.tag), kind)


def compute(selection: Selection, found: RetentionRows, question: RetentionQuestion) -> dict[str, Any]:
    """Shares, groups, and the curve.

    Raises:
        CoreError: ``no_fish`` where none was met again by another mark, and as ``tag_retention``.
    """
    seen, label = found.seen, found.tagged.label
    if not seen.told:
        raise CoreError(
            "no_fish",
            f"No {found.kind.common_name} with a {label} tag was met again by a crew and known by another mark ({seen.not_met} not met again, "
            f"{seen.by_itself} known by this tag alone, {seen.unsaid} of which nobody said whether it was there). Give fish a PIT beside it, scan them, and "
            "read the visible tag or say on the Deck that it is gone.",
            "selection",
        )
    told = tag_retention(
        [each.days for each in seen.told],
        [each.gone for each in seen.told],
        [each.seen_with for each in seen.told],
        [each.about[question.by] for each in seen.told],
        sum(each.lasting for each in seen.told),
    )
    left_out = (
        ("not met again by a crew", seen.not_met),
        ("known by this tag alone", seen.by_itself),
        ("met, and nobody said whether it was there", seen.unsaid),
    )
    curve = told.curve
    return {
        "sentence": retention_sentence(told, found.kind.common_name, label),
        "species": found.kind,
        "n": len(seen.told),
        "left_out": [{"reason": reason, "n": n} for reason, n in left_out if n],
        "derived": [],
        "doubts": [],
        "tag": found.tagged.tag,
        "by": question.by,
        "kinds": found.tagged.shown(),
        "kept": _kept(told.all),
        "groups": [_kept(each) for each in told.groups],
        "lost_a_year": estimate_row("Lost a year after that", "%", per_cent(curve.lost_a_year)) if curve else None,
        "at_once": estimate_row("Kept beyond the first days", "%", per_cent(curve.rho)) if curve else None,
        "read": estimate_row("Read when it was there", "%", per_cent(read_rate(seen.read, seen.there)))
        if seen.there
        else None,
        "at_days": told.at_days,
        "mean": [100 * each for each in told.mean],
        "lower": [100 * each for each in told.lower],
        "upper": [100 * each for each in told.upper],
        "assumptions": told.assumptions,
        "method": METHOD,
    }


def _kept(group: Kept) -> dict[str, Any]:
    return {
        "name": group.name,
        "kept": estimate_row(group.name, "%", per_cent(group.share)),
        "median_days": group.median_days,
    }


KIND = FindingKind(
    name="retention",
    query=RetentionQuerySerializer,
    question=lambda asked: RetentionQuestion(asked["tag"], asked["by"]),
    rows=rows,
    compute=compute,
    shown=RetentionFindingSerializer,
    seconds=lambda found: 0.0,
    subject=MARKS,
    first_species=most_tagged,
)
