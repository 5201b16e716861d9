"""The water or site that a request is about."""

from __future__ import annotations

from uuid import UUID

from django.http import Http404
from django.shortcuts import get_object_or_404
from rest_framework.request import Request

from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, require
from nailwright.waters.models import Site, Water


def water_for(request: Request, water_id: UUID, permission: str) -> Water:
    """The water with this key, where the person may do ``permission`` in its programme."""
    water = get_object_or_404(Water.objects.select_related("programme"), pk=water_id)
    require(person_of(request), water.programme, permission)
    return water


def site_for(request: Request, site_id: UUID, permission: str) -> Site:
    """The site with this key, where the person may do ``permission`` in its programme and is shown the place."""
    site = get_object_or_404(Site.objects.select_related("water__programme"), pk=site_id)
    require(person_of(request), site.water.programme, permission)
    if site.pk in places_of(person_of(request), site.water.programme).secret:
        raise Http404
    return site
