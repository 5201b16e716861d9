"""What the views of the deck share."""

from __future__ import annotations

from typing import Any
from uuid import UUID

import orjson
from django.shortcuts import get_object_or_404
from rest_framework.renderers import BaseRenderer
from rest_framework.request import Request

from nailwright.deck.models import Outing
from nailwright.programmes.policies import person_of, require


class PlainJson(BaseRenderer):
    """JSON of plain values, many of them: several times faster than the standard encoder (bin/bench)."""

    media_type, format, charset = "application/json", "json", None

    def render(self, data: Any, accepted_media_type: Any = None, renderer_context: Any = None) -> bytes:
        return orjson.dumps(data, default=str)


def outing_for(request: Request, outing_id: UUID) -> Outing:
    outing = get_object_or_404(Outing.objects.select_related("programme", "water", "protocol"), pk=outing_id)
    require(person_of(request), outing.programme, "read")
    return outing
