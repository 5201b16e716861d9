"""Shapes of findings, and of the address that asks for one."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from nailwright.deck.models import Capture, Gear
from nailwright.deck.serializers import CategorySerializer
from nailwright.findings.groups import GROUPINGS
from nailwright.findings.selections import Selection
from nailwright_core.common.errors import CoreError


class SelectionSerializer(serializers.Serializer):
    """A selection as it stands in an address; lists repeat their key."""

    species = serializers.CharField(max_length=8)
    outing = serializers.ListField(child=serializers.UUIDField(), default=list)
    water = serializers.ListField(child=serializers.UUIDField(), default=list)
    site = serializers.ListField(child=serializers.UUIDField(), default=list)
    reach = serializers.ListField(child=serializers.CharField(max_length=60), default=list)
    gear = serializers.ListField(child=serializers.ChoiceField(Gear.choices), default=list)
    sex = serializers.ListField(child=serializers.ChoiceField(Capture.Sex.choices), default=list)
    first = serializers.DateField(required=False, help_text="First day, YYYY-MM-DD")
    last = serializers.DateField(required=False, help_text="Last day, YYYY-MM-DD")
    estimated = serializers.BooleanField(default=False, help_text="Also lengths and masses judged by eye")

    def selection(self) -> Selection:
        values = self.validated_data
        return Selection(
            species=values["species"],
            outings=tuple(map(str, values["outing"])),
            waters=tuple(map(str, values["water"])),
            sites=tuple(map(str, values["site"])),
            reaches=tuple(values["reach"]),
            gears=tuple(values["gear"]),
            sexes=tuple(values["sex"]),
            first=values.get("first"),
            last=values.get("last"),
            estimated=values["estimated"],
        )


class ConditionQuerySerializer(SelectionSerializer):
    level = serializers.FloatField(default=0.95)

    def validate_level(self, value: float) -> float:
        if not 0.5 <= value <= 0.999:
            raise CoreError("level_out_of_range", f"Expected a level from 0.5 to 0.999; got {value}.", "level")
        return value


class SizeQuerySerializer(ConditionQuerySerializer):
    bin_mm = serializers.FloatField(required=False)


class ComparedQuerySerializer(SizeQuerySerializer):
    by = serializers.ChoiceField(GROUPINGS, default="year")


class CohortsQuerySerializer(SizeQuerySerializer):
    k = serializers.IntegerField(required=False, help_text="Number of cohorts; without it BIC decides")
    spread = serializers.ChoiceField(["free", "equal_sd", "constant_cv"], default="free")
    start = serializers.ListField(
        child=serializers.FloatField(min_value=1, max_value=20_000),
        default=list,
        max_length=6,
        help_text="Starting means, mm",
    )


class SpeciesNameSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField(source="common_name")
    scientific_name = serializers.CharField()
    length_type = serializers.CharField()


class EstimateSerializer(serializers.Serializer):
    name = serializers.CharField()
    unit = serializers.CharField()
    value = serializers.FloatField(allow_null=True)
    se = serializers.FloatField(allow_null=True)
    lower = serializers.FloatField(allow_null=True)
    upper = serializers.FloatField(allow_null=True)
    level = serializers.FloatField()
    interval = serializers.CharField()
    n = serializers.IntegerField()


class AssumptionSerializer(serializers.Serializer):
    name = serializers.CharField()
    verdict = serializers.ChoiceField(["holds", "doubtful", "fails", "not checked"])
    detail = serializers.CharField()


class MethodSerializer(serializers.Serializer):
    page = serializers.CharField()
    text = serializers.CharField()
    sources = serializers.ListField(child=serializers.CharField())


class LeftOutSerializer(serializers.Serializer):
    reason = serializers.CharField()
    n = serializers.IntegerField()


class FindingSerializer(serializers.Serializer):
    sentence = serializers.CharField()
    species = SpeciesNameSerializer()
    n = serializers.IntegerField()
    left_out = LeftOutSerializer(many=True)
    assumptions = AssumptionSerializer(many=True)
    method = MethodSerializer()


class FrequencySerializer(serializers.Serializer):
    edges = serializers.ListField(child=serializers.FloatField())
    counts = serializers.ListField(child=serializers.IntegerField())
    bin_mm = serializers.FloatField()
    suggested_mm = serializers.FloatField()
    freedman_diaconis_mm = serializers.FloatField(allow_null=True)
    offered_mm = serializers.ListField(child=serializers.FloatField())


class SizeFindingSerializer(FindingSerializer):
    frequency = FrequencySerializer()
    categories = CategorySerializer(many=True)
    median = EstimateSerializer()
    distribution = EstimateSerializer(many=True)
    n_stock = serializers.IntegerField(allow_null=True)


class CurveSerializer(serializers.Serializer):
    length_mm = serializers.ListField(child=serializers.FloatField())
    mass_g = serializers.ListField(child=serializers.FloatField())
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
    wr_undefined = serializers.IntegerField(allow_null=True)


class ComparedGroupSerializer(serializers.Serializer):
    name = serializers.CharField()
    n = serializers.IntegerField()
    counts = serializers.ListField(child=serializers.IntegerField())
    median = EstimateSerializer()
    psd = EstimateSerializer(allow_null=True)


class LengthPairSerializer(serializers.Serializer):
    first = serializers.CharField()
    second = serializers.CharField()
    ks = serializers.FloatField()
    ks_p = serializers.FloatField()
    p_holm = serializers.FloatField()
    median_difference = EstimateSerializer()
    category_p = serializers.FloatField(allow_null=True)


class SizeComparedSerializer(FindingSerializer):
    edges = serializers.ListField(child=serializers.FloatField())
    bin_mm = serializers.FloatField()
    categories = CategorySerializer(many=True)
    groups = ComparedGroupSerializer(many=True)
    pairs = LengthPairSerializer(many=True)


class FTestSerializer(serializers.Serializer):
    f = serializers.FloatField(allow_null=True)
    df = serializers.ListField(child=serializers.IntegerField(), min_length=2, max_length=2)
    p = serializers.FloatField()


class RankTestSerializer(serializers.Serializer):
    h = serializers.FloatField()
    df = serializers.IntegerField()
    p = serializers.FloatField()


class ConditionGroupSerializer(serializers.Serializer):
    name = serializers.CharField()
    n = serializers.IntegerField()
    slope = EstimateSerializer()
    adjusted = EstimateSerializer(allow_null=True)
    wr = EstimateSerializer(allow_null=True)


class PairSerializer(serializers.Serializer):
    first = serializers.CharField()
    second = serializers.CharField()
    difference = serializers.FloatField()
    p = serializers.FloatField()
    p_holm = serializers.FloatField()


class ConditionComparedSerializer(FindingSerializer):
    at_mm = serializers.FloatField()
    slopes = FTestSerializer()
    heights = FTestSerializer(allow_null=True)
    parallel = serializers.BooleanField()
    groups = ConditionGroupSerializer(many=True)
    line_pairs = PairSerializer(many=True)
    wr_test = RankTestSerializer(allow_null=True)
    wr_pairs = PairSerializer(many=True)


class CohortSerializer(serializers.Serializer):
    mean = EstimateSerializer()
    sd_mm = serializers.FloatField()
    share = serializers.FloatField()
    n = serializers.FloatField()


class BicSerializer(serializers.Serializer):
    k = serializers.IntegerField()
    bic = serializers.FloatField()


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


class KeepFindingSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Key of the kept finding; sending it twice keeps it once.")
    kind = serializers.CharField(max_length=24)
    query = serializers.DictField(help_text="The question, as it stands in the finding's address")
    title = serializers.CharField(max_length=120, allow_blank=True, default="")


class KeptFindingSerializer(serializers.Serializer):
    id = serializers.UUIDField(source="finding.id")
    kind = serializers.CharField(source="finding.kind")
    title = serializers.CharField(source="finding.title")
    query = serializers.DictField(source="finding.query")
    sentence = serializers.CharField(source="finding.result.sentence")
    result = serializers.DictField(source="finding.result")
    seed = serializers.IntegerField(source="finding.seed", allow_null=True)
    keeper = serializers.CharField(source="finding.keeper.name")
    kept_at = serializers.DateTimeField(source="finding.kept_at")
    changed = serializers.BooleanField(help_text="Whether the rows behind it have changed since")


class SiteOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    reach = serializers.CharField()


class WaterOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    sites = SiteOptionSerializer(many=True)


class OutingOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    date = serializers.DateField()
    water = serializers.UUIDField(source="water_id")
    gear = serializers.CharField()


class GearOptionSerializer(serializers.Serializer):
    code = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]


class SelectionOptionsSerializer(serializers.Serializer):
    species = SpeciesNameSerializer(many=True)
    outings = OutingOptionSerializer(many=True)
    waters = WaterOptionSerializer(many=True)
    gears = GearOptionSerializer(many=True)


def read_query(serializer_class: type[SelectionSerializer], params: Any) -> SelectionSerializer:
    """A checked query from an address. Django REST framework reads repeated keys of a QueryDict into lists."""
    given = serializer_class(data=params)
    given.is_valid(raise_exception=True)
    return given
