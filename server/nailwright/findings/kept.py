"""Keeping findings, and noticing when the rows behind one have since changed."""

from __future__ import annotations

from functools import lru_cache
from typing import Any
from uuid import UUID

from django.db.models import QuerySet

from nailwright.common.settling import settled
from nailwright.findings.asking import answer_now, read_asked
from nailwright.findings.long_selections import as_address
from nailwright.findings.models import KeptFinding
from nailwright.findings.rows_mark import marks_differ, rows_mark
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.receiving import key_taken


def keep_finding(
    person: Person, programme: Programme, key: UUID, kind: str, query: dict[str, Any], title: str
) -> KeptFinding:
    """Compute a finding and keep it with everything that is needed to see it again.

    Raises:
        CoreError: ``kind_unknown``, ``key_taken``, and as the finding itself.
    """
    require(person, programme, "keep_finding")
    asked = read_asked(programme, kind, as_address(query))
    mark = rows_mark(programme, asked.selection)  # before the answer: a row that changes meanwhile is noticed later
    result = answer_now(programme, asked)
    values = {
        "programme": programme,
        "kind": kind,
        "title": title,
        "query": query,
        "result": result,
        "seed": asked.kind.seed,
        "rows_mark": mark,
        "keeper": person,
    }
    kept, _ = settled(lambda: KeptFinding.objects.get_or_create(pk=key, defaults=values))
    if kept.programme_id != programme.pk:
        raise key_taken("kept finding")
    return kept


def kept_of(programme: Programme) -> list[dict[str, Any]]:
    """All kept findings, newest first, each with whether its rows have changed since."""
    found: QuerySet[KeptFinding] = programme.kept_findings.select_related("keeper")
    return [{"finding": each, "changed": _changed(each)} for each in found]


def _changed(kept: KeptFinding) -> bool:
    asked = read_asked(kept.programme, kept.kind, as_address(kept.query))
    return marks_differ(kept.rows_mark, _rows_mark(kept.programme, asked.selection, asked.mark))


@lru_cache(maxsize=200)
def _rows_mark(programme: Programme, selection: Selection, touched: str) -> str:
    """The rows' mark, read once as long as nothing is touched (``touched``)."""
    return rows_mark(programme, selection)
