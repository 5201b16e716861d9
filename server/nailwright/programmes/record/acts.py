"""A doing of whoever asks, now."""

from __future__ import annotations

from django.utils import timezone
from rest_framework.request import Request

from nailwright.common.rows import new_id
from nailwright.programmes.policies import person_of
from nailwright.programmes.record.audit import Act


def act_of(request: Request, reason: str = "", desk: bool = False) -> Act:
    return Act(new_id(), person_of(request), timezone.now(), reason, desk=desk)
