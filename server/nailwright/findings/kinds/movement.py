"""Movement of marked fish: how many stay, from where to where, how far in what time, at what time of the year."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from rest_framework import serializers

from nailwright.findings.formatting import number, percent_row
from nailwright.findings.groups import season_of
from nailwright.findings.movements.moved_fish import MovedFish, moved_fish
from nailwright.findings.movements.where_looked import scale_of, zones_of
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.subjects import ENCOUNTERS
from nailwright.findings.tagged import most_tagged
from nailwright.waters.models import Site
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.movements.staying import Stay, share_of_fish, staying
from nailwright_core.movements.words import movement_sentence

METHOD = {
    "page": "movement",
    "text": "From each encounter to the next, from where the fish was let go: geodesic distance, along the rivers' lines where both places lie on them. "
    "Share within a distance: Wilson's interval over fish. Zone to zone: counts, and counts over the effort of the zone in which the fish was met. "
    "Scale of movement: Laplace kernel, each cell weighted by its effort, profile interval.",
    "sources": ["Karney 2013", "Dijkstra 1959", "Korn and Graubard 1998", "Hilborn 1990", "Rodriguez 2002"],
}
BY = ("time", "zone", "season", "size", "sex", "tag")
WITHIN_M = (500, 1000, 2000, 5000, 10000)
LEAST_DAYS = (0, 1, 7, 30, 90, 365)
#: More journeys than this are drawn by every so manieth.
MOST_DRAWN = 4000
LONGEST = 5


@dataclass(frozen=True)
class MovementQuestion:
    """What groups are made by, the distance to stay within (m), and least days of a journey."""

    by: str
    within_m: int
    days: int


class MovementQuerySerializer(SelectionSerializer):
    by = serializers.ChoiceField(BY, required=False, default="time")
    within_m = serializers.ChoiceField(WITHIN_M, required=False, default=2000)
    days = serializers.ChoiceField(
        LEAST_DAYS, required=False, default=7, help_text="Least days from one encounter to the next"
    )


class StaySerializer(serializers.Serializer):
    name = serializers.CharField()
    share = EstimateSerializer(help_text="Ended within the distance, per cent")
    stayed = serializers.IntegerField()
    fish = serializers.IntegerField()


class JourneyOfFishSerializer(serializers.Serializer):
    fish = serializers.UUIDField()
    ended = serializers.DateField(help_text="Day on which it was met at the end")
    days = serializers.FloatField()
    km = serializers.FloatField(help_text="Along the water where both places lie on it")
    error_km = serializers.FloatField(help_text="Of both places together")
    up_km = serializers.FloatField(allow_null=True, help_text="Along one water, above 0 upstream")
    from_km = serializers.FloatField(allow_null=True)
    to_km = serializers.FloatField(allow_null=True)
    day_of_year = serializers.IntegerField(help_text="On which it was met at the end")
    start = serializers.CharField(help_text="Name of the place where it began")
    end = serializers.CharField()
    body_lengths_a_day = serializers.FloatField(allow_null=True)


class MatrixSerializer(serializers.Serializer):
    zones = serializers.ListField(child=serializers.CharField())
    counts = serializers.ListField(child=serializers.ListField(child=serializers.IntegerField()))
    effort = serializers.ListField(child=serializers.FloatField())
    effort_unit = serializers.CharField(help_text="One of it: an hour of current, a rod-hour ...")
    corrected = serializers.ListField(
        child=serializers.ListField(child=serializers.FloatField(allow_null=True)), help_text="Per cent of a row"
    )


class ScaleSerializer(serializers.Serializer):
    water = serializers.CharField()
    scale = EstimateSerializer()
    unadjusted = serializers.FloatField(help_text="km; as if effort were alike everywhere")
    unseen = serializers.FloatField(help_text="Per cent of the kernel that lies where nobody fished")


class MovementFindingSerializer(FindingSerializer):
    by = serializers.ChoiceField(BY)
    within_m = serializers.IntegerField()
    days = serializers.IntegerField()
    groups = StaySerializer(many=True)
    all = StaySerializer()
    median_km = serializers.FloatField()
    median_days = serializers.FloatField()
    directions = EstimateSerializer(
        many=True,
        help_text="Of those that moved beyond their error along one water, per cent upstream; of all, and by the season of their end",
    )
    homing = EstimateSerializer(
        allow_null=True,
        help_text="Of the fish met in the season of tagging a year or more later, per cent within the distance of where they were tagged",
    )
    straight = serializers.IntegerField(
        help_text="Journeys whose distance is the straight line: a place lies on no drawn river"
    )
    journeys = JourneyOfFishSerializer(many=True, help_text="Of many, every so manieth")
    longest = JourneyOfFishSerializer(many=True)
    matrix = MatrixSerializer(allow_null=True)
    scale = ScaleSerializer(allow_null=True)
    no_scale = serializers.CharField(help_text="Why no scale is told, where none is")


def compute(selection: Selection, found: MovedFish, question: MovementQuestion) -> dict[str, Any]:
    """Shares, matrix and scale.

    Raises:
        CoreError: ``no_journeys`` where no fish was met again after so many days, and as core's functions.
    """
    made, name = found.made, found.kind.common_name
    late = made.days >= question.days
    known = late & ~np.isnan(found.water_m)
    if not known.any():
        again = int((made.days >= 0).sum())
        raise CoreError(
            "no_journeys",
            f"No {name} was met again after {question.days} days or more at a place that is known"
            + (
                f"; {again} were sooner. Ask for fewer days."
                if again and not late.any()
                else ". A journey needs a tagged fish that is met twice."
            ),
            "selection",
        )
    at = np.flatnonzero(known)
    fish = found.of.met.fish[made.start[at]]
    stay = staying(
        found.water_m[at],
        made.error_m[at],
        fish,
        [_group(found, j, question.by) for j in at.tolist()],
        question.within_m,
    )
    order = at[np.argsort(-found.water_m[at], kind="stable")]
    farthest = order[0]
    scale, why = scale_of(found, at)
    drawn = at[:: -(-at.size // MOST_DRAWN)]
    return {
        "sentence": movement_sentence(
            stay, name, question.days, question.within_m, float(np.median(found.water_m[at])), float(found.water_m[farthest]), float(made.days[farthest])
        ),
        "species": found.kind,
        "n": int(at.size),
        "left_out": _left_out(late, found.water_m, stay.unsure, question.days),
        "derived": [],
        "doubts": [],
        "by": question.by,
        "within_m": question.within_m,
        "days": question.days,
        "all": _stay(stay.all),
        "groups": [_stay(each) for each in sorted(stay.groups, key=lambda each: _place_in_order(found.kind, each.name))],
        "median_km": float(np.median(found.water_m[at])) / 1000,
        "median_days": float(np.median(made.days[at])),
        "directions": _directions(found, at),
        "homing": _homing(found, question.within_m),
        "straight": int((~found.by_water[at]).sum()),
        "journeys": [_journey(found, j) for j in drawn],
        "longest": [_journey(found, j) for j in order[:LONGEST]],
        "matrix": zones_of(found, at),
        "scale": scale,
        "no_scale": why,
        "assumptions": stay.assumptions,
        "method": METHOD,
    }  # fmt: skip


_TIMES = ((30.0, "less than 30 days"), (365.0, "30 days to a year"), (np.inf, "more than a year"))


def _place_in_order(kind: Species, name: str) -> int:
    """Times from the shortest, sizes from the smallest; other groups stand as their names do."""
    ordered = [words for _, words in _TIMES] + ["smaller", *(_size_words(*each) for each in kind.size_categories or ())]
    return ordered.index(name) if name in ordered else len(ordered)


def _group(found: MovedFish, j: int, by: str) -> str:
    made, of = found.made, found.of
    start = int(made.start[j])
    fish = str(of.met.fish[start])
    if by == "time":
        return next(words for days, words in _TIMES if made.days[j] < days)
    if by == "zone":
        return of.zone_of(start) or "no zone"
    if by == "size":
        return _size_class(found.kind, float(of.met.length_mm[start]))
    if by == "season":
        return _season(of.met.at[start])
    return (found.sex if by == "sex" else found.tags).get(fish, "unknown" if by == "sex" else "no tag of ours")


def _left_out(late: NDArray[np.bool_], water_m: NDArray[np.float64], unsure: int, days: int) -> list[dict[str, Any]]:
    told = (
        (f"journeys of less than {days} days", int((~late).sum())),
        ("journeys with a place that is not known", int((late & np.isnan(water_m)).sum())),
        ("journeys whose places are known too roughly to say", unsure),
    )
    return [{"reason": reason, "n": n} for reason, n in told if n]


def _size_class(kind: Species, length_mm: float) -> str:
    """Of the species' size categories the largest that a fish has reached when it was let go."""
    if np.isnan(length_mm):
        return "not measured"
    reached = [_size_words(name, mm) for name, mm in kind.size_categories or () if length_mm >= mm]
    return reached[-1] if reached else "smaller" if kind.size_categories else "no size categories"


def _size_words(name: str, mm: float) -> str:
    return f"{name} ({mm:g} mm) +"


def _stay(told: Stay) -> dict[str, Any]:
    return {"name": told.name, "share": percent_row(told.name, told.share), "stayed": told.stayed, "fish": told.fish}


def _directions(found: MovedFish, at: NDArray[np.int64]) -> list[dict[str, Any]]:
    """Of the journeys along one water that are beyond their error, the share upstream: of all, and by the season in which they ended."""
    up = found.up_km[at]
    moved = ~np.isnan(up) & (np.abs(up) * 1000 > found.made.error_m[at])
    if not moved.any():
        return []
    ends, upstream = found.made.end[at][moved], up[moved] > 0
    seasons = np.array([_season(found.of.met.at[end]) for end in ends.tolist()])
    fish = found.of.met.fish[ends]
    rows = [percent_row("Upstream, of those that moved", share_of_fish("all", upstream, fish).share)]
    there = [each for each in _SEASONS if (seasons == each).any()]
    for each in there if len(there) > 1 else ():
        here = seasons == each
        rows.append(percent_row(f"Upstream, met in {each}", share_of_fish(each, upstream[here], fish[here]).share))
    return rows


def _homing(found: MovedFish, within_m: float) -> dict[str, Any] | None:
    """Of the fish met in the season of their tagging in a later year, the share within the distance of where they were tagged."""
    known = ~np.isnan(found.back_m)
    fish = found.of.met.fish[found.back.start[known]]
    try:
        told = staying(found.back_m[known], found.back.error_m[known], fish, ["all"] * fish.size, within_m)
    except CoreError:  # no fish was, or its places are known too roughly
        return None
    return percent_row("Back in the season of tagging, a year or more later", told.all.share)


_SEASONS = ("winter", "spring", "summer", "autumn")


def _season(at: np.datetime64) -> str:
    return season_of(int(str(at.astype("datetime64[M]"))[5:]))


def _journey(found: MovedFish, j: int) -> dict[str, Any]:
    made, met = found.made, found.of.met
    start, end = int(made.start[j]), int(made.end[j])
    length, days = met.length_mm[start], float(made.days[j])
    rate = found.water_m[j] * 1000 / length / days if length > 0 and days > 0 else np.nan
    return {
        "fish": str(met.fish[start]),
        "ended": str(met.at[end].astype("datetime64[D]")),
        "days": days,
        "km": float(found.water_m[j]) / 1000,
        "error_km": float(made.error_m[j]) / 1000,
        "up_km": number(float(found.up_km[j])),
        "from_km": number(float(met.river_km[start])),
        "to_km": number(float(met.river_km[end])),
        "day_of_year": int((met.at[end].astype("datetime64[D]") - met.at[end].astype("datetime64[Y]")).astype(int)) + 1,
        "start": _place(found, start),
        "end": _place(found, end),
        "body_lengths_a_day": number(float(rate)),
    }


def _place(found: MovedFish, encounter: int) -> str:
    site: Site | None = found.of.sites.get(str(found.of.site[encounter]))
    return f"{site.name}, {site.water.name}" if site else "a place that is no site"


KIND = FindingKind(
    name="movement",
    query=MovementQuerySerializer,
    question=lambda asked: MovementQuestion(asked["by"], int(asked["within_m"]), int(asked["days"])),
    rows=lambda programme, selection, question: moved_fish(programme, selection.species),
    compute=compute,
    shown=MovementFindingSerializer,
    seconds=lambda found: 0.0,
    subject=ENCOUNTERS,
    first_species=most_tagged,
    tells_places=True,
)
