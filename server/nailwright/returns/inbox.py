"""Reports as those see them who decide."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import Count, Q

from nailwright.programmes.models import Change, Programme
from nailwright.programmes.people.mail import mail_is_set
from nailwright.programmes.record.effects import WITH_IT
from nailwright.programmes.species.known import species_of
from nailwright.returns.checking import doubts_of, last_known, other_reports
from nailwright.returns.matching import near_numbers
from nailwright.returns.models import Return
from nailwright.tags.exchange import whose_marks
from nailwright.tags.models import TagKind
from nailwright.tags.numbers import read_number_of
from nailwright_core.common.errors import CoreError

PAGE = 100
UNDECIDED = (Return.State.RECEIVED, Return.State.MATCHED, Return.State.ASKED)
_TOLD = (
    "id", "received_at", "channel", "language", "number_text", "species", "found_on", "found_within_days", "lat", "lon",
    "error_m", "place_text", "length_text", "length_mm", "length_estimated", "mass_text", "mass_g", "means", "fish_fate",
    "tag_fate", "remarks", "state", "told", "decided_at", "reason",
)  # fmt: skip


def counts_of(programme: Programme) -> dict[str, int]:
    """How many reports are in each state."""
    rows = Return.objects.filter(programme=programme).order_by().values_list("state").annotate(Count("pk"))
    return {**dict.fromkeys(Return.State.values, 0), **dict(rows)}


def reports_of(programme: Programme, states: list[str], before: UUID | None = None) -> list[dict[str, Any]]:
    """Reports in these states, the newest first, a page of them from before one on."""
    rows = Return.objects.filter(programme=programme).select_related("tag", "recorder", "programme", "fish")
    if states:
        rows = rows.filter(state__in=states)
    if before and (last := Return.objects.filter(pk=before).first()):
        rows = rows.filter(Q(received_at__lt=last.received_at) | Q(received_at=last.received_at, pk__lt=last.pk))
    # what speaks against a decided one is read where it is looked at
    return [told_report(each, doubted=each.state in UNDECIDED) for each in rows[:PAGE]]


def told_report(report: Return, doubted: bool = True) -> dict[str, Any]:
    """A report in a list, with its doubts where they are wanted."""
    return {
        **{name: getattr(report, name) for name in _TOLD},
        "fish": report.fish_id,
        "tag": {"kind": report.tag.kind, "number": report.tag.number} if report.tag else None,
        "recorder": report.recorder.name if report.recorder else "",
        "doubts": [{"code": each.code, "text": each.text} for each in doubts_of(report)] if doubted else [],
    }


def whole_report(report: Return) -> dict[str, Any]:
    """A report with all that helps to decide it."""
    finder = getattr(report, "finder", None)
    names = ("name", "email", "telephone", "post", "guardian", "consent_at", "erased_at")
    fish_species = report.fish.species if report.fish else ""
    return {
        **told_report(report),
        "species_name": _name(report.programme, report.species),
        "fish_species_name": _name(report.programme, fish_species),
        "last_known": _last_known(report),
        "finder": {name: getattr(finder, name) for name in names} if finder else None,
        "reward": getattr(report, "reward", None),
        "currency": report.programme.currency,
        "photo": hasattr(report, "photo"),
        "whose": _whose(report),
        "near": [] if report.tag_id else near_numbers(report.programme, report.number_text),
        "others": [told_report(each) for each in other_reports(report)],
        "history": _history(report),
        "mail": mail_is_set(),
    }


def _whose(report: Return) -> list[dict[str, Any]]:
    """What other programmes told of the number, where it is none of ours."""
    if report.tag_id or not report.number_text:
        return []
    numbers = set()
    for kind in TagKind.values:
        try:
            numbers.add((kind, read_number_of(kind, report.number_text)))
        except CoreError:
            continue  # no number of that kind
    return whose_marks(report.programme, numbers)


def _last_known(report: Return) -> dict[str, Any] | None:
    if report.fish is None:
        return None
    known = last_known(report)
    return {name: getattr(known, name) for name in ("tagged", "met", "lat", "lon", "length_mm", "measured")}


def _name(programme: Programme, code: str) -> str:
    table = species_of(programme)
    return table[code].common_name if code and code in table else code


def _history(report: Return) -> list[dict[str, Any]]:
    changes = (
        Change.objects.filter(row=report.pk, table="return").select_related("person").order_by("server_time", "id")
    )
    return [
        {
            "at": each.device_time,
            "person": each.person.name,
            "reason": each.reason,
            "before": {name: value for name, value in each.before.items() if name != WITH_IT},
            "after": each.after,
        }
        for each in changes
    ]
