"""How many tags that went out were reported by finders."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from django.db.models import Max
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
from nailwright.returns.models import Return
from nailwright.tags.models import Encounter, Placement, TagKind
from nailwright.tags.retention_rows import about_placement
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.findings.return_rate import Returned, return_rate, return_sentence

METHOD = {
    "page": "returns",
    "text": "Tags in fish that were let go alive, and of these the share that finders reported and a person verified, with the exact binomial "
    "interval. Where some tags promise a reward, the reporting rate is (R/N) / (R_h/N_h) of two binomials, with a profile interval.",
    "sources": ["Clopper and Pearson 1934", "Henny and Burnham 1976", "Pollock et al. 2001"],
}
BY = ("year", "batch", "colour", "reward")
_A_YEAR = timedelta(days=365)


@dataclass(frozen=True)
class ReturnQuestion:
    """Kind of the tag, empty: the visible one of which most are in fish; what its groups are made by; and whether only the first year counts."""

    tag: str
    by: str
    first_year: bool


class ReturnRateQuerySerializer(SelectionSerializer):
    tag = serializers.ChoiceField(TagKind.choices, required=False, default="")
    by = serializers.ChoiceField(BY, required=False, default="year")
    first_year = serializers.BooleanField(
        required=False,
        default=False,
        help_text="Only reports within a year of release, of tags that were out for a year: years can be compared",
    )


class ReturnedSerializer(serializers.Serializer):
    name = serializers.CharField()
    reported = serializers.IntegerField()
    share = EstimateSerializer(help_text="Reported, per cent")


class ReturnRateFindingSerializer(FindingSerializer):
    tag = serializers.ChoiceField(TagKind.choices)
    by = serializers.ChoiceField(BY)
    first_year = serializers.BooleanField()
    kinds = TagsInFishSerializer(many=True, help_text="All that can be asked for, most tags first")
    groups = ReturnedSerializer(many=True)
    reporting = EstimateSerializer(
        allow_null=True, help_text="Share of met tags that are reported, by those with a reward; per cent"
    )


@dataclass(frozen=True)
class ReturnRows:
    """Of each tag that went out: whether it was reported, whether with a reward, and its group; with those left out."""

    tagged: Tagged
    reported: list[bool]
    reward: list[bool]
    groups: list[str]
    left_out: tuple[tuple[str, int], ...]
    kind: Species


def rows(programme: Programme, selection: Selection, question: ReturnQuestion) -> ReturnRows:
    """Tags that went out in fish of the species.

    Raises:
        CoreError: ``no_tags`` where no fish of the species was given one that can be seen.
    """
    kind = species_of(programme)[selection.species]
    tagged = tagged_with(programme, kind, question.tag)
    placed = Placement.present.filter(tag__programme=programme, fish__species=selection.species, tag__kind=tagged.tag)
    kept_aboard = set(
        Encounter.objects.filter(fish__programme=programme, disposition__in=Encounter.LOSSES).values_list("source_id", flat=True)
    )  # fmt: skip
    told = _first_reports(programme)
    until = _last_day(programme)
    reported, reward, groups, lost, young = [], [], [], 0, 0
    for each in placed.select_related("tag__batch"):
        day = each.device_time.date()
        if each.capture_id in kept_aboard:
            lost += 1
        elif question.first_year and (until is None or day > until - _A_YEAR):
            young += 1
        else:
            found = told.get(each.tag_id)
            reported.append(found is not None and (not question.first_year or found <= day + _A_YEAR))
            reward.append(bool(each.tag.batch and each.tag.batch.reward))
            groups.append(_group(each, question.by, programme.currency))
    left_out = (("not let go alive", lost), ("out for less than a year", young))
    return ReturnRows(tagged, reported, reward, groups, left_out, kind)


def compute(selection: Selection, found: ReturnRows, question: ReturnQuestion) -> dict[str, Any]:
    """Shares by group, and the reporting rate.

    Raises:
        CoreError: ``no_tags`` where none went out (for a year), and as ``return_rate``.
    """
    label = found.tagged.label
    if not found.reported:
        raise CoreError(
            "no_tags",
            f"No {found.kind.common_name} was let go with a {label}"
            + (" a year ago or more." if question.first_year else "."),
            "selection",
        )
    told = return_rate(found.reported, found.reward, found.groups)
    return {
        "sentence": return_sentence(told, found.kind.common_name, label, question.first_year),
        "species": found.kind,
        "n": told.all.share.n,
        "left_out": [{"reason": reason, "n": n} for reason, n in found.left_out if n],
        "derived": [],
        "doubts": [],
        "tag": found.tagged.tag,
        "by": question.by,
        "first_year": question.first_year,
        "kinds": found.tagged.shown(),
        "groups": [_returned(each) for each in told.groups],
        "reporting": estimate_row("Reported of those met", "%", per_cent(told.reporting)) if told.reporting else None,
        "assumptions": told.assumptions,
        "method": METHOD,
    }


def _returned(group: Returned) -> dict[str, Any]:
    return {
        "name": group.name,
        "reported": group.reported,
        "share": estimate_row(group.name, "%", per_cent(group.share)),
    }


def _first_reports(programme: Programme) -> Mapping[UUID, date]:
    """The day of the first verified report of each tag."""
    verified = Return.objects.filter(programme=programme, state=Return.State.VERIFIED).exclude(found_on=None)
    latest_first = verified.exclude(tag=None).order_by("-found_on").values_list("tag_id", "found_on")
    return {tag: day for tag, day in latest_first if tag and day}


def _last_day(programme: Programme) -> date | None:
    """Up to when the record goes: not today, so that an answer stands as long as its rows do."""
    met = Encounter.objects.filter(fish__programme=programme).aggregate(last=Max("at"))["last"]
    return met.date() if met else None


def _group(placement: Placement, by: str, currency: str) -> str:
    if by != "reward":
        return about_placement(placement)[by]
    reward = placement.tag.batch.reward if placement.tag.batch else None
    return f"reward of {reward:g} {currency}".strip() if reward else "no reward"


KIND = FindingKind(
    name="return-rate",
    query=ReturnRateQuerySerializer,
    question=lambda asked: ReturnQuestion(asked["tag"], asked["by"], asked["first_year"]),
    rows=rows,
    compute=compute,
    shown=ReturnRateFindingSerializer,
    seconds=lambda found: 0.0,
    subject=MARKS,
    first_species=most_tagged,
)
