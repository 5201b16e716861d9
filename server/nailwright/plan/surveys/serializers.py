"""Shapes of surveys."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.deck.models import Gear, Target
from nailwright.deck.outing.checklists import CODES
from nailwright.findings.request_query import SelectionSerializer
from nailwright.permits.serializers import PermitSerializer
from nailwright.plan.day_field import day_field
from nailwright.plan.layout.serializers import PlannedSiteSerializer
from nailwright.plan.parts import ChangePartsSerializer, PartsSerializer
from nailwright.plan.seasons.serializers import SeasonSerializer
from nailwright_core.plan.questions import QUESTIONS


class NewSurveySerializer(serializers.Serializer):
    water = serializers.UUIDField()
    name = serializers.CharField(max_length=120)
    question = serializers.ChoiceField(QUESTIONS)
    species = serializers.ListField(child=serializers.CharField(max_length=8), max_length=20)
    gear = serializers.ChoiceField(Gear.choices)
    more_gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices), default=list, max_length=11)
    first = day_field()
    last = day_field()
    visits = serializers.IntegerField(min_value=1, max_value=60, default=1)
    effort_s = serializers.IntegerField(min_value=0, max_value=86_400, default=900)
    revisit_years = serializers.IntegerField(min_value=1, max_value=30, allow_null=True, default=None)


class AgainSerializer(serializers.Serializer):
    first = day_field(help_text="First day of the new survey; it lasts as long as this one")


class TakeOutSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Key of this change; sending it twice changes nothing the second time.")
    deleted = serializers.BooleanField()


class ChangeSurveySerializer(serializers.Serializer):
    """Any of the choices, and any of the parts."""

    gear = serializers.ChoiceField(Gear.choices, required=False)
    more_gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices), required=False, max_length=11)
    name = serializers.CharField(max_length=120, required=False)
    question = serializers.ChoiceField(QUESTIONS, required=False)
    species = serializers.ListField(child=serializers.CharField(max_length=8), max_length=20, required=False)
    first = day_field(required=False)
    last = day_field(required=False)
    visits = serializers.IntegerField(min_value=1, max_value=60, required=False)
    effort_s = serializers.IntegerField(min_value=0, max_value=86_400, required=False)
    revisit_years = serializers.IntegerField(min_value=1, max_value=30, allow_null=True, required=False)
    parts = ChangePartsSerializer(required=False)


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
    more_gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices))
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
    per = serializers.CharField(help_text="Of what the rate is: an hour of current, a rod-hour ...")
    cpue = serializers.FloatField(allow_null=True, help_text="Fish per that")
    cpue_low = serializers.FloatField(allow_null=True)
    cpue_high = serializers.FloatField(allow_null=True)
    catch_mean = serializers.FloatField(allow_null=True)
    catch_variance = serializers.FloatField(allow_null=True)
    k = serializers.FloatField(allow_null=True)


class KitRowSerializer(serializers.Serializer):
    item = serializers.CharField()
    n = serializers.IntegerField(allow_null=True)
    when = serializers.CharField(allow_null=True, help_text="Always, or surgery, tags, bath, angling")


class SurveySerializer(SurveyLineSerializer):
    programme = serializers.UUIDField(source="programme_id")
    parts = PartsSerializer()
    answered = serializers.ListField(
        child=serializers.CharField(),
        help_text="Parts of which somebody has chosen something; the others are as they begin",
    )
    rehearsed = serializers.IntegerField(help_text="Rehearsals that have an answer")
    sites = PlannedSiteSerializer(many=True)
    days = DayEventSerializer(many=True)
    against = serializers.ListField(
        child=serializers.CharField(), help_text="What stands against going out on the first day"
    )
    checklists = ChecklistSerializer(many=True, help_text="Asked for by gear, place, bath and tags")
    more_checklists = ChecklistSerializer(many=True, help_text="The others; parts.checklists says which are chosen")
    kit = KitRowSerializer(many=True, help_text="What goes along, by the protocol")
    progress = ProgressSerializer()
    pilot = PilotSerializer()


class QuestionSerializer(serializers.Serializer):
    value = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]


class PlanSerializer(serializers.Serializer):
    questions = QuestionSerializer(many=True, help_text="What a survey can be planned to answer")
    surveys = SurveyLineSerializer(many=True)
    permits = PermitSerializer(many=True)
    seasons = SeasonSerializer(many=True)
    people = serializers.ListField(child=serializers.CharField())
