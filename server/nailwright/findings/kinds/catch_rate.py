"""Catch per unit of effort, by year, season, place; bars along the water."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db.models import Q, QuerySet, Sum
from rest_framework import serializers

from nailwright.deck.models import Capture, Gear, Run
from nailwright.deck.runs.effort import effort_of_run
from nailwright.findings.formatting import estimate_row, percent_row
from nailwright.findings.groups import season_of
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection, captures_in, runs_in
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.findings.subjects import CATCHES
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.waters.models import Site, Zone
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.deck.gears import GEARS, RATES
from nailwright_core.findings.catches.catch_rates import MEANS, CatchRates, Rate, catch_rates, rate_sentence

METHOD = {
    "page": "catch-rate",
    "text": "Fish over effort: the ratio of their sums, or the mean of sites that count alike; interval by t over sites on the log scale, never surer than "
    "a Poisson count of these fish; exact Poisson where none was caught. Change between two visits over sites fished in both, leaving out one after the other. "
    "Trend over years: log-linear with an effect of each site, years that differ for all sites widen it.",
    "sources": ["Cochran 1977", "Garwood 1936", "McCullagh and Nelder 1989", "Satterthwaite 1946"],
}
BY = ("year", "season", "water", "zone", "site")
PER = ("effort", "distance")
DISTANCE = (100.0, "100 m")


@dataclass(frozen=True)
class CatchQuestion:
    """Gear (empty: that of most runs), what groups are made by, by what it is divided, how sites count, and the smallest length (mm)."""

    gear: str
    by: str
    per: str
    mean: str
    from_mm: float | None


class CatchRateQuerySerializer(SelectionSerializer):
    with_gear = serializers.ChoiceField(
        Gear.choices, required=False, default="", help_text="One: efforts of several are not of one kind"
    )
    by = serializers.ChoiceField(BY, required=False, default="year")
    per = serializers.ChoiceField(
        PER, required=False, default="effort", help_text="The gear's effort, or the distance fished"
    )
    mean = serializers.ChoiceField(
        MEANS, required=False, default="effort", help_text="Each hour of effort counts alike, or each site"
    )
    from_mm = serializers.FloatField(
        required=False, min_value=1, max_value=10_000, help_text="Only measured fish of this length or longer, mm"
    )


class RateSerializer(serializers.Serializer):
    name = serializers.CharField()
    rate = EstimateSerializer()
    fish = serializers.IntegerField()
    effort = serializers.FloatField(help_text="In the unit of the rate")
    runs = serializers.IntegerField()
    empty = serializers.IntegerField(help_text="Runs with none")
    river_km = serializers.FloatField(
        allow_null=True, help_text="Along the water, of a site; of a zone that of its middle"
    )


class GearOfRunsSerializer(serializers.Serializer):
    gear = serializers.CharField()
    name = serializers.CharField()
    n = serializers.IntegerField(help_text="Runs")


class PlaceSerializer(serializers.Serializer):
    name = serializers.CharField()
    river_km = serializers.FloatField(allow_null=True)


class SizeFromSerializer(serializers.Serializer):
    name = serializers.CharField()
    from_mm = serializers.FloatField()


class CatchRateFindingSerializer(FindingSerializer):
    gear = serializers.CharField()
    gears = GearOfRunsSerializer(many=True, help_text="All that can be asked for, most runs first")
    by = serializers.ChoiceField(BY)
    per = serializers.ChoiceField(PER)
    mean = serializers.ChoiceField(MEANS)
    from_mm = serializers.FloatField(allow_null=True)
    sizes = SizeFromSerializer(many=True, help_text="Lower ends of the species' size categories")
    unit = serializers.CharField()
    all = RateSerializer()
    groups = RateSerializer(many=True)
    change = EstimateSerializer(
        allow_null=True, help_text="Last group over first, per cent more, at sites fished in both"
    )
    trend = EstimateSerializer(allow_null=True, help_text="Per cent a year")
    not_fished = PlaceSerializer(
        many=True, help_text="By site: those of the same waters at which these runs did not fish"
    )


@dataclass(frozen=True)
class FishedRun:
    """One run with effort: fish of the species, effort in the unit of the rate, its site, its group and its outing."""

    fish: int
    effort: float
    site: str
    group: str
    km: float | None
    visit: str


@dataclass(frozen=True)
class CatchRows:
    runs: list[FishedRun]
    gear: str
    gears: list[tuple[str, int]]
    unit: str
    left_out: tuple[tuple[str, int], ...]
    doubts: tuple[str, ...]
    not_fished: list[dict[str, Any]]
    kind: Species


def rows(programme: Programme, selection: Selection, question: CatchQuestion) -> CatchRows:
    """The selection's runs with one gear, in the order of their groups.

    Raises:
        CoreError: ``no_runs`` where nothing was fished.
    """
    kind = species_of(programme)[selection.species]
    chosen = (
        runs_in(programme, selection).select_related("outing__water", "site__zone").order_by("outing__date", "number")
    )
    gears = Counter(chosen.order_by().values_list("gear", flat=True)).most_common()
    if not gears:
        raise CoreError("no_runs", "Nothing was fished in this selection. Widen it.", "selection")
    # one that was asked for with another selection may not be in this one
    gear = question.gear if question.gear in dict(gears) else gears[0][0]
    runs = list(chosen.filter(gear=gear))
    caught, unmeasured = _caught(programme, selection, kind, question.from_mm)
    many = len({run.outing.water_id for run in runs}) > 1
    divide, per = DISTANCE if question.per == "distance" else RATES[GEARS[gear].effort]
    middles = _middles(programme)
    fished, without = [], 0
    for run in runs:
        spent = run.distance_m if question.per == "distance" else effort_of_run(run).value
        if not spent:
            without += 1
            continue
        fished.append(_fished(run, caught.get(run.pk, 0), spent / divide, question.by, middles, many))
    if question.by in ("zone", "site"):
        fished.sort(key=lambda each: (each.km is None, each.km or 0.0, each.group))
    left_out = (
        (f"runs without {'a distance' if question.per == 'distance' else 'effort'} written down", without),
        ("runs with other gear", sum(n for each, n in gears if each != gear)),
    )
    told = (
        f"{unmeasured:,} fish of these runs were not measured in the species' own length: they count in no size class.",
    ) if question.from_mm and unmeasured else ()  # fmt: skip
    gaps = _gaps(runs) if question.by == "site" else []
    return CatchRows(fished, gear, gears, f"fish per {per}", left_out, told, gaps, kind)


def compute(selection: Selection, found: CatchRows, question: CatchQuestion) -> dict[str, Any]:
    """Rates.

    Raises:
        CoreError: ``no_effort`` where no run has any, and as ``catch_rates``.
    """
    runs = found.runs
    if not runs:
        what = "a distance fished" if question.per == "distance" else "effort"
        raise CoreError(
            "no_effort",
            f"None of these runs with {Gear(found.gear).label.lower()} has {what} written down. At the desk, open a run and enter it.",
            "selection",
        )
    told = catch_rates(
        [each.fish for each in runs], [each.effort for each in runs], [each.site for each in runs], [each.group for each in runs],
        [each.visit for each in runs] if question.by == "site" else None, question.mean, question.by == "year",
    )  # fmt: skip
    km = {each.group: each.km for each in runs} if question.by in ("zone", "site") else {}
    return {
        "sentence": rate_sentence(told, _named(found.kind, question.from_mm), found.unit),
        "species": found.kind,
        "n": told.all.fish,
        "left_out": [{"reason": reason, "n": n} for reason, n in found.left_out if n],
        "derived": [],
        "doubts": found.doubts,
        "gear": found.gear,
        "gears": [{"gear": gear, "name": str(Gear(gear).label), "n": n} for gear, n in found.gears],
        "by": question.by,
        "per": question.per,
        "mean": question.mean,
        "from_mm": question.from_mm,
        "sizes": [{"name": name, "from_mm": mm} for name, mm in found.kind.size_categories or ()],
        "unit": found.unit,
        "all": _rate(told.all, found.unit, None),
        "groups": [_rate(each, found.unit, km.get(each.name)) for each in told.groups],
        **_changes(told),
        "not_fished": found.not_fished,
        "assumptions": told.assumptions,
        "method": METHOD,
    }


def _changes(told: CatchRates) -> dict[str, Any]:
    names = [each.name for each in told.groups]
    return {
        "change": percent_row(f"{names[0]} to {names[-1]}, {told.shared} sites", told.change) if told.change else None,
        "trend": percent_row("A year", told.trend.change) if told.trend else None,
    }


def _named(kind: Species, from_mm: float | None) -> str:
    return kind.common_name if from_mm is None else f"{kind.common_name} of {from_mm:g} mm or longer"


def _rate(told: Rate, unit: str, km: float | None) -> dict[str, Any]:
    return {
        "name": told.name, "rate": estimate_row(told.name, unit, told.rate), "fish": told.fish, "effort": told.effort,
        "runs": told.runs, "empty": told.empty, "river_km": km,
    }  # fmt: skip


def _caught(
    programme: Programme, selection: Selection, kind: Species, from_mm: float | None
) -> tuple[dict[UUID, int], int]:
    """Fish by run, of a size where that is asked; and how many fish are of no size class."""
    fish = captures_in(programme, selection)
    if from_mm is None:
        return _by_run(fish), 0
    measured = Q(length_type=kind.length_type, length_basis=Capture.Basis.MEASURED)
    of_none = fish.exclude(measured).aggregate(n=Sum("count"))["n"] or 0
    return _by_run(fish.filter(measured, length_mm__gte=from_mm)), of_none


def _by_run(fish: QuerySet[Capture]) -> dict[UUID, int]:
    return dict(fish.values_list("run_id").annotate(n=Sum("count")).order_by())


def _fished(run: Run, fish: int, effort: float, by: str, middles: Mapping[UUID, float], many: bool) -> FishedRun:
    day, site = run.outing.date, run.site
    of_water = f", {run.outing.water.name}" if many else ""
    group = {
        "year": str(day.year),
        "season": f"{day.year} {season_of(day.month)}",
        "water": run.outing.water.name,
        "zone": f"{site.zone_name or 'no zone'}{of_water}",
        "site": f"{site.name}{of_water}",
    }[by]
    km = site.river_km if by == "site" else middles.get(site.zone_id) if by == "zone" and site.zone_id else None
    return FishedRun(fish, effort, str(site.pk), group, km, str(run.outing_id))


def _middles(programme: Programme) -> dict[UUID, float]:
    """Of each zone the kilometre of its middle along its water's line."""
    zones = Zone.objects.filter(water__programme=programme, start_m__isnull=False, end_m__isnull=False)
    return {
        key: (start + end) / 2000
        for key, start, end in zones.values_list("pk", "start_m", "end_m")
        if start is not None and end is not None
    }


def _gaps(runs: list[Run]) -> list[dict[str, Any]]:
    """Sites of the same waters at which none of these runs was."""
    fished = {run.site_id for run in runs}
    there = Site.objects.filter(water__in={run.outing.water_id for run in runs}, retired_at=None).order_by(
        "river_km", "name"
    )
    return [{"name": site.name, "river_km": site.river_km} for site in there if site.pk not in fished]


KIND = FindingKind(
    name="catch-rate",
    query=CatchRateQuerySerializer,
    question=lambda asked: CatchQuestion(
        asked["with_gear"], asked["by"], asked["per"], asked["mean"], asked.get("from_mm")
    ),
    rows=rows,
    compute=compute,
    shown=CatchRateFindingSerializer,
    seconds=lambda found: 0.0,
    subject=CATCHES,
)
