"""Year-classes in the lengths."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

import numpy as np
from django.db.models import Max, Min
from rest_framework import serializers

from nailwright.deck.models import Run
from nailwright.findings.formatting import estimate_row, nothing_to_show, per_cent
from nailwright.findings.queries import Lengths, lengths_from, used_of
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import SizeQuerySerializer
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.programmes.models import Programme
from nailwright_core.common.estimate import Assumption
from nailwright_core.findings import size_structure
from nailwright_core.findings.mixture import Spread
from nailwright_core.records.wording import cohort_sentence

SEED = 20240501
#: Fish caught within so many days have grown little (ours, no source).
ONE_VISIT_DAYS = 45


METHOD = {
    "page": "cohorts",
    "text": "Finite mixture of normals, each length standing for the step of its board, by expectation-maximisation and "
    "quasi-Newton from several seeded starts; the number of cohorts by BIC unless chosen. Intervals of means by profile of the "
    "likelihood, of shares on the logit scale; both over sites (leaving out one after the other) where that is wider.",
    "sources": [
        "Dempster, Laird and Rubin 1977",
        "McLachlan and Jones 1988",
        "Schwarz 1978",
        "Miller 1974",
        "Biernacki, Celeux and Govaert 2000",
    ],
}


@dataclass(frozen=True)
class CohortsQuestion:
    """Number of cohorts (by BIC where it is None), their spread, starting means (mm), width of the bins, level."""

    k: int | None
    spread: Spread
    starts: tuple[float, ...]
    bin_mm: float | None
    level: float


class CohortsQuerySerializer(SizeQuerySerializer):
    k = serializers.IntegerField(required=False, help_text="Number of cohorts; without it BIC decides")
    spread = serializers.ChoiceField(["free", "equal_sd", "constant_cv"], default="free")
    start = serializers.ListField(
        child=serializers.FloatField(min_value=1, max_value=20_000),
        default=list,
        max_length=6,
        help_text="Starting means, mm",
    )


class CohortSerializer(serializers.Serializer):
    mean = EstimateSerializer()
    sd_mm = serializers.FloatField()
    share = EstimateSerializer(help_text="Of all fish, per cent")
    n = serializers.FloatField()


class BicSerializer(serializers.Serializer):
    k = serializers.IntegerField()
    bic = serializers.FloatField()
    icl = serializers.FloatField(help_text="BIC with what cannot be told apart counted against it")


class VisitSerializer(serializers.Serializer):
    first = serializers.DateField()
    last = serializers.DateField()


class CohortsSerializer(FindingSerializer):
    edges = serializers.ListField(child=serializers.FloatField())
    counts = serializers.ListField(child=serializers.IntegerField())
    bin_mm = serializers.FloatField()
    at_mm = serializers.ListField(child=serializers.FloatField())
    curves = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))
    cohorts = CohortSerializer(many=True)
    k = serializers.IntegerField()
    spread = serializers.CharField()
    bic = BicSerializer(many=True)
    seed = serializers.IntegerField()
    step_mm = serializers.FloatField(help_text="What a reading stands for; 0 where lengths lie on no step of a board")
    latest_visit = VisitSerializer(allow_null=True, help_text="Its days, where the selection spans more than one visit")


@dataclass(frozen=True)
class CohortRows:
    """Lengths, and the first and last day on which those fish were caught."""

    lengths: Lengths
    days: tuple[date, date] | None


def rows(programme: Programme, selection: Selection, question: CohortsQuestion) -> CohortRows:
    """The selection's lengths and days."""
    used = used_of(programme, selection, weighed=False)
    runs = Run.objects.filter(pk__in=[UUID(run) for run in used.fish["run_id"].unique()])
    days = runs.aggregate(first=Min("outing__date"), last=Max("outing__date"))
    lengths = lengths_from(programme, used)
    return CohortRows(lengths, (days["first"], days["last"]) if days["first"] else None)


def _one_visit(days: tuple[date, date] | None) -> Assumption | None:
    """What is said of lengths that are a mixture of dates."""
    if days is None or (days[1] - days[0]).days <= ONE_VISIT_DAYS:
        return None
    first, last = (f"{day.day} {day:%b %Y}" for day in days)
    return Assumption(
        "All fish are of one visit",
        "doubtful",
        f"They were caught from {first} to {last}. A year-class grows between visits, so these lengths are a mixture of dates "
        "as well as of ages: look at one visit.",
    )


def compute(selection: Selection, found: CohortRows, question: CohortsQuestion) -> dict[str, Any]:
    """Year-classes.

    Raises:
        CoreError: ``no_lengths`` and as ``fit_cohorts``.
    """
    kind = found.lengths.kind
    lengths = found.lengths
    if lengths.length_mm.size == 0:
        raise nothing_to_show(kind, "measured", lengths.left_out)
    mixed = _one_visit(found.days)
    fit = size_structure.fit_cohorts(
        lengths.length_mm,
        question.k,
        question.spread,
        SEED,
        list(question.starts) or None,
        question.level,
        sites=lengths.sites,
    )
    width = size_structure.suggest_bin(lengths.length_mm) / 2 if question.bin_mm is None else question.bin_mm
    frequency = size_structure.length_frequency(lengths.length_mm, width)
    at = np.linspace(frequency.edges[0], frequency.edges[-1], 240)
    return {
        "sentence": cohort_sentence(kind, fit),
        "species": kind,
        "n": fit.n,
        "left_out": lengths.left_out,
        "derived": lengths.derived,
        "doubts": lengths.doubts,
        "edges": frequency.edges.tolist(),
        "counts": frequency.counts.tolist(),
        "bin_mm": width,
        "at_mm": at.round(2).tolist(),
        "curves": (fit.density(at) * fit.n * width).round(4).tolist(),
        "cohorts": [
            {
                "mean": estimate_row(f"Cohort {place + 1}", "mm", mean),
                "sd_mm": float(sd),
                "share": estimate_row(f"Share of cohort {place + 1}", "%", per_cent(share)),
                "n": float(n),
            }
            for place, (mean, sd, share, n) in enumerate(
                zip(fit.mean_estimates, fit.sds, fit.share_estimates, fit.n_each, strict=True)
            )
        ],
        "k": fit.k,
        "spread": fit.spread,
        "bic": [{"k": tried, "bic": bic, "icl": fit.icl_by_k[tried]} for tried, bic in fit.bic_by_k.items()],
        "seed": SEED,
        "step_mm": fit.step_mm,
        "latest_visit": {
            "first": max(found.days[0], found.days[1] - timedelta(days=ONE_VISIT_DAYS)),
            "last": found.days[1],
        }
        if mixed and found.days
        else None,
        "assumptions": ((mixed,) if mixed else ()) + fit.assumptions,
        "method": METHOD,
    }


def _question(asked: dict[str, Any]) -> CohortsQuestion:
    return CohortsQuestion(asked.get("k"), asked["spread"], tuple(asked["start"]), asked.get("bin_mm"), asked["level"])


KIND = FindingKind(
    name="cohorts",
    query=CohortsQuerySerializer,
    question=_question,
    rows=rows,
    compute=compute,
    shown=CohortsSerializer,
    seconds=lambda found: min(np.unique(found.lengths.length_mm).size, 800) * 4e-3,
    seed=SEED,
)
