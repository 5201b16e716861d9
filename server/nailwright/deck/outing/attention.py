"""What needs a person's attention: lines of Today, and what rooms above the deck add to them (their ``attention.py``)."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from nailwright.common.discovery import in_each_app
from nailwright.deck.models import Capture, Outing, Run
from nailwright.deck.outing.conflicts import RECENT_DAYS, crossed_of
from nailwright.deck.outing.signatures import unsigned_of
from nailwright.programmes.models import Programme


def attention_lines(programme: Programme, outings: list[Outing]) -> list[dict[str, Any]]:
    """Every line, those of open outings first."""
    return [
        *_stale(outings),
        *_unsigned(outings),
        *_older_protocols(programme, outings),
        *_doubts(programme),
        *_foreign(programme),
        *_crossed(programme),
        *(line for attention_of in in_each_app("attention", "attention_of") for line in attention_of(programme)),
    ]


def runs_in(outing: Outing) -> list[Run]:
    """Its runs without the deleted ones, where they were fetched with it."""
    return [run for run in outing.runs.all() if run.deleted_at is None]


def _older_protocols(programme: Programme, outings: list[Outing]) -> list[dict[str, Any]]:
    """Open outings that go by an earlier version than the one that holds now."""
    standing = programme.protocols.first()
    return [
        {
            "code": "protocol_older",
            "text": f"{outing.name} uses version {outing.protocol.number} of the protocol; version {standing.number} is in force.",
            "outing": outing.pk,
            "n": 1,
        }
        for outing in outings
        if standing and outing.protocol and outing.protocol.number < standing.number
    ]


def _stale(outings: list[Outing]) -> list[dict[str, Any]]:
    """Outings still open from an earlier day."""
    today = timezone.now().date()
    return [
        {
            "code": "outing_open",
            "text": f"{outing.name} of {outing.date:%d %b %Y} is still open: account for its fish and close it.",
            "outing": outing.pk,
            "n": 1,
        }
        for outing in outings
        if (today - outing.date).days > 1
    ]


def _unsigned(outings: list[Outing]) -> list[dict[str, Any]]:
    """Outings on which current flowed although a checklist was neither signed nor passed over: another tablet's work."""
    worked = [outing for outing in outings if any((run.current_on_s or 0) > 0 for run in runs_in(outing))]
    return [
        {
            "code": "checklists_unsigned",
            "text": f"{outing.name}: current was on with {n} {'checklist' if n == 1 else 'checklists'} unsigned. "
            "Read and sign, or say why not.",
            "outing": outing.pk,
            "n": n,
        }
        for outing in worked
        if (n := len(unsigned_of(outing)))
    ]


def _doubts(programme: Programme) -> list[dict[str, Any]]:
    """Doubts that nobody was asked, because the call came from elsewhere than the Deck."""
    captures = recent_captures(programme).filter(questions__icontains='"not asked"')
    return newest_line(
        captures,
        "doubt_unasked",
        "{n} fish with a doubt that nobody has answered: look, then correct or confirm.",
    )


def _foreign(programme: Programme) -> list[dict[str, Any]]:
    """Marks that this programme never gave out."""
    captures = recent_captures(programme).filter(scanned=Capture.Scanned.FOREIGN)
    return newest_line(captures, "mark_foreign", "{n} fish with a mark that is not ours: find out whose it is.")


def _crossed(programme: Programme) -> list[dict[str, Any]]:
    """Corrections of two people that do not agree."""
    crossed = crossed_of(programme)
    if not crossed:
        return []
    n = len({each.row for each in crossed})
    text = "with conflicting edits by two people: the later one stands; check whether it is right."
    entries = f"{n} {'entry' if n == 1 else 'entries'}"
    return [{"code": "corrections_crossed", "text": f"{entries} {text}", "outing": crossed[0].outing, "n": n}]


def recent_captures(programme: Programme) -> QuerySet[Capture]:
    """Captures of the outings of the last days, as far back as Today looks."""
    since = date.fromordinal(timezone.now().date().toordinal() - RECENT_DAYS)
    return Capture.present.filter(programme=programme, run__outing__date__gte=since)


def newest_line(captures: QuerySet[Capture], code: str, text: str) -> list[dict[str, Any]]:
    """One line for all of them, leading to the outing of the newest; none where there are none."""
    newest = captures.order_by("-device_time").values_list("run__outing_id", flat=True).first()
    if newest is None:
        return []
    n = captures.count()
    return [{"code": code, "text": text.format(n=n), "outing": newest, "n": n}]
