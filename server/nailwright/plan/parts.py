"""The choices of a survey, each with its default and its bounds."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from nailwright.deck.checklists import CODES
from nailwright.deck.models import Target
from nailwright.findings.serializers import SelectionSerializer
from nailwright_core.deck.handling import AGENTS, PURPOSES, Limits
from nailwright_core.plan.effort import LAYOUTS
from nailwright_core.plan.electrofishing import LIMIT_SETS
from nailwright_core.plan.tag_choice import KINDS

SHAPES = ("litres", "box", "cylinder", "half_barrel")


def _number(low: float, high: float, **more: object) -> serializers.FloatField:
    return serializers.FloatField(min_value=low, max_value=high, **more)  # type: ignore[arg-type]


#: Wide enough that core's own refusal, which knows the trade, is the one that is read; only what is no figure is cut off.
_ANY = 1e9


class LayoutSerializer(serializers.Serializer):
    layout = serializers.ChoiceField(LAYOUTS, default="systematic")
    from_km = _number(0, 3000, default=0)
    to_km = _number(0, 3000, allow_null=True, default=None)
    site_length_m = _number(1, 100_000, default=1000)
    gap_m = _number(0, 1_000_000, default=5000)
    n = serializers.IntegerField(min_value=1, max_value=2000, allow_null=True, default=None)
    seed = serializers.IntegerField(min_value=0, max_value=2**31 - 1, default=1)


class ElectroSerializer(serializers.Serializer):
    unit = serializers.UUIDField(allow_null=True, default=None)
    goal_w = _number(1, 100_000, default=3000, help_text="Power in matched water, W")
    pulse_hz = _number(1, 1000, default=30)
    pulse_width_ms = _number(0.05, 100, default=4)
    conductivity = _number(-_ANY, _ANY, default=180, help_text="uS/cm, as it was read")
    read_as = serializers.ChoiceField(["ambient", "specific"], default="ambient")
    temperature_c = _number(-_ANY, _ANY, default=10)
    limits = serializers.ChoiceField(["", *LIMIT_SETS], allow_blank=True, default="")
    anode_radius_cm = _number(1, 200, default=15)


class BathSerializer(serializers.Serializer):
    agent = serializers.ChoiceField(["", *AGENTS], allow_blank=True, default="")
    purpose = serializers.ChoiceField(PURPOSES, default="measure")
    target_mg_l = _number(-_ANY, _ANY, default=30)
    shape = serializers.ChoiceField(SHAPES, default="box")
    a_cm = _number(-_ANY, _ANY, default=60, help_text="Length or diameter; litres where the shape is litres")
    b_cm = _number(-_ANY, _ANY, default=40, help_text="Width, or length of a half barrel")
    fill_cm = _number(-_ANY, _ANY, default=25)
    refills = serializers.IntegerField(min_value=1, max_value=50, default=3)
    cap_ml = _number(0.1, 1000, default=5, help_text="What the crew's own measure holds, mL")


def _limit(default: float) -> serializers.FloatField:
    return _number(0.1, 100_000, default=default)


_LIMITS = Limits()


class LimitsSerializer(serializers.Serializer):
    """Limits for fish in hand, as core has them, and the live well they hold for."""

    well_l = _limit(250)
    well_fish = serializers.IntegerField(min_value=1, max_value=10_000, default=_LIMITS.well_fish)
    well_g_l = _limit(_LIMITS.well_g_l)
    well_minutes = _limit(_LIMITS.well_minutes)
    well_oxygen_mg_l = _limit(_LIMITS.well_oxygen_mg_l)
    well_degrees = _limit(_LIMITS.well_degrees)
    air_goal_s = _limit(_LIMITS.air_goal_s)
    air_warn_s = _limit(_LIMITS.air_warn_s)
    air_alarm_s = _limit(_LIMITS.air_alarm_s)
    induction_goal_s = _limit(_LIMITS.induction_goal_s)
    induction_warn_s = _limit(_LIMITS.induction_warn_s)
    induction_alarm_s = _limit(_LIMITS.induction_alarm_s)
    recovery_goal_s = _limit(_LIMITS.recovery_goal_s)
    recovery_warn_s = _limit(_LIMITS.recovery_warn_s)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        Limits(**{name: value for name, value in attrs.items() if name != "well_l"}).check()
        return attrs


class TagsSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(["", *(kind.code for kind in KINDS)], allow_blank=True, default="")
    n = serializers.IntegerField(min_value=0, max_value=100_000, default=0)
    mass_g = _number(0.01, 5000, default=0.1)
    fish_mm = _number(1, 20_000, default=300, help_text="The smallest fish that shall carry one")
    burden = _number(0.001, 0.12, default=0.02)
    double = _number(0, 1, default=0)
    high_reward = _number(0, 1, default=0)
    seed = serializers.IntegerField(min_value=0, max_value=2**31 - 1, default=1)
    question = serializers.CharField(max_length=20, default="abundance")
    years = _number(0.1, 60, default=2)
    budget = _number(0, 1e9, default=2000)
    capacity_mah = _number(1, 1e6, default=140)
    sleep_ua = _number(0, 1e5, default=2)
    pulse_mas = _number(0.01, 1e5, default=6)
    interval_s = _number(1, 1e5, default=120)
    burst_s = _number(0.01, 60, default=3.3)
    in_reach = serializers.IntegerField(min_value=1, max_value=5000, default=10)


class PlanTargetSerializer(serializers.Serializer):
    species = serializers.CharField(max_length=8)
    what = serializers.ChoiceField(Target.What.choices)
    wanted = serializers.IntegerField(min_value=1, max_value=1_000_000)
    from_mm = _number(1, 20_000, allow_null=True, default=None)
    zone = serializers.CharField(
        max_length=60, allow_blank=True, default="", help_text="One of the water's zones, or any"
    )
    month = serializers.IntegerField(min_value=1, max_value=12, allow_null=True, default=None)


class AnglingSerializer(serializers.Serializer):
    rods = serializers.IntegerField(min_value=1, max_value=50, default=2)
    bouts = serializers.IntegerField(min_value=1, max_value=50, default=3)
    bout_min = _number(5, 1440, default=90)
    feed_first_min = _number(1, 120, default=5, help_text="Minutes between casts of feed at the start of a session")
    feed_then_min = _number(1, 240, default=12, help_text="and after the bed is built")
    feed_first_for_min = _number(0, 240, default=30)
    circle_m = _number(0.5, 50, default=2)
    rules = serializers.CharField(
        max_length=500, allow_blank=True, default="", help_text="Licence, season, bag and size rules, as text"
    )


class EmergencySerializer(serializers.Serializer):
    position = serializers.CharField(max_length=120, allow_blank=True, default="")
    access = serializers.CharField(max_length=300, allow_blank=True, default="")
    numbers = serializers.CharField(max_length=300, allow_blank=True, default="")


class PartsSerializer(serializers.Serializer):
    """Any of the parts; what is left out stays as it is."""

    layout = LayoutSerializer(required=False)
    electro = ElectroSerializer(required=False)
    bath = BathSerializer(required=False)
    limits = LimitsSerializer(required=False)
    tags = TagsSerializer(required=False)
    angling = AnglingSerializer(required=False)
    targets = PlanTargetSerializer(many=True, required=False)
    crew = serializers.ListField(child=serializers.CharField(max_length=80), required=False, max_length=40)
    emergency = EmergencySerializer(required=False)
    pilot = SelectionSerializer(required=False, help_text="Past data to start from; without it species, water and gear")
    checklists = serializers.ListField(child=serializers.ChoiceField(CODES), required=False)


def whole_parts(parts: dict[str, object]) -> dict[str, object]:
    """All parts, with the defaults of those that were never set; a pilot is there only where it was chosen."""
    defaults: dict[str, object] = {"targets": [], "crew": [], "checklists": []}
    for name, field in PartsSerializer().fields.items():
        if isinstance(field, serializers.Serializer) and name != "pilot":
            given = type(field)(data=parts.get(name, {}))
            given.is_valid(raise_exception=True)
            defaults[name] = dict(given.data)
        elif name in parts:
            defaults[name] = parts[name]
    return defaults
