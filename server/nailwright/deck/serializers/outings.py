"""Shapes of outings: opened, closed, their runs with effort, and what was read at their sites."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.deck.models import Gear, Handover, Outing, Run, WaterReading
from nailwright.deck.runs.effort import effort_of_run
from nailwright.programmes.models import LENGTH_UNITS, MASS_UNITS
from nailwright.waters.models import Water
from nailwright_core.deck.gears import EFFORTS


class OutingSerializer(serializers.ModelSerializer):
    water_name = serializers.CharField(source="water.name")
    time_zone = serializers.CharField(source="water.time_zone")
    water_kind = serializers.ChoiceField(Water.Kind.choices, source="water.kind", read_only=True)
    n_runs = serializers.IntegerField()
    n_fish = serializers.IntegerField()
    gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices))
    protocol = serializers.IntegerField(
        source="protocol.number", default=None, allow_null=True, help_text="Number of its version"
    )

    class Meta:
        model = Outing
        fields = ["id", "programme", "water", "water_name", "water_kind", "time_zone", "name", "date", "gear", "gears", "state",
                  "length_unit", "mass_unit", "n_runs", "n_fish", "protocol",
                  "opened_by"]  # fmt: skip
        read_only_fields = fields  # an answer always holds them all


class HandoverSerializer(serializers.ModelSerializer):
    class Meta:
        model = Handover
        fields = ["name", "note", "lines", "at"]
        read_only_fields = fields


class OpenOutingSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    water = serializers.UUIDField()
    date = serializers.DateField()
    gear = serializers.ChoiceField(Gear.choices)
    more_gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices), default=list, max_length=11)
    name = serializers.CharField(max_length=120, allow_blank=True, default="")
    length_unit = serializers.ChoiceField(LENGTH_UNITS, default="mm")
    mass_unit = serializers.ChoiceField(MASS_UNITS, default="g")


class OutingStateSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Key of this change; sending it twice changes nothing the second time.")
    state = serializers.ChoiceField(Outing.State.choices)
    reason = serializers.CharField(max_length=200, allow_blank=True, default="")
    name = serializers.CharField(
        max_length=80, allow_blank=True, default="", help_text="Who hands it over; empty: who sends this"
    )
    note = serializers.CharField(max_length=300, allow_blank=True, default="")


class EffortSerializer(serializers.Serializer):
    value = serializers.FloatField(allow_null=True, help_text="Nothing where what it takes was not written down")
    unit = serializers.ChoiceField(list(EFFORTS.items()))


class RunSerializer(serializers.ModelSerializer):
    effort = serializers.SerializerMethodField()
    direction = serializers.ChoiceField(["", *Run.Direction.values])

    class Meta:
        model = Run
        fields = ["id", "outing", "site", "number", "gear", "volts", "amps", "pulse_hz", "pulse_width_ms", "current_on_s",
                  "distance_m", "rods", "nets", "mesh_mm", "hauls", "direction", "started_at", "ended_at", "effort"]  # fmt: skip
        read_only_fields = fields  # an answer always holds them all

    @extend_schema_field(EffortSerializer)
    def get_effort(self, run: Run) -> Any:
        return EffortSerializer(effort_of_run(run)).data


@extend_schema_field({"oneOf": [{"type": "number"}, {"type": "string"}]})
class ReadField(serializers.Field):
    """A figure, or a word of a short list."""

    def to_representation(self, value: Any) -> Any:
        return value


class WaterReadingSerializer(serializers.ModelSerializer):
    class Meta:
        model = WaterReading
        fields = ["id", "outing", "run", "device_time", "temperature_c", "ambient_us_cm", "specific_us_cm",
                  "oxygen_mg_l", "secchi_m", "more"]  # fmt: skip
        read_only_fields = fields  # an answer always holds them all

    more = serializers.DictField(child=ReadField(), help_text="What else was read, by its code")
