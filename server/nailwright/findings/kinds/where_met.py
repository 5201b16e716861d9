"""Where marked fish were met: every encounter with its place and time, for the map."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from rest_framework import serializers

from nailwright.findings.movements.met_fish import MetFish, met_fish
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import FindingSerializer
from nailwright.findings.subjects import ENCOUNTERS
from nailwright.findings.tagged import most_tagged
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.tags.models import Encounter
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption
from nailwright_core.common.species import Species
from nailwright_core.movements.journeys import journeys
from nailwright_core.movements.words import where_met_sentence

METHOD = {
    "page": "movement",
    "text": "Each encounter stands where it was told, with its error; a line goes from where a fish was let go to where it was met next, "
    "and is no path that the fish swam. What lies within the errors of both places is no move.",
    "sources": ["Karney 2013", "RFC 7946"],
}
#: The newest so many are drawn; a browser pans and plays so many without a wait (bin/bench).
MOST_DRAWN = 200_000
#: How an encounter came to be known, in the order of ``kind``.
KINDS = (
    (Encounter.Kind.CAPTURE, "by a crew"),
    (Encounter.Kind.CARD, "by a volunteer"),
    (Encounter.Kind.RETURN, "by a finder"),
    (Encounter.Kind.GATE, "at a gate"),
)
_KIND_AT = {str(kind): n for n, (kind, _) in enumerate(KINDS)}


@dataclass(frozen=True)
class WhereMetQuestion:
    """Nothing but the species."""


@dataclass(frozen=True)
class WhereMet:
    """Encounters of a species, and the species."""

    of: MetFish
    kind: Species


class MetPointsSerializer(serializers.Serializer):
    """Columns, a row an encounter in order of time."""

    fish = serializers.ListField(child=serializers.IntegerField(), help_text="Place in ``fish``")
    kind = serializers.ListField(child=serializers.IntegerField(), help_text="Place in ``kinds``")
    at = serializers.ListField(child=serializers.IntegerField(), help_text="Seconds since 1970, UTC")
    lon = serializers.ListField(child=serializers.FloatField(), help_text="Degrees, WGS 84")
    lat = serializers.ListField(child=serializers.FloatField(), help_text="Degrees, WGS 84")
    error_m = serializers.ListField(child=serializers.IntegerField(), help_text="How far it may be off, m")
    place = serializers.ListField(child=serializers.IntegerField(), help_text="Place in ``places``; -1: at no site")


class LegsSerializer(serializers.Serializer):
    """Columns, a row a journey that went farther than its places may be off, in order of its end."""

    end = serializers.ListField(child=serializers.IntegerField(), help_text="Row of ``points`` at which it ended")
    lon = serializers.ListField(child=serializers.FloatField(), help_text="Where the fish was let go, degrees")
    lat = serializers.ListField(child=serializers.FloatField(), help_text="Where the fish was let go, degrees")


class MetPlaceSerializer(serializers.Serializer):
    name = serializers.CharField()
    water = serializers.CharField()
    encounters = serializers.IntegerField()
    fish = serializers.IntegerField()


class WhereMetFindingSerializer(FindingSerializer):
    fish = serializers.ListField(child=serializers.UUIDField())
    kinds = serializers.ListField(child=serializers.CharField())
    points = MetPointsSerializer()
    legs = LegsSerializer()
    places = MetPlaceSerializer(many=True, help_text="Sites, that of most encounters first")


def rows(programme: Programme, selection: Selection, question: WhereMetQuestion) -> WhereMet:
    return WhereMet(met_fish(programme, selection.species), species_of(programme)[selection.species])


def compute(selection: Selection, found: WhereMet, question: WhereMetQuestion) -> dict[str, Any]:
    """Columns of the newest encounters whose place is known.

    Raises:
        CoreError: ``nobody_met`` where there is none.
    """
    of, met = found.of, found.of.met
    known = ~np.isnan(met.lat) & ~np.isnan(met.lon)
    at = np.flatnonzero(known)
    name = found.kind.common_name
    if not at.size:
        raise CoreError(
            "nobody_met",
            f"No tagged {name} was met at a place that is known"
            + (f"; {known.size} were met at places that nobody told." if known.size else ". Tag a fish, and it is on the map."),
            "selection",
        )  # fmt: skip
    older = at[: max(0, at.size - MOST_DRAWN)]
    at = at[older.size :]
    fish, of_fish = np.unique(met.fish[at], return_inverse=True)
    sites = Counter(of.site[at].tolist())
    sites.pop("", None)
    order = [key for key, _ in sites.most_common()]
    place = {key: n for n, key in enumerate(order)}
    waters = {of.sites[key].water.name for key in order}
    days = met.at[at[[0, -1]]].astype("datetime64[D]")
    return {
        "sentence": where_met_sentence(at.size, fish.size, name, str(days[0]), str(days[1]), sum(sites.values()), len(order), sorted(waters)),
        "species": found.kind,
        "n": int(at.size),
        "left_out": [
            {"reason": reason, "n": int(n)}
            for reason, n in (("at places that nobody told", (~known).sum()), ("older encounters", older.size))
            if n
        ],
        "derived": [],
        "doubts": [],
        "fish": fish.tolist(),
        "kinds": [words for _, words in KINDS],
        "points": {
            "fish": of_fish.tolist(),
            "kind": [_KIND_AT[kind] for kind in of.kind[at].tolist()],
            "at": met.at[at].astype("datetime64[s]").astype(np.int64).tolist(),
            "lon": met.lon[at].round(6).tolist(),
            "lat": met.lat[at].round(6).tolist(),
            "error_m": np.ceil(met.error_m[at]).astype(np.int64).tolist(),
            "place": [place.get(key, -1) for key in of.site[at].tolist()],
        },
        "legs": _legs(of, at),
        "places": _places(of, at, order),
        "assumptions": (_looked(of, order), _errors(met.error_m[at])),
        "method": METHOD,
    }  # fmt: skip


def _legs(of: MetFish, at: NDArray[np.int64]) -> dict[str, list[float]]:
    """Journeys, as core has them, to the encounters that are drawn."""
    made = journeys(of.met)
    row = np.full(of.met.at.size, -1)
    row[at] = np.arange(at.size)
    moved = np.flatnonzero((made.moved == "moved") & (row[made.end] >= 0))
    moved = moved[np.argsort(row[made.end[moved]])]
    lat, lon = of.met.begins
    start = made.start[moved]
    return {
        "end": row[made.end[moved]].tolist(),
        "lon": lon[start].round(6).tolist(),
        "lat": lat[start].round(6).tolist(),
    }


def _places(of: MetFish, at: NDArray[np.int64], order: list[str]) -> list[dict[str, Any]]:
    site, fish = of.site[at], of.met.fish[at]
    different = Counter(key for key, _ in set(zip(site.tolist(), fish.tolist(), strict=True)))
    met = Counter(site.tolist())
    return [
        {
            "name": of.sites[key].name,
            "water": of.sites[key].water.name,
            "encounters": met[key],
            "fish": different[key],
        }
        for key in order
    ]


def _looked(of: MetFish, order: list[str]) -> Assumption:
    return Assumption(
        "Fish were looked for everywhere",
        "not checked",
        f"The map shows where fish were met, which is also where people fished: {len(order)} of the programme's {len(of.sites)} sites. "
        "An empty stretch may be one where nobody looked.",
    )


def _errors(error_m: NDArray[np.float64]) -> Assumption:
    return Assumption(
        "Places are true within their errors",
        "not checked",
        f"Half are within {np.median(error_m):,.0f} m of where they stand, the roughest within {np.max(error_m):,.0f} m; rings show it "
        "where the map is near enough.",
    )


KIND = FindingKind(
    name="where-met",
    query=SelectionSerializer,
    question=lambda asked: WhereMetQuestion(),
    rows=rows,
    compute=compute,
    shown=WhereMetFindingSerializer,
    seconds=lambda found: 0.0,
    subject=ENCOUNTERS,
    first_species=most_tagged,
    tells_places=True,
)
