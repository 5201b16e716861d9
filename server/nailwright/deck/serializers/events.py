"""Shapes of what is said of fish, baths and runs."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.common.field_shapes import FieldSerializer


@extend_schema_field(
    {
        "oneOf": [
            {"type": "string"},
            {"type": "number"},
            {"type": "array", "items": {"type": "string"}},
        ]
    }
)
class EventValueField(serializers.Field):
    """A text, a figure, or several codes; core says what it may be."""

    def to_representation(self, value: Any) -> Any:
        return value


class EventFieldSerializer(FieldSerializer):
    many = serializers.BooleanField(  # type: ignore[assignment]
        help_text="Several of the choices, as a list"
    )
    of_protocol = serializers.BooleanField(help_text="The protocol names its choices")


class EventKindSerializer(serializers.Serializer):
    code = serializers.CharField()
    title = serializers.CharField()
    about = serializers.ChoiceField(["fish", "bath", "run", "outing"])
    group = serializers.CharField()
    once = serializers.BooleanField(help_text="A later one of the same fish or run takes the place of the one before")
    bare = serializers.BooleanField(help_text="It says something with no field said")
    fields = EventFieldSerializer(many=True)  # type: ignore[assignment]


class EventSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    run = serializers.UUIDField(allow_null=True)
    capture = serializers.UUIDField(allow_null=True)
    kind = serializers.CharField()
    details = serializers.DictField(child=EventValueField())
    device_time = serializers.DateTimeField()
