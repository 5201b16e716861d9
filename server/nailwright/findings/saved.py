"""Keeping findings, and noticing when the rows behind one have since changed."""

from __future__ import annotations

from functools import lru_cache
from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from rest_framework.exceptions import ValidationError

from nailwright.common.database_retries import settled
from nailwright.common.errors import Refused
from nailwright.findings.computing import Asked, answer_now, check_places, read_asked
from nailwright.findings.fingerprints import fingerprints_differ
from nailwright.findings.long_selections import as_address
from nailwright.findings.models import SavedFinding
from nailwright.findings.selections import Selection
from nailwright.findings.subjects import Subject
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.places import EVERYWHERE, Places
from nailwright.programmes.policies import require
from nailwright.programmes.record.receiving import key_taken
from nailwright_core.common.errors import CoreError


def save_finding(
    person: Person, programme: Programme, key: UUID, kind: str, query: dict[str, Any], title: str
) -> SavedFinding:
    """Compute a finding and keep it with everything that is needed to see it again.

    Raises:
        CoreError: ``kind_unknown``, ``key_taken``, and as the finding itself.
    """
    require(person, programme, "save_finding")
    asked = read_asked(programme, kind, as_address(query))
    # before the answer: a row that changes meanwhile is noticed later
    fingerprint = asked.kind.subject.fingerprint(programme, asked.selection)
    result = answer_now(programme, asked)
    values = {
        "programme": programme,
        "kind": kind,
        "title": title,
        "query": query,
        "result": result,
        "seed": asked.kind.seed,
        "fingerprint": fingerprint,
        "saved_by": person,
    }
    kept, _ = settled(lambda: SavedFinding.objects.get_or_create(pk=key, defaults=values))
    if kept.programme_id != programme.pk:
        raise key_taken("kept finding")
    return kept


def saved_of(programme: Programme, places: Places = EVERYWHERE) -> list[dict[str, Any]]:
    """Kept findings, newest first, each with whether its rows have changed since; none that tells what ``places`` does not show."""
    found: QuerySet[SavedFinding] = programme.saved_findings.select_related("saved_by")
    told = []
    for kept in found:
        try:
            asked = read_asked(programme, kept.kind, as_address(kept.query))
        except (CoreError, ValidationError):
            # it can be asked no more, for instance of a species that has gone: its answer stands, and who knows whether it holds
            if not places.hidden:
                told.append({"finding": kept, "changed": True})
            continue
        if _may_be_shown(places, asked):
            changed = fingerprints_differ(
                kept.fingerprint, _fingerprint(asked.kind.subject, programme, asked.selection, asked.fingerprint)
            )
            told.append({"finding": kept, "changed": changed})
    return told


def _may_be_shown(places: Places, asked: Asked) -> bool:
    try:
        check_places(places, asked)
    except Refused:
        return False
    return True


@lru_cache(maxsize=200)
def _fingerprint(subject: Subject, programme: Programme, selection: Selection, touched: str) -> str:
    """The rows' fingerprint, read once as long as nothing is touched (``touched``)."""
    return subject.fingerprint(programme, selection)
