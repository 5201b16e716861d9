"""Shapes of species."""

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright_core.common.species import SWIM_BLADDERS, Species
from nailwright_core.common.species_values import LENGTH_TYPES


class KnownSpeciesSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField(source="common_name")
    scientific_name = serializers.CharField()
    length_type = serializers.CharField()
    has_categories = serializers.SerializerMethodField()
    has_standard_weight = serializers.SerializerMethodField()

    @extend_schema_field(serializers.BooleanField())
    def get_has_categories(self, kind: Species) -> bool:
        return kind.size_categories is not None

    @extend_schema_field(serializers.BooleanField())
    def get_has_standard_weight(self, kind: Species) -> bool:
        return kind.standard_weight is not None


class SpeciesListSerializer(serializers.Serializer):
    listed = serializers.ListField(child=serializers.CharField(), help_text="In the order in which they are offered")
    retired = serializers.ListField(child=serializers.CharField(), help_text="Not called any more; their fish stay")
    own = serializers.ListField(child=serializers.CharField(), help_text="Described by the programme itself")
    known = KnownSpeciesSerializer(many=True)


class SetSpeciesSerializer(serializers.Serializer):
    codes = serializers.ListField(child=serializers.CharField(max_length=8), max_length=100, allow_empty=True)


def _source() -> serializers.CharField:
    return serializers.CharField(max_length=200, help_text="Where it is from")


class LineSerializer(serializers.Serializer):
    """log10 mass (g) = log10_a + b log10 length (mm)."""

    log10_a = serializers.FloatField()
    b = serializers.FloatField()
    sd = serializers.FloatField(help_text="Residual SD of log10 mass")
    source = _source()  # type: ignore[assignment]


class StandardWeightSerializer(serializers.Serializer):
    """log10 standard weight (g) = a + b log10 length (mm), from min_mm upward."""

    a = serializers.FloatField()
    b = serializers.FloatField()
    min_mm = serializers.FloatField()
    source = _source()  # type: ignore[assignment]


class CategoriesSerializer(serializers.Serializer):
    stock = serializers.FloatField(help_text="mm and longer, as all five")
    quality = serializers.FloatField()
    preferred = serializers.FloatField()
    memorable = serializers.FloatField()
    trophy = serializers.FloatField()
    source = serializers.CharField(max_length=200)  # type: ignore[assignment]


class ConversionSerializer(serializers.Serializer):
    """Length of the species' own type = intercept_mm + slope x length of from_type."""

    from_type = serializers.ChoiceField(LENGTH_TYPES)
    intercept_mm = serializers.FloatField()
    slope = serializers.FloatField()
    residual_sd_mm = serializers.FloatField(allow_null=True)
    source = _source()  # type: ignore[assignment]


class LegalSerializer(serializers.Serializer):
    min_mm = serializers.FloatField(allow_null=True)
    max_mm = serializers.FloatField(allow_null=True)
    bag = serializers.IntegerField(allow_null=True, help_text="Fish a person and day")
    source = _source()  # type: ignore[assignment]


class LookalikeSerializer(serializers.Serializer):
    code = serializers.CharField(max_length=8)
    check = serializers.CharField(max_length=200, help_text="What tells the two apart")
    unsure = serializers.CharField(
        max_length=200, allow_blank=True, default="", help_text="What to do where that fails"
    )
    photo = serializers.BooleanField(default=False, help_text="A photo of such a fish is asked for")
    picture = serializers.CharField(
        allow_blank=True, default="", help_text="What to look at: a picture as base64; it is made smaller"
    )


class SpeciesValuesSerializer(serializers.Serializer):
    """All that is known of a species; what each may be is core's (``species_values``)."""

    common_name = serializers.CharField(max_length=60)
    scientific_name = serializers.CharField(max_length=80, allow_blank=True)
    words = serializers.ListField(child=serializers.CharField(max_length=40), max_length=12, default=list)
    length_type = serializers.ChoiceField(LENGTH_TYPES)
    usual_from_mm = serializers.FloatField()
    usual_to_mm = serializers.FloatField()
    least_mm = serializers.FloatField()
    most_mm = serializers.FloatField()
    line = LineSerializer()
    standard_weight = StandardWeightSerializer(allow_null=True, default=None)
    categories = CategoriesSerializer(allow_null=True, default=None)
    conversions = ConversionSerializer(many=True, default=list)
    legal = LegalSerializer(allow_null=True, default=None)
    smallest_to_tag_mm = serializers.FloatField(allow_null=True, default=None)
    lookalikes = LookalikeSerializer(many=True, default=list)
    special_interest = serializers.BooleanField(default=False)
    places_hidden = serializers.BooleanField(default=False)
    swim_bladder = serializers.ChoiceField(SWIM_BLADDERS, default=SWIM_BLADDERS[0])
