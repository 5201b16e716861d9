"""How many fish, from passes at closed sites."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db.models import Sum
from rest_framework import serializers

from nailwright.deck.models import Run
from nailwright.findings.formatting import estimate_row, number
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection, captures_in, runs_in
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.subjects import CATCHES
from nailwright.programmes.models import Programme
from nailwright.programmes.protocols import standing_protocol
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.deck.gears import GEARS
from nailwright_core.findings.abundance import FALLS
from nailwright_core.findings.abundance.passes_at_sites import (
    FromPasses,
    SitePasses,
    SiteTold,
    from_passes,
    passes_sentence,
)

METHOD = {
    "page": "abundance",
    "text": "Runs of current at one site on one outing are its passes; of a site the last such visit counts. Each site: averaged over falls of the chance of capture from pass to "
    "pass, as the protocol weights them, and as if it stayed the same (Carle and Strub). Over sites: one likelihood of the chance of capture among sites, interval by t over sites, log scale. "
    "By effort: the fall of catch per minute of current with the fish taken out (Leslie) and, on the log scale, with the effort spent (DeLury).",
    "sources": [
        "Carle and Strub 1978",
        "Leslie and Davis 1939",
        "DeLury 1947",
        "Peterson et al. 2004",
        "Rosenberger and Dunham 2005",
    ],
}
METRES, SECONDS_PER_MINUTE = 100.0, 60.0


@dataclass(frozen=True)
class RemovalQuestion:
    """Nothing more than the selection."""


class SiteOfPassesSerializer(serializers.Serializer):
    name = serializers.CharField()
    date = serializers.DateField()
    catches = serializers.ListField(child=serializers.IntegerField())
    distance_m = serializers.FloatField(allow_null=True)
    n = EstimateSerializer(
        allow_null=True, help_text="Averaged over falls of the chance of capture; from three passes on"
    )
    alike = EstimateSerializer(allow_null=True, help_text="As if that chance stayed the same")
    least = serializers.FloatField(allow_null=True, help_text="From two passes: at no fall")
    minutes = serializers.ListField(
        child=serializers.FloatField(), help_text="Of current, pass by pass; none where one is not known"
    )
    leslie = EstimateSerializer(allow_null=True, help_text="From the fall of catch per minute; from three passes on")
    delury = EstimateSerializer(allow_null=True, help_text="The same on the log scale")
    most = serializers.FloatField(allow_null=True, help_text="At the largest fall; none where it explains any number")


class AbundanceRemovalFindingSerializer(FindingSerializer):
    sites = SiteOfPassesSerializer(many=True)
    density = EstimateSerializer(allow_null=True)
    no_density = serializers.CharField(help_text="Why none is told over sites, where none is")
    capture = serializers.FloatField(allow_null=True, help_text="Mean chance of capture in a pass, per cent")
    passes = serializers.IntegerField()


@dataclass(frozen=True)
class RemovalRows:
    """Sites with the day of their last visit in passes, and how likely each fall is."""

    sites: list[tuple[Any, SitePasses]]
    falls: dict[float, float]
    left_out: tuple[tuple[str, int], ...]
    kind: Species


def rows(programme: Programme, selection: Selection, question: RemovalQuestion) -> RemovalRows:
    """The last visit in passes of each site of the selection."""
    electric = [code for code, gear in GEARS.items() if gear.electric]
    chosen = (
        runs_in(programme, selection)
        .filter(gear__in=electric)
        .select_related("outing__water", "site")
        .order_by("outing__date", "started_at", "number")
    )
    visits: dict[tuple[UUID, UUID, str], list[Run]] = defaultdict(list)
    for run in chosen:
        visits[run.site_id, run.outing_id, run.gear].append(run)
    several = {key: runs for key, runs in visits.items() if len(runs) > 1}
    last: dict[UUID, list[Run]] = {}
    for (site, _, _), runs in several.items():
        last[site] = runs
    fish = captures_in(programme, selection).filter(run__in=[run.pk for runs in last.values() for run in runs])
    caught = dict(fish.values_list("run_id").annotate(n=Sum("count")).order_by())
    many = len({runs[0].outing.water_id for runs in last.values()}) > 1
    sites = [(runs[0].outing.date, _passes(runs, caught, many)) for runs in last.values()]
    weights = {
        float(row["fall"] or 0) / 100: float(row["weight"] or 0)
        for row in standing_protocol(programme).rows("removal_falls")
    }
    left_out = (
        ("visits of one pass", len(visits) - len(several)),
        ("earlier visits in passes", len(several) - len(last)),
    )
    return RemovalRows(sites, weights or dict(FALLS), left_out, species_of(programme)[selection.species])


def compute(selection: Selection, found: RemovalRows, question: RemovalQuestion) -> dict[str, Any]:
    """Fish at each site, and over sites.

    Raises:
        CoreError: ``no_passes`` where no site was fished twice on one outing, and as ``from_passes``.
    """
    name = found.kind.common_name
    if not found.sites:
        raise CoreError(
            "no_passes",
            "No site of this selection was fished in two passes or more on one outing. On the Deck, start another run at the same site for each pass.",
            "selection",
        )
    told = from_passes([passes for _, passes in found.sites], found.falls)
    return {
        "sentence": passes_sentence(told, name),
        "species": found.kind,
        "n": sum(sum(each.site.catches) for each in told.sites),
        "left_out": [{"reason": reason, "n": n} for reason, n in found.left_out if n],
        "derived": [],
        "doubts": [],
        "sites": [_site(day, each) for (day, _), each in zip(found.sites, told.sites, strict=True)],
        **_over_sites(told),
        "assumptions": told.assumptions,
        "method": METHOD,
    }


def _passes(runs: list[Run], caught: dict[UUID, int], many: bool) -> SitePasses:
    name = f"{runs[0].site.name}, {runs[0].outing.water.name}" if many else runs[0].site.name
    metres = max((run.distance_m or 0.0 for run in runs), default=0.0)
    minutes = [run.current_on_s / SECONDS_PER_MINUTE for run in runs if run.current_on_s]
    return SitePasses(
        name,
        tuple(caught.get(run.pk, 0) for run in runs),
        metres / METRES if metres else float("nan"),
        tuple(minutes) if len(minutes) == len(runs) else (),
    )


def _site(day: Any, told: SiteTold) -> dict[str, Any]:
    by_leslie, by_delury = told.by_effort
    return {
        "name": told.site.name,
        "date": day,
        "catches": told.site.catches,
        "distance_m": number(told.site.size * METRES),
        "n": estimate_row("Fish", "fish", told.n) if told.n else None,
        "alike": estimate_row("Fish, same chance", "fish", told.alike) if told.alike else None,
        "minutes": told.site.efforts,
        "leslie": estimate_row("Fish, Leslie", "fish", by_leslie) if by_leslie else None,
        "delury": estimate_row("Fish, DeLury", "fish", by_delury) if by_delury else None,
        "least": number(told.ends[0]) if told.ends else None,
        "most": number(told.ends[1]) if told.ends else None,
    }


def _over_sites(told: FromPasses) -> dict[str, Any]:
    unit = "fish per site" if told.per_site else "fish per 100 m"
    return {
        "density": estimate_row("Density", unit, told.density.density) if told.density else None,
        "no_density": told.no_density,
        "capture": 100 * told.density.p if told.density else None,
        "passes": told.passes,
    }


KIND = FindingKind(
    name="abundance-removal",
    query=SelectionSerializer,
    question=lambda asked: RemovalQuestion(),
    rows=rows,
    compute=compute,
    shown=AbundanceRemovalFindingSerializer,
    seconds=lambda found: 0.0,
    subject=CATCHES,
    tells_places=True,
)
