"""What the views of a plan share."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import Prefetch, QuerySet, prefetch_related_objects
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from rest_framework.request import Request

from nailwright.plan.models import PlannedSite, Survey
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, require


def plain(value: Any) -> Any:
    """Nested values as JSON holds them."""
    if isinstance(value, dict):
        return {key: plain(each) for key, each in value.items()}
    if isinstance(value, list):
        return [plain(each) for each in value]
    return value if value is None or isinstance(value, bool | int | float | str) else str(value)


def survey_for(request: Request, survey_id: UUID, permission: str, among: QuerySet[Survey] | None = None) -> Survey:
    """A survey of the plans, or ``among`` others, that the person may do ``permission`` with."""
    surveys = Survey.objects.filter(deleted_at=None) if among is None else among
    survey = get_object_or_404(surveys.select_related("programme", "water"), pk=survey_id)
    require(person_of(request), survey.programme, permission)
    if secret := places_of(person_of(request), survey.programme).secret:
        # whoever may not see them reads the plan without them: screen, map, sheet and GPX alike
        shown = Prefetch("sites", PlannedSite.objects.exclude(site__in=secret))
        prefetch_related_objects([survey], shown)
    return survey


def file_response(content: str | bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
