"""How many fish, from marks let go and looked for over some catches."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from typing import Any

from django.db.models import Q
from rest_framework import serializers

from nailwright.common.below_orm import read_rows
from nailwright.deck.models import Capture
from nailwright.findings.formatting import estimate_row, number, per_cent
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection, captures_in
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.subjects import LOOKED_AT
from nailwright.findings.tagged import most_tagged
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.tags.histories import GROUPINGS
from nailwright.tags.models import Encounter
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption
from nailwright_core.common.species import Species
from nailwright_core.findings.abundance import strata_of_two_catches
from nailwright_core.findings.abundance.marked_catches import from_marks, marks_sentence, shares_marked, with_shares
from nailwright_core.findings.histories import histories

METHOD = {
    "page": "abundance",
    "text": "Fish that were looked at for marks, by catch; marks count from the first time that a fish was met in this selection, and no more once it is known to be lost. "
    "Two catches: Chapman, the hypergeometric distribution inverted; more: Schnabel, profile likelihood, beta-binomial where shares of marks vary more than chance. Where every fish "
    "caught was known from the others: M0, Mt, Mb by profile likelihood, weighed by AICc, and Chao's lower bound.",
    "sources": [
        "Chapman 1951",
        "Schnabel 1938",
        "Schumacher and Eschmeyer 1943",
        "Darroch 1958",
        "Otis et al. 1978",
        "Chao 1987",
    ],
}
#: Where nothing is asked, days are put together so that there are no more catches than this.
MOST_CATCHES = 12


#: What fish are divided by, with the word for one part of each.
PARTS = {"zone": "zone", "site": "site", "sex": "sex", "size": "size group"}
_FIELDS = {"zone": "run__site__zone__name", "site": "run__site__name", "sex": "sex", "size": "length_mm"}


@dataclass(frozen=True)
class MarksQuestion:
    """How days are put together; empty: so that there are at most a dozen catches. ``by``: of ``PARTS``, by what shares of marks are told."""

    catches: str
    by: str


class MarksQuerySerializer(SelectionSerializer):
    catches = serializers.ChoiceField([*GROUPINGS], required=False, default="")
    by = serializers.ChoiceField(
        [*PARTS],
        required=False,
        default="zone",
        help_text="By what shares of marks, and strata of two catches, are told",
    )


class CatchSerializer(serializers.Serializer):
    name = serializers.CharField()
    looked_at = serializers.IntegerField()
    recaptured = serializers.IntegerField(help_text="With a mark of an earlier catch of this selection")
    at_large = serializers.IntegerField(help_text="Marks at large before it")
    let_go = serializers.IntegerField(help_text="Let go with a mark for the first time here")


class WayToTellSerializer(serializers.Serializer):
    name = serializers.CharField()
    taken = serializers.CharField(help_text="What chances of capture are taken to be")
    n = EstimateSerializer()
    weight = serializers.FloatField(allow_null=True, help_text="Per cent by AICc, among the models")


class ShareMarkedSerializer(serializers.Serializer):
    name = serializers.CharField()
    marked = serializers.IntegerField()
    share = EstimateSerializer(help_text="Per cent")


class StratumSerializer(serializers.Serializer):
    name = serializers.CharField()
    marked = serializers.IntegerField()
    caught = serializers.IntegerField()
    recaptured = serializers.IntegerField()
    n = EstimateSerializer()


class StrataSerializer(serializers.Serializer):
    n = EstimateSerializer(help_text="Over all of them")
    each = StratumSerializer(many=True)


class AbundanceMarksFindingSerializer(FindingSerializer):
    catches = serializers.ChoiceField([*GROUPINGS])
    days = serializers.IntegerField(help_text="From the first catch to the last")
    counts = CatchSerializer(many=True)
    best = WayToTellSerializer()
    others = WayToTellSerializer(many=True)
    no_models = serializers.CharField(help_text="Why no model of chances of capture is fitted, where none is")
    by = serializers.ChoiceField([*PARTS])
    parts = ShareMarkedSerializer(many=True, help_text="Zones, sites, sexes or size groups")
    strata = StrataSerializer(allow_null=True, help_text="Where there are two catches: each part estimated by itself")
    no_strata = serializers.CharField(help_text="Why there are none, where two catches would allow them")


@dataclass(frozen=True)
class LookedAt:
    """Captures that were looked at for marks: day, fish (empty where it has none), how many, zone or site; and keys of captures after which a fish was lost."""

    rows: list[tuple[date, str, int, str, str]]
    lost: set[str]
    not_looked_at: int
    kind: Species


def rows(programme: Programme, selection: Selection, question: MarksQuestion) -> LookedAt:
    """The selection's captures."""
    fish = captures_in(programme, selection)
    looked = Q(fish__isnull=False) | ~Q(scanned=Capture.Scanned.NOT)
    kind = species_of(programme)[selection.species]
    told = list(
        read_rows(
            fish.filter(looked)
            .order_by("run__outing__date", "device_time", "id")
            .values_list(
                "run__outing__date", "fish_id", "count", _FIELDS[question.by], "run__outing__water__name", "id"
            )
        )
    )
    many = len({water for *_, water, _ in told}) > 1
    lost = Encounter.objects.filter(
        fish__programme=programme, fish__species=selection.species, disposition__in=Encounter.LOSSES
    )
    return LookedAt(
        [
            (day, str(key or ""), n, _part_named(question.by, value, water if many else "", kind), str(capture))
            for day, key, n, value, water, capture in told
        ],
        {str(key) for key in lost.values_list("source_id", flat=True)},
        fish.exclude(looked).count(),
        kind,
    )


def _part_named(by: str, value: Any, water: str, kind: Species) -> str:
    """The part to which a capture belongs, in words."""
    if by == "sex":
        return str(dict(Capture.Sex.choices).get(value, "")).lower() or "sex not known"
    if by == "size":
        if value is None:
            return "not measured"
        reached = [name for name, low in kind.size_categories or () if value >= low]
        return reached[-1] if reached else "below stock" if kind.size_categories else "no size groups"
    return f"{value}, {water}" if value and water else value or "no zone"


@dataclass(frozen=True)
class _Catches:
    names: list[str]
    looked_at: list[int]
    recaptured: list[int]
    at_large: list[int]
    let_go: list[int]
    nameless: int
    parts: dict[str, tuple[int, int]]
    met: list[tuple[str, int]]
    #: Of the first catch: in which part each fish was let go with a mark.
    marked_in: dict[str, str]
    #: Recaptured fish of the second catch, with the part in which each was.
    again_in: dict[str, str]


def compute(selection: Selection, found: LookedAt, question: MarksQuestion) -> dict[str, Any]:
    """Numbers of fish.

    Raises:
        CoreError: ``nobody_marked`` where no fish of the selection had a mark, ``one_catch``, and as ``from_marks``.
    """
    name = found.kind.common_name
    if not any(fish for _, fish, *_ in found.rows):
        raise CoreError(
            "nobody_marked",
            f"No {name} of this selection carries a mark of its own. Tag fish on the Deck, and look for marks at a later catch.",
            "selection",
        )
    days = [day for day, *_ in found.rows]
    by = question.catches or _few(days)
    told = _counted(found, GROUPINGS[by])
    if len(told.names) < 2:
        raise CoreError(
            "one_catch",
            f"All {sum(told.looked_at):,} {name} were looked at in one catch ({told.names[0]}). It takes two: widen the selection"
            + ("." if by == "day" else ", or let a catch be a day."),
            "catches",
        )
    span = (max(days) - min(days)).days
    x = None
    if not told.nameless:
        _, x = histories([fish for fish, _ in told.met], [at for _, at in told.met], len(told.names))
    parts, mixing = shares_marked(told.parts, part=PARTS[question.by])
    strata, pooling, no_strata = _strata(told, PARTS[question.by])
    marks = with_shares(from_marks(told.looked_at, told.recaptured, told.at_large, span, x), mixing)
    again = sum(told.recaptured)
    return {
        "sentence": marks_sentence(marks, name, len(told.names), sum(told.looked_at), again),
        "species": found.kind,
        "n": again,
        "left_out": [{"reason": "not looked at for a mark", "n": found.not_looked_at}] if found.not_looked_at else [],
        "derived": [],
        "doubts": [],
        "catches": by,
        "days": span,
        "counts": [
            {"name": each, "looked_at": looked, "recaptured": met, "at_large": large, "let_go": new}
            for each, looked, met, large, new in zip(told.names, told.looked_at, told.recaptured, told.at_large, told.let_go, strict=True)
        ],
        "best": _way(marks.best),
        "others": [_way(each) for each in marks.others],
        "no_models": f"{told.nameless:,} of the fish had no mark and got none: whether one of them was caught twice nobody knows." if told.nameless else "",
        "by": question.by,
        "parts": [{"name": each.name, "marked": each.marked, "share": estimate_row(each.name, "%", per_cent(each.share))} for each in parts],
        "strata": strata,
        "no_strata": no_strata,
        "assumptions": (*marks.assumptions, *pooling),
        "method": METHOD,
    }  # fmt: skip


def _strata(told: _Catches, part: str) -> tuple[dict[str, Any] | None, tuple[Assumption, ...], str]:
    """Each part by itself where there are two catches, with the test of whether that was needed; else why not, where two catches would allow it."""
    if len(told.names) != 2 or len(told.parts) < 2:
        return None, (), ""
    marked = Counter(told.marked_in.values())
    caught = {name: n for name, (n, _) in told.parts.items()}
    recaptured = Counter(told.again_in.values())
    moved = sum(told.marked_in[fish] != here for fish, here in told.again_in.items() if fish in told.marked_in)
    try:
        found = strata_of_two_catches(marked, caught, recaptured, moved, part)
    except CoreError as error:
        return None, (), error.message
    each = [
        {
            "name": name,
            "marked": marked[name],
            "caught": caught.get(name, 0),
            "recaptured": recaptured[name],
            "n": estimate_row(name, "fish", mark.n),
        }
        for name, mark in found.strata.items()
    ]
    return {"n": estimate_row("All", "fish", found.n), "each": each}, found.assumptions[:1], ""


def _way(told: Any) -> dict[str, Any]:
    return {
        "name": told.name,
        "taken": told.taken,
        "n": estimate_row(told.name, "fish", told.n),
        "weight": number(100 * told.weight),
    }


def _few(days: list[date]) -> str:
    """The finest way of putting days together that gives a dozen catches or fewer."""
    return next((by for by, named in GROUPINGS.items() if len({named(day) for day in days}) <= MOST_CATCHES), "year")


def _counted(found: LookedAt, named: Callable[[date], str]) -> _Catches:
    """Each catch: a fish met twice in it counts once; its mark counts from the next catch on, unless it did not go back."""
    names = list(dict.fromkeys(named(day) for day, *_ in found.rows))
    told = _Catches(names, [], [], [], [], 0, {}, [], {}, {})
    at_large: set[str] = set()
    nameless = 0
    parts: dict[str, tuple[int, int]] = {}
    by_catch: dict[str, list[tuple[date, str, int, str, str]]] = {each: [] for each in names}
    for row in found.rows:
        by_catch[named(row[0])].append(row)
    for place, name in enumerate(names):
        here = by_catch[name]
        known = {
            fish: (part, capture) for _, fish, _, part, capture in here if fish
        }  # the last meeting of a catch says how it ended
        plain = [(n, part) for _, fish, n, part, _ in here if not fish]
        again = known.keys() & at_large
        nameless += sum(n for n, _ in plain)
        if at_large:  # before there are marks none can be looked for
            for fish, (part, _) in known.items():
                n, k = parts.get(part, (0, 0))
                parts[part] = (n + 1, k + (fish in again))
            for many, part in plain:
                n, k = parts.get(part, (0, 0))
                parts[part] = (n + many, k)
        told.looked_at.append(len(known) + sum(n for n, _ in plain))
        told.recaptured.append(len(again))
        told.at_large.append(len(at_large))
        alive = {fish for fish, (_, capture) in known.items() if capture not in found.lost}
        told.let_go.append(len(alive - at_large))
        at_large = (at_large - known.keys()) | alive
        told.met.extend((fish, place) for fish in known)
        if place == 0:
            told.marked_in.update((fish, known[fish][0]) for fish in alive)
        elif place == 1:
            told.again_in.update((fish, known[fish][0]) for fish in again)
    return _Catches(
        names,
        told.looked_at,
        told.recaptured,
        told.at_large,
        told.let_go,
        nameless,
        dict(sorted(parts.items(), key=lambda part: _by_figures(part[0]))),
        told.met,
        told.marked_in,
        told.again_in,
    )


def _by_figures(name: str) -> list[tuple[float, str]]:
    """K4 before K39: figures in a name are read as numbers."""
    pieces = re.split(r"(\d+(?:\.\d+)?)", name)
    return [(float(piece), "") if place % 2 else (-1.0, piece) for place, piece in enumerate(pieces)]


KIND = FindingKind(
    name="abundance-marks",
    query=MarksQuerySerializer,
    question=lambda asked: MarksQuestion(asked["catches"], asked["by"]),
    rows=rows,
    compute=compute,
    shown=AbundanceMarksFindingSerializer,
    seconds=lambda found: 0.0,
    subject=LOOKED_AT,
    first_species=most_tagged,
)
