"""The water that a request is about."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from rest_framework.request import Request

from nailwright.programmes.policies import person_of, require
from nailwright.waters.models import Water


def water_for(request: Request, water_id: UUID, permission: str) -> Water:
    """The water with this key, where the person may do ``permission`` in its programme."""
    water = get_object_or_404(Water.objects.select_related("programme"), pk=water_id)
    require(person_of(request), water.programme, permission)
    return water
