"""Shapes of plans."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.core.validators import MaxValueValidator, MinValueValidator
from rest_framework import serializers

from nailwright.common.rows import new_id
from nailwright.deck.checklists import CODES
from nailwright.deck.models import Gear, Target
from nailwright.findings.serializers import SelectionSerializer
from nailwright.jobs.serializers import JobSerializer
from nailwright.plan.models import Paper, Season, Unit
from nailwright.plan.parts import ChangePartsSerializer, PartsSerializer
from nailwright.waters.serializers import ZoneSerializer
from nailwright_core.plan.questions import QUESTIONS


class ReachSiteSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    lon = serializers.FloatField()
    lat = serializers.FloatField()
    along_m = serializers.FloatField()
    fish = serializers.IntegerField()
    runs = serializers.IntegerField()


class ReachSerializer(serializers.Serializer):
    water = serializers.UUIDField()
    name = serializers.CharField()
    kind = serializers.CharField()
    length_m = serializers.FloatField()
    line = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))
    along_m = serializers.ListField(child=serializers.FloatField())
    zones = ZoneSerializer(many=True)
    sites = ReachSiteSerializer(many=True)


class LineUploadSerializer(serializers.Serializer):
    file = serializers.FileField(help_text="GeoJSON, GPX, KML or CSV")
    turn = serializers.BooleanField(default=False)


def _day(**more: Any) -> serializers.DateField:
    """A day on which somebody may plan something; what lies farther off is a slip of the keys."""
    words = f"Expected a day from {_FIRST_DAY} to {_LAST_DAY}."
    ends = [MinValueValidator(_FIRST_DAY, words), MaxValueValidator(_LAST_DAY, words)]
    return serializers.DateField(validators=ends, **more)


_FIRST_DAY, _LAST_DAY = date(1900, 1, 1), date(2199, 12, 31)


class NewSurveySerializer(serializers.Serializer):
    water = serializers.UUIDField()
    name = serializers.CharField(max_length=120)
    question = serializers.ChoiceField(QUESTIONS)
    species = serializers.ListField(child=serializers.CharField(max_length=8), max_length=20)
    gear = serializers.ChoiceField(Gear.choices)
    first = _day()
    last = _day()
    visits = serializers.IntegerField(min_value=1, max_value=60, default=1)
    effort_s = serializers.IntegerField(min_value=0, max_value=86_400, default=900)
    revisit_years = serializers.IntegerField(min_value=1, max_value=30, allow_null=True, default=None)


class AgainSerializer(serializers.Serializer):
    first = _day(help_text="First day of the new survey; it lasts as long as this one")


class TakeOutSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Key of this change; sending it twice changes nothing the second time.")
    deleted = serializers.BooleanField()


class ChangeSurveySerializer(serializers.Serializer):
    """Any of the choices, and any of the parts."""

    gear = serializers.ChoiceField(Gear.choices, required=False)
    name = serializers.CharField(max_length=120, required=False)
    question = serializers.ChoiceField(QUESTIONS, required=False)
    species = serializers.ListField(child=serializers.CharField(max_length=8), max_length=20, required=False)
    first = _day(required=False)
    last = _day(required=False)
    visits = serializers.IntegerField(min_value=1, max_value=60, required=False)
    effort_s = serializers.IntegerField(min_value=0, max_value=86_400, required=False)
    revisit_years = serializers.IntegerField(min_value=1, max_value=30, allow_null=True, required=False)
    parts = ChangePartsSerializer(required=False)


class PlannedSiteSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    start_m = serializers.FloatField()
    end_m = serializers.FloatField()
    zone = serializers.CharField()
    moved = serializers.CharField()
    lon = serializers.FloatField(allow_null=True)
    lat = serializers.FloatField(allow_null=True)


class MoveSiteSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    start_m = serializers.FloatField()
    reason = serializers.CharField(max_length=200, allow_blank=True)


class SurveyLineSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    water = serializers.UUIDField(source="water_id")
    water_name = serializers.CharField(source="water.name")
    water_kind = serializers.CharField(source="water.kind")
    question = serializers.ChoiceField(QUESTIONS)
    question_label = serializers.CharField(source="get_question_display")
    species = serializers.ListField(child=serializers.CharField())
    gear = serializers.ChoiceField(Gear.choices)
    first = serializers.DateField()
    last = serializers.DateField()
    visits = serializers.IntegerField()
    effort_s = serializers.IntegerField()
    revisit_years = serializers.IntegerField(allow_null=True)


class TargetDoneSerializer(serializers.Serializer):
    species = serializers.CharField()
    what = serializers.ChoiceField(Target.What.choices)
    wanted = serializers.IntegerField()
    from_mm = serializers.FloatField(allow_null=True)
    zone = serializers.CharField()
    month = serializers.IntegerField(allow_null=True)
    per_visit = serializers.IntegerField()
    done = serializers.IntegerField()


class WeekSerializer(serializers.Serializer):
    week = serializers.DateField(help_text="Its Monday")
    fish = serializers.IntegerField()
    marks = serializers.IntegerField()
    effort_s = serializers.FloatField()
    sites = serializers.IntegerField()


class PlanOutingSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    date = serializers.DateField()
    state = serializers.CharField()
    unsigned = serializers.IntegerField(help_text="Checklists neither signed nor passed over")


class ProgressSerializer(serializers.Serializer):
    outings = PlanOutingSerializer(many=True)
    sites_planned = serializers.IntegerField()
    sites_done = serializers.IntegerField()
    effort_planned_s = serializers.IntegerField()
    effort_done_s = serializers.FloatField()
    targets = TargetDoneSerializer(many=True)
    weeks = WeekSerializer(many=True)


class ChecklistSerializer(serializers.Serializer):
    code = serializers.ChoiceField(CODES)
    version = serializers.IntegerField()
    title = serializers.CharField()


class DayEventSerializer(serializers.Serializer):
    first = serializers.DateField()
    last = serializers.DateField()
    what = serializers.CharField()
    words = serializers.CharField()


class PilotSerializer(serializers.Serializer):
    selection = SelectionSerializer()
    species = serializers.CharField()
    runs = serializers.IntegerField()
    fish = serializers.IntegerField()
    mean_mm = serializers.FloatField(allow_null=True)
    sd_mm = serializers.FloatField(allow_null=True)
    psd = serializers.FloatField(allow_null=True, help_text="Share, 0 to 1")
    cpue = serializers.FloatField(allow_null=True, help_text="Fish per hour of current on")
    cpue_low = serializers.FloatField(allow_null=True)
    cpue_high = serializers.FloatField(allow_null=True)
    catch_mean = serializers.FloatField(allow_null=True)
    catch_variance = serializers.FloatField(allow_null=True)
    k = serializers.FloatField(allow_null=True)


class SurveySerializer(SurveyLineSerializer):
    programme = serializers.UUIDField(source="programme_id")
    parts = PartsSerializer()
    sites = PlannedSiteSerializer(many=True)
    days = DayEventSerializer(many=True)
    against = serializers.ListField(
        child=serializers.CharField(), help_text="What stands against going out on the first day"
    )
    checklists = ChecklistSerializer(many=True, help_text="Asked for by gear, place, bath and tags")
    more_checklists = ChecklistSerializer(many=True, help_text="The others; parts.checklists says which are chosen")
    progress = ProgressSerializer()
    pilot = PilotSerializer()


class ElectroUnitSerializer(serializers.ModelSerializer):
    class Meta:
        model = Unit
        fields = ["id", "name", "gear", "max_volts", "max_amps", "max_watts", "max_hz", "max_duty", "r100_ohm"]
        read_only_fields = ["id"]
        extra_kwargs = {
            name: {"min_value": low, "max_value": high}
            for name, low, high in (
                ("max_volts", 1, 2000), ("max_amps", 0.01, 500), ("max_watts", 1, 100_000), ("max_hz", 1, 1000),
                ("max_duty", 0.001, 1), ("r100_ohm", 0.1, 100_000),
            )
        }  # fmt: skip


class R100ReadingSerializer(serializers.Serializer):
    date = serializers.DateField()
    volts = serializers.FloatField()
    amps = serializers.FloatField()
    us_cm = serializers.FloatField()
    r100_ohm = serializers.FloatField()


class ElectroUnitsSerializer(serializers.Serializer):
    units = ElectroUnitSerializer(many=True)
    r100_ohm = serializers.FloatField(allow_null=True, help_text="Median of the readings")
    readings = R100ReadingSerializer(many=True, help_text="Resistance at 100 uS/cm from past boat runs")


class SettingsRowSerializer(serializers.Serializer):
    us_cm = serializers.FloatField()
    volts = serializers.FloatField()
    amps = serializers.FloatField()
    watts = serializers.FloatField()
    mean_watts = serializers.FloatField()
    ratio = serializers.FloatField()
    problems = serializers.ListField(child=serializers.CharField())
    today = serializers.BooleanField()


class RampStepSerializer(serializers.Serializer):
    volts = serializers.FloatField()
    watch = serializers.CharField()


class RingSerializer(serializers.Serializer):
    v_cm = serializers.FloatField()
    cm = serializers.FloatField()


class SettingsSerializer(serializers.Serializer):
    unit = ElectroUnitSerializer()
    ambient_us_cm = serializers.FloatField()
    specific_us_cm = serializers.FloatField()
    duty = serializers.FloatField()
    goal = SettingsRowSerializer()
    table = SettingsRowSerializer(many=True)
    ramp = RampStepSerializer(many=True)
    advice_hz = serializers.FloatField()
    advice = serializers.CharField()
    limits = serializers.CharField()
    limits_note = serializers.CharField()
    rings = RingSerializer(many=True)
    caution = serializers.CharField()


class WellSerializer(serializers.Serializer):
    fish_g = serializers.FloatField()
    most = serializers.IntegerField()


class BathShownSerializer(serializers.Serializer):
    agent = serializers.CharField()
    stock_mg_ml = serializers.FloatField()
    litres = serializers.FloatField()
    low_mg_l = serializers.FloatField()
    high_mg_l = serializers.FloatField()
    stock_ml = serializers.FloatField()
    caps = serializers.FloatField()
    spare_ml = serializers.FloatField()
    line = serializers.CharField()
    note = serializers.CharField()
    caution = serializers.CharField()


class LimitsShownSerializer(serializers.Serializer):
    well_fish = WellSerializer(many=True)
    lines = serializers.ListField(child=serializers.CharField())


class TagKindShownSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    fits = serializers.BooleanField()
    against = serializers.ListField(child=serializers.CharField())
    affordable = serializers.IntegerField()
    smallest_mm = serializers.FloatField(allow_null=True)
    years = serializers.FloatField()
    cannot = serializers.CharField()
    needs = serializers.CharField()


class TagsShownSerializer(serializers.Serializer):
    species = serializers.CharField()
    smallest_mm = serializers.FloatField()
    smallest_low = serializers.FloatField()
    smallest_high = serializers.FloatField()
    own_line = serializers.BooleanField()
    battery_days = serializers.FloatField()
    last_ping = serializers.DateField()
    collision = serializers.FloatField()
    most_in_reach = serializers.IntegerField()
    in_stock = serializers.IntegerField()
    first_number = serializers.CharField()
    last_number = serializers.CharField()
    double = serializers.ListField(child=serializers.IntegerField())
    high_reward = serializers.ListField(child=serializers.IntegerField())
    kinds = TagKindShownSerializer(many=True)


class DeepRowSerializer(serializers.Serializer):
    depth_m = serializers.FloatField()
    fish_g = serializers.FloatField()
    release_m = serializers.FloatField()
    sinker_g = serializers.FloatField()
    pulls = serializers.IntegerField()
    preset_m = serializers.FloatField(allow_null=True)
    excess = serializers.FloatField()


class DeviceSerializer(serializers.Serializer):
    name = serializers.CharField()
    fits = serializers.BooleanField()
    reasons = serializers.ListField(child=serializers.CharField())


class DeepSerializer(serializers.Serializer):
    water = serializers.CharField()
    rows = DeepRowSerializer(many=True)
    devices = DeviceSerializer(many=True)


class KitSerializer(serializers.Serializer):
    limits = LimitsShownSerializer()
    bath = BathShownSerializer(allow_null=True)
    bath_refused = serializers.CharField(allow_blank=True)
    tags = TagsShownSerializer(allow_null=True)
    tags_refused = serializers.CharField(allow_blank=True)
    deep = DeepSerializer()
    rod_hours = serializers.FloatField(help_text="Of the angling plan, in each zone")
    questions = serializers.ListField(child=serializers.CharField(), help_text="What a choice of tags may be for")


class EnoughQuerySerializer(serializers.Serializer):
    catch_mean = serializers.FloatField(min_value=-1e9, max_value=1e9, default=20)
    catch_variance = serializers.FloatField(min_value=-1e9, max_value=1e9, default=200)
    cv = serializers.FloatField(min_value=-1e9, max_value=1e9, default=0.2)
    frame_size = serializers.IntegerField(min_value=1, required=False, allow_null=True, default=None)
    psd = serializers.FloatField(min_value=-1e9, max_value=1e9, default=60)
    psd_half = serializers.FloatField(min_value=-1e9, max_value=1e9, default=8)
    psd_other = serializers.FloatField(min_value=-1e9, max_value=1e9, default=45)
    sd_mm = serializers.FloatField(min_value=-1e9, max_value=1e9, default=90)
    mean_half_mm = serializers.FloatField(min_value=-1e9, max_value=1e9, default=10)
    death_low = serializers.FloatField(min_value=-1e9, max_value=1e9, default=5)
    death_high = serializers.FloatField(min_value=-1e9, max_value=1e9, default=15)
    population = serializers.FloatField(min_value=-1e9, max_value=5e6, default=5000)


class MarksCurveSerializer(serializers.Serializer):
    name = serializers.CharField()
    accuracy = serializers.FloatField()
    catch = serializers.ListField(child=serializers.FloatField(allow_null=True))


class EnoughSerializer(serializers.Serializer):
    sites = serializers.IntegerField()
    fish_psd = serializers.IntegerField()
    fish_mean = serializers.IntegerField()
    fish_difference = serializers.IntegerField()
    fish_mortality = serializers.IntegerField()
    marks = serializers.ListField(child=serializers.FloatField())
    curves = MarksCurveSerializer(many=True)


class NewRehearsalSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(["marks", "removal", "trend"])
    design = serializers.DictField(child=serializers.FloatField(min_value=-1e9, max_value=1e9))
    choice = serializers.CharField(max_length=20, allow_blank=True, default="")
    values = serializers.ListField(child=serializers.FloatField(min_value=-1e9, max_value=1e9), default=list)
    replicates = serializers.IntegerField(min_value=100, max_value=20_000, default=1000)
    seed = serializers.IntegerField(min_value=0, max_value=2**31 - 1, default=1)
    confirmed = serializers.BooleanField(default=False)


class RehearsedDesignSerializer(serializers.Serializer):
    design = serializers.DictField(child=serializers.FloatField())
    truth = serializers.FloatField()
    bias = serializers.FloatField(allow_null=True)
    median = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    coverage = serializers.FloatField()
    coverage_low = serializers.FloatField()
    coverage_high = serializers.FloatField()
    useless = serializers.FloatField()
    within = serializers.FloatField()
    cost = serializers.FloatField()
    counts = serializers.ListField(child=serializers.IntegerField())
    edges = serializers.ListField(child=serializers.FloatField())


class RehearsalResultSerializer(serializers.Serializer):
    sentence = serializers.CharField(default="", help_text="Empty in results from before there were any")
    designs = RehearsedDesignSerializer(many=True)


class RehearsalSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    kind = serializers.CharField()
    design = serializers.DictField(child=serializers.FloatField())
    choice = serializers.CharField()
    values = serializers.ListField(child=serializers.FloatField())
    replicates = serializers.IntegerField()
    seed = serializers.IntegerField()
    made_at = serializers.DateTimeField()
    result = RehearsalResultSerializer(allow_null=True)
    job = JobSerializer(allow_null=True)


class PaperSerializer(serializers.ModelSerializer):
    state = serializers.SerializerMethodField()

    class Meta:
        model = Paper
        fields = ["id", "kind", "name", "holder", "number", "gears", "first", "last", "state"]
        read_only_fields = ["id", "state"]

    gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices), default=list)

    def get_state(self, paper: Paper) -> str:
        from nailwright.plan.queries import paper_state

        return paper_state(paper, date.today())


class SeasonSerializer(serializers.ModelSerializer):
    class Meta:
        model = Season
        fields = ["id", "water", "kind", "name", "first_day", "last_day"]
        read_only_fields = ["id"]


class NewSeasonSerializer(serializers.Serializer):
    water = serializers.UUIDField(allow_null=True, default=None)
    kind = serializers.ChoiceField(Season.Kind.choices)
    name = serializers.CharField(max_length=120)
    first_day = serializers.CharField(max_length=5, help_text="MM-DD")
    last_day = serializers.CharField(max_length=5, help_text="MM-DD")


class QuestionSerializer(serializers.Serializer):
    value = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]


class PlanSerializer(serializers.Serializer):
    questions = QuestionSerializer(many=True, help_text="What a survey can be planned to answer")
    surveys = SurveyLineSerializer(many=True)
    papers = PaperSerializer(many=True)
    seasons = SeasonSerializer(many=True)
    people = serializers.ListField(child=serializers.CharField())


class MakeOutingSerializer(serializers.Serializer):
    id = serializers.UUIDField(
        default=new_id, help_text="The outing's key, made by whoever asks: asked twice, one outing is made."
    )
    date = _day()
    override = serializers.CharField(max_length=200, allow_blank=True, default="")
