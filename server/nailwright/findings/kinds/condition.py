"""Condition: the length-mass line and relative weight."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from rest_framework import serializers

from nailwright.findings.formatting import about_years, estimate_row, nothing_to_show, number
from nailwright.findings.queries import Pairs, pairs_of
from nailwright.findings.registry import FindingKind
from nailwright.findings.request_query import ConditionQuerySerializer, over_any_year
from nailwright.findings.selections import Selection
from nailwright.findings.shapes import EstimateSerializer, FindingSerializer
from nailwright.programmes.models import Programme
from nailwright_core.findings import condition
from nailwright_core.findings.relative_weight import summarise_relative_weight
from nailwright_core.records.wording import condition_sentence

#: A picture with more points than this is a smear and slow; the rest are drawn at random, by a fixed seed.
MAX_POINTS = 1500


POINTS_SEED = 20240501


METHOD = {
    "page": "condition",
    "text": "log10 mass = a + b log10 length by ordinary least squares; t intervals; the test of b = 3 by t. Predictions are "
    "back-transformed with 10^(s^2 ln10 / 2), the mean's interval after Cox. Relative weight Wr = 100 W / Ws, means with t "
    "intervals. Over sites: leaving out one site after the other, t on the degrees of freedom of that variance with sites of these sizes. "
    "Over sites and years: both variances added.",
    "sources": ["Le Cren 1951", "Wege and Anderson 1978", "Froese 2006", "Land 1972", "Bell and McCaffrey 2002"],
}


class ConditionOfOneQuerySerializer(ConditionQuerySerializer):
    over = over_any_year()


@dataclass(frozen=True)
class ConditionQuestion:
    """Level of the intervals, what they are over ("sites", "years", "fish"), and the benchmark of Wr (%)."""

    level: float
    over: str
    benchmark: tuple[float, float]


class CurveSerializer(serializers.Serializer):
    length_mm = serializers.ListField(child=serializers.FloatField())
    mass_g = serializers.ListField(child=serializers.FloatField())
    mean_lower_g = serializers.ListField(child=serializers.FloatField())
    mean_upper_g = serializers.ListField(child=serializers.FloatField())
    lower_g = serializers.ListField(child=serializers.FloatField())
    upper_g = serializers.ListField(child=serializers.FloatField())


class PointsSerializer(serializers.Serializer):
    capture = serializers.ListField(child=serializers.CharField())
    length_mm = serializers.ListField(child=serializers.FloatField())
    mass_g = serializers.ListField(child=serializers.FloatField())
    studentised = serializers.ListField(child=serializers.FloatField())
    wr = serializers.ListField(child=serializers.FloatField(allow_null=True))


class IsometrySerializer(serializers.Serializer):
    t = serializers.FloatField(allow_null=True)
    p = serializers.FloatField()


class ConditionFindingSerializer(FindingSerializer):
    line = EstimateSerializer(many=True)
    residual_sd = serializers.FloatField()
    r_squared = serializers.FloatField(allow_null=True)
    length_range_mm = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)
    isometry = IsometrySerializer()
    back_transformation = serializers.FloatField()
    curve = CurveSerializer()
    points = PointsSerializer()
    n_drawn = serializers.IntegerField()
    n_flagged = serializers.IntegerField()
    wr = EstimateSerializer(allow_null=True)
    wr_by_category = EstimateSerializer(many=True)
    wr_trend = EstimateSerializer(allow_null=True)
    benchmark = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)
    wr_undefined = serializers.IntegerField(allow_null=True)


def rows(programme: Programme, selection: Selection, question: ConditionQuestion) -> Pairs:
    """The selection's weighed fish."""
    return pairs_of(programme, selection)


def compute(selection: Selection, pairs: Pairs, question: ConditionQuestion) -> dict[str, Any]:
    """Condition.

    Raises:
        CoreError: ``no_lengths``, ``too_few_lengths``.
    """
    kind = pairs.kind
    if pairs.keys.is_empty():
        raise nothing_to_show(kind, "weighed and measured", pairs.left_out)
    sites = None if question.over == "fish" else pairs.sites
    years = pairs.years if question.over == "years" else None
    fit = condition.fit_length_mass(pairs.length_mm, pairs.mass_g, question.level, sites, years)
    weight = None
    if kind.standard_weight and np.any(pairs.length_mm >= kind.standard_weight.min_mm):
        weight = summarise_relative_weight(kind, pairs.length_mm, pairs.mass_g, question.level, sites, years)
    drawn = _drawn(fit)
    return {
        "sentence": condition_sentence(kind, fit, weight, question.benchmark),
        "species": kind,
        "n": fit.n,
        "left_out": pairs.left_out,
        "derived": pairs.derived,
        "doubts": pairs.doubts,
        "line": [estimate_row("Intercept a (log10 g)", "", fit.log10_a), estimate_row("Slope b", "", fit.b)],
        "residual_sd": fit.residual_sd,
        "r_squared": number(fit.r_squared),
        "length_range_mm": fit.length_range_mm,
        "isometry": {"t": number(fit.isometry_t), "p": fit.isometry_p},
        "back_transformation": fit.back_transformation,
        "curve": _curve(fit, question.level),
        "points": {
            "capture": pairs.keys.gather(drawn).to_list(),
            "length_mm": pairs.length_mm[drawn].tolist(),
            "mass_g": pairs.mass_g[drawn].tolist(),
            "studentised": fit.studentised[drawn].round(4).tolist(),
            "wr": [number(value) for value in weight.wr[drawn].round(2)] if weight else [None] * len(drawn),
        },
        "n_drawn": len(drawn),
        "n_flagged": len(fit.flagged),
        "wr": estimate_row("All fish", "", weight.overall) if weight else None,
        "wr_by_category": [estimate_row(name, "", each) for name, each in weight.by_category.items()] if weight else [],
        "wr_trend": estimate_row("Wr per 100 mm", "", weight.trend) if weight and weight.trend else None,
        "wr_undefined": weight.n_undefined if weight else None,
        "assumptions": (*fit.assumptions, *about_years(question.over, pairs.years)),
        "benchmark": question.benchmark,
        "method": METHOD,
    }


def _drawn(fit: condition.LengthMassFit) -> NDArray[np.int64]:
    """Which fish the picture shows: every flagged one, and at most MAX_POINTS in all."""
    if fit.n <= MAX_POINTS:
        return np.arange(fit.n)
    flagged = fit.flagged[:MAX_POINTS]
    others = np.setdiff1d(np.arange(fit.n), fit.flagged, assume_unique=True)
    some = np.random.default_rng(POINTS_SEED).choice(others, MAX_POINTS - len(flagged), replace=False)
    return np.sort(np.concatenate([flagged, some]))


def _curve(fit: condition.LengthMassFit, level: float) -> dict[str, list[float]]:
    length = np.geomspace(*fit.length_range_mm, 60)
    predicted = fit.predict(length, level)
    return {
        "length_mm": length.round(2).tolist(),
        "mass_g": predicted.mass_g.tolist(),
        "mean_lower_g": predicted.mean_lower_g.tolist(),
        "mean_upper_g": predicted.mean_upper_g.tolist(),
        "lower_g": predicted.lower_g.tolist(),
        "upper_g": predicted.upper_g.tolist(),
    }


KIND = FindingKind(
    name="condition",
    query=ConditionOfOneQuerySerializer,
    question=lambda asked: ConditionQuestion(asked["level"], asked["over"], asked["benchmark"]),
    rows=rows,
    compute=compute,
    shown=ConditionFindingSerializer,
    seconds=lambda pairs: len(pairs.keys) * 6e-6,
    seed=POINTS_SEED,
)
