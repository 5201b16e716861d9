"""Induction time in a bath, by the water's temperature."""

from __future__ import annotations

from collections import Counter
from dataclasses import asdict, dataclass
from typing import Any

from django.db.models import Count
from rest_framework import serializers

from nailwright.deck.handling.inductions import inductions_in, numbered_baths
from nailwright.deck.models import Capture, Event
from nailwright.findings.formatting import estimate_row
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection, captures_in
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.subjects import HANDLING, events_in
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.deck.handling import AGENTS, PURPOSES
from nailwright_core.findings.induction import induction_by_temperature, induction_sentence

METHOD = {
    "page": "induction",
    "text": "Likelihood of log time by temperature with an effect of each bath: fish of one bath share its strength, its water and the "
    "hand that watched. A fish that was never seen to lose equilibrium counts as longer than until it was last seen upright. Intervals are over baths (t).",
    "sources": ["Tobin 1958", "Laird and Ware 1982"],
}


@dataclass(frozen=True)
class InductionQuestion:
    """Agent and purpose of the baths; where they are empty, those in which most fish of the selection lay."""

    agent: str
    purpose: str


class InductionQuerySerializer(SelectionSerializer):
    agent = serializers.ChoiceField([*AGENTS], required=False, default="")
    purpose = serializers.ChoiceField(PURPOSES, required=False, default="")


class BathOfFishSerializer(serializers.Serializer):
    n = serializers.IntegerField()
    still_up = serializers.IntegerField(help_text="Fish of these that nobody saw lose equilibrium")
    temperature_c = serializers.FloatField()
    mg_l = serializers.FloatField()
    median_s = serializers.FloatField(
        allow_null=True, help_text="None where half of the fish were still upright for longer"
    )


class BathKindSerializer(serializers.Serializer):
    agent = serializers.CharField()
    purpose = serializers.CharField()
    n = serializers.IntegerField(help_text="Fish of the selection that were watched in such baths")


class InductionFindingSerializer(FindingSerializer):
    agent = serializers.CharField()
    purpose = serializers.CharField()
    others = BathKindSerializer(many=True, help_text="All that can be asked for, most fish first")
    baths = BathOfFishSerializer(many=True)
    per_10c = EstimateSerializer(help_text="Time at 10 degrees more, as a ratio")
    at_c = serializers.ListField(child=serializers.FloatField())
    mean_s = serializers.ListField(child=serializers.FloatField())
    lower_s = serializers.ListField(child=serializers.FloatField())
    upper_s = serializers.ListField(child=serializers.FloatField())


@dataclass(frozen=True)
class InductionRows:
    """Each fish that was watched in a bath, as ``deck.inductions`` tells it, the species, and which others lay in baths where none of it did."""

    points: list[dict[str, Any]]
    kind: Species
    others: tuple[str, ...]


def rows(programme: Programme, selection: Selection, question: InductionQuestion) -> InductionRows:
    """Fish of the selection that were watched in a bath."""
    lay = inductions_in(events_in(programme, selection))
    bathed = {each["capture"] for each in lay}
    chosen = set(captures_in(programme, selection).filter(pk__in=bathed).values_list("pk", flat=True))
    points = [each for each in lay if each["capture"] in chosen]
    table = species_of(programme)
    others: tuple[str, ...] = ()
    if lay and not points:
        codes = Capture.objects.filter(pk__in=bathed).values_list("species", flat=True)
        others = tuple(sorted({table[code].common_name for code in codes}))
    return InductionRows(points, table[selection.species], others)


def compute(selection: Selection, found: InductionRows, question: InductionQuestion) -> dict[str, Any]:
    """The line, and the baths it goes through.

    Raises:
        CoreError: ``no_baths`` and as ``induction_by_temperature``.
    """
    kinds = Counter((each["agent"], each["purpose"]) for each in found.points if each["lay"])
    if not kinds:
        raise CoreError(
            "no_baths",
            f"No loss of equilibrium is recorded in a bath for {found.kind.common_name} of this selection"
            + (f"; it is for {', '.join(found.others)}." if found.others else ".")
            + " On the Deck, record the stage of a fish in the bath, and the bath's temperature.",
            "selection",
        )
    most = kinds.most_common(1)[0][0]
    agent, purpose = question.agent or most[0], question.purpose or most[1]
    lay = [each for each in found.points if (each["agent"], each["purpose"]) == (agent, purpose)]
    read = [each for each in lay if each["temperature_c"] is not None]
    line = induction_by_temperature(
        [each["seconds"] for each in read],
        [each["lay"] for each in read],
        [each["temperature_c"] for each in read],
        [each["mg_l"] for each in read],
        numbered_baths(read),
    )
    unread = len(lay) - len(read)
    return {
        "sentence": induction_sentence(line, purpose),
        "species": found.kind,
        "n": line.n,
        "left_out": [{"reason": "in a bath whose temperature was not read", "n": unread}] if unread else [],
        "derived": [],
        "doubts": [],
        "agent": agent,
        "purpose": purpose,
        "others": [{"agent": a, "purpose": p, "n": n} for (a, p), n in kinds.most_common()],
        "baths": [asdict(each) for each in line.baths],
        "per_10c": estimate_row("Time at 10 °C more", "", line.per_10c),
        "at_c": line.at_c,
        "mean_s": line.mean_s,
        "lower_s": line.lower_s,
        "upper_s": line.upper_s,
        "assumptions": line.assumptions,
        "method": METHOD,
    }


def most_bathed(programme: Programme) -> str:
    """The species of which most losses of equilibrium were recorded; empty where there is none."""
    seen = Event.present.filter(kind="stage", capture__programme=programme, capture__deleted_at=None)
    most = seen.order_by().values("capture__species").annotate(n=Count("pk")).order_by("-n").first()
    return most["capture__species"] if most else ""


KIND = FindingKind(
    name="induction",
    query=InductionQuerySerializer,
    question=lambda asked: InductionQuestion(asked["agent"], asked["purpose"]),
    rows=rows,
    compute=compute,
    shown=InductionFindingSerializer,
    seconds=lambda found: 0.0,
    subject=HANDLING,
    first_species=most_bathed,
)
