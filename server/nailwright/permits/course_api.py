"""The tagging course over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.permits.course import course_for, take_course
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.record.acts import act_of
from nailwright_core.tags.course import QUESTIONS


class CourseChoiceSerializer(serializers.Serializer):
    code = serializers.CharField()
    words = serializers.CharField()


class CourseQuestionSerializer(serializers.Serializer):
    code = serializers.CharField()
    text = serializers.CharField()
    choices = CourseChoiceSerializer(many=True)
    must = serializers.BooleanField(help_text="It has to be right, whatever the others are")


class PracticeFishSerializer(serializers.Serializer):
    number = serializers.CharField(help_text="On its tag")
    length_mm = serializers.FloatField(help_text="On the board")
    behaviour = serializers.CharField(help_text="When it is released")


class CoursePassedSerializer(serializers.Serializer):
    holder = serializers.CharField()
    first = serializers.DateField()
    last = serializers.DateField()
    result = serializers.CharField()
    state = serializers.CharField()


class CourseSerializer(serializers.Serializer):
    questions = CourseQuestionSerializer(many=True)
    practice = PracticeFishSerializer()
    valid_days = serializers.IntegerField()
    passed = CoursePassedSerializer(many=True)


class PracticeCardSerializer(serializers.Serializer):
    number_text = serializers.CharField(max_length=40, allow_blank=True, default="")
    length = serializers.CharField(max_length=40, allow_blank=True, default="")
    length_basis = serializers.ChoiceField(["", "measured", "estimated"], allow_blank=True, default="")
    condition = serializers.IntegerField(min_value=1, max_value=4, allow_null=True, default=None)


class CourseAnswersSerializer(serializers.Serializer):
    answers = serializers.DictField(child=serializers.CharField(max_length=30), help_text="Chosen answer by question")
    practice = PracticeCardSerializer()


class CourseReasonSerializer(serializers.Serializer):
    code = serializers.CharField()
    right = serializers.CharField(help_text="Code of the right answer")
    why = serializers.CharField()


class CourseResultSerializer(serializers.Serializer):
    passed = serializers.BooleanField()
    right = serializers.IntegerField()
    n = serializers.IntegerField()
    missed_must = serializers.BooleanField(help_text="One that has to be right is not")
    wrong = CourseReasonSerializer(many=True)
    practice = serializers.DictField(
        child=serializers.CharField(), help_text="What is wrong with the practice card, by field"
    )
    until = serializers.DateField(allow_null=True, help_text="So long it counts")


class CourseView(APIView):
    """The tagging course; a post is graded, and whoever passes gets a certificate."""

    @extend_schema(operation_id="tagging_course", responses=CourseSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        person = person_of(request)
        programme = programme_for(person, programme_id, "write_card")
        return Response(CourseSerializer(course_for(person, programme)).data)

    @extend_schema(
        operation_id="take_tagging_course", request=CourseAnswersSerializer, responses=CourseResultSerializer
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "write_card")
        asked = given(CourseAnswersSerializer, request)
        graded, certificate = take_course(act_of(request), programme, asked["answers"], asked["practice"])
        reasons = {each.code: each for each in QUESTIONS}
        told = {
            "passed": graded.passed,
            "right": graded.right,
            "n": graded.n,
            "missed_must": graded.missed_must,
            "wrong": [{"code": code, "right": reasons[code].right, "why": reasons[code].why} for code in graded.wrong],
            "practice": graded.practice,
            "until": certificate.last if certificate else None,
        }
        return Response(CourseResultSerializer(told).data)
