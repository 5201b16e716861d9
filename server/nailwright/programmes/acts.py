"""A doing of whoever asks, now."""

from __future__ import annotations

from django.utils import timezone
from rest_framework.request import Request

from nailwright.common.rows import new_id
from nailwright.programmes.audit import Act
from nailwright.programmes.policies import person_of


def act_of(request: Request, reason: str = "") -> Act:
    return Act(new_id(), person_of(request), timezone.now(), reason)
