"""Baths, tags, limits and deep water over HTTP."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import UUID

from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.plan.http import survey_for
from nailwright.plan.kit import serializers
from nailwright.plan.kit.baths import show_bath
from nailwright.plan.kit.deep_water import show_deep
from nailwright.plan.kit.limits import show_limits
from nailwright.plan.kit.tags import show_tags
from nailwright.plan.parts import parts_of
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.effort import rod_hours
from nailwright_core.plan.tag_choice import QUESTIONS


class SurveyKitView(APIView):
    @extend_schema(operation_id="survey_kit", responses=serializers.KitSerializer)
    def get(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "read")
        parts = parts_of(survey.parts)
        kit: dict[str, Any] = {
            "limits": show_limits(parts.limits),
            "bath": None,
            "bath_refused": "",
            "tags": None,
            "tags_refused": "",
            "deep": show_deep(survey),
            "rod_hours": rod_hours(parts.angling.rods, parts.angling.bouts, parts.angling.bout_min),
            "questions": QUESTIONS,
        }
        today = timezone.now().date()
        asked: dict[str, Callable[[], Any]] = {
            "bath": lambda: show_bath(parts.bath) if parts.bath.agent else None,
            "tags": lambda: show_tags(survey, parts.tags, today),
        }
        for name, show in asked.items():
            try:
                kit[name] = show()
            except CoreError as refused:
                kit[f"{name}_refused"] = refused.message
        return Response(serializers.KitSerializer(kit).data)
