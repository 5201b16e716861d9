"""The tagging course: who has passed it holds a certificate among the programme's permits."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from nailwright.permits.models import Permit
from nailwright.permits.states import permit_state
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import may, require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright_core.tags.course import PRACTICE, QUESTIONS, VALID_DAYS, Graded, grade

#: How its certificates are called.
NAME = "Tagging course"


def course_for(person: Person, programme: Programme) -> dict[str, Any]:
    """The questions without their answers, the practice fish, and who has passed: oneself, and everybody for those who read reports."""
    passed = _certificates(programme)
    if not may(person, programme, "read_returns"):
        passed = passed.filter(holder=person.name)
    today = timezone.now().date()
    return {
        "questions": [
            {
                "code": each.code,
                "text": each.text,
                "choices": [{"code": code, "words": words} for code, words in each.choices],
                "must": each.must,
            }
            for each in QUESTIONS
        ],
        "practice": {
            "number": PRACTICE.number,
            "length_mm": PRACTICE.length_mm,
            "behaviour": PRACTICE.behaviour,
        },
        "valid_days": VALID_DAYS,
        "passed": [
            {
                "holder": each.holder,
                "first": each.first,
                "last": each.last,
                "result": each.number,
                "state": permit_state(each, today),
            }
            for each in passed
        ],
    }


def take_course(
    act: Act, programme: Programme, answers: Mapping[str, str], practice: Mapping[str, Any]
) -> tuple[Graded, Permit | None]:
    """Grade the answers; whoever passes gets a certificate, or has theirs renewed.

    Raises:
        CoreError: as core's ``grade``. Refused: ``role_may_not``.
    """
    require(act.person, programme, "write_card")
    graded = grade(answers, practice)
    if not graded.passed:
        return graded, None
    today = act.device_time.date()
    values = {
        "number": f"{graded.right} of {graded.n}",
        "first": today,
        "last": today + timedelta(days=VALID_DAYS),
    }
    with transaction.atomic():
        # one at a time: passed twice at one moment is still one certificate
        Programme.objects.select_for_update().get(pk=programme.pk)
        there = _certificates(programme).filter(holder=act.person.name).first()
        if there is None:
            there = Permit.objects.create(
                programme=programme, kind=Permit.Kind.CERTIFICATE, name=NAME, holder=act.person.name, gears=[], **values
            )
        else:
            apply_change(act, programme, there, values)
    return graded, there


def _certificates(programme: Programme) -> QuerySet[Permit]:
    return programme.permits.filter(kind=Permit.Kind.CERTIFICATE, name=NAME).order_by("holder", "-last")
