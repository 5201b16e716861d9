"""Selections that are too long for an address: kept under a short key, and put back where an address names it."""

from __future__ import annotations

import hashlib
import json
from typing import Any

from django.http import QueryDict

from nailwright.common.database_retries import settled
from nailwright.findings.models import LongSelection
from nailwright.findings.request_query import AnySpeciesSerializer
from nailwright.programmes.models import Programme
from nailwright_core.common.errors import CoreError

MOST_CHARACTERS = 200_000


def as_address(query: dict[str, Any]) -> QueryDict:
    """The question as an address holds it: lists repeat their key.

    Raises:
        CoreError: ``query_unreadable``.
    """
    address = QueryDict(mutable=True)
    for name, value in query.items():
        address.setlist(str(name)[:40], [_text(each) for each in (value if isinstance(value, list) else [value])])
    return address


def keep_selection(programme: Programme, query: dict[str, Any]) -> LongSelection:
    """Keep a selection, checked as an address would be; the same one has the same key.

    Raises:
        CoreError: ``query_unreadable``, ``selection_too_long``; and what it holds wrong.
    """
    given = AnySpeciesSerializer(data=as_address(query))
    given.is_valid(raise_exception=True)
    text = json.dumps(query, sort_keys=True)
    if len(text) > MOST_CHARACTERS:
        raise CoreError(
            "selection_too_long", "More is chosen than can be kept; choose waters or years instead.", "query"
        )
    key = hashlib.sha256(text.encode()).hexdigest()[:16]
    kept, _ = settled(
        lambda: LongSelection.objects.get_or_create(programme=programme, key=key, defaults={"query": query})
    )
    return kept


def spelled_out(programme: Programme, params: QueryDict) -> QueryDict:
    """An address with the selection that it names by a key put in; what stands beside the key goes first.

    Raises:
        CoreError: ``selection_unknown``.
    """
    key = params.get("chosen")
    if not key:
        return params
    kept = LongSelection.objects.filter(programme=programme, key=key[:16]).first()
    if kept is None:
        raise CoreError(
            "selection_unknown", "There is no selection by that key in this programme; choose anew.", "chosen"
        )
    whole = as_address(kept.query)
    for name, values in params.lists():
        if name != "chosen":
            whole.setlist(name, values)
    return whole


def _text(value: Any) -> str:
    if isinstance(value, dict | list):
        raise CoreError("query_unreadable", "Expected the question as plain names and values.", "query")
    return str(value).lower() if isinstance(value, bool) else str(value)
