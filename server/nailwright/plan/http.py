"""What the views of a plan share."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from rest_framework.request import Request

from nailwright.plan.models import Survey
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
    return survey


def file_response(content: str | bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
