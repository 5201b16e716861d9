"""A sheet of paper cards: read from a file, checked line by line, stored once."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import islice
from typing import Any
from uuid import UUID, uuid5

from django.db import transaction
from django.utils import timezone

from nailwright.common.sources.table import Table
from nailwright.programmes.models import Membership, Person, Programme
from nailwright.programmes.protocols import standing_protocol
from nailwright.programmes.record.audit import Act
from nailwright.programmes.species.known import species_of
from nailwright.records.answers import Answers
from nailwright.records.mapping import date_order_of, decimal_of
from nailwright.records.paper_cards.columns import CARD_COLUMNS, Taggers, bound_columns, entry_of
from nailwright.returns.models import Card
from nailwright.returns.volunteers.cards import record_card
from nailwright.returns.volunteers.kits import missing_words
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import parse_length

MOST_CARDS = 2000


class _Undone(Exception):
    """Takes back what was stored to see whether it could be."""


def sheet_of(programme: Programme, table: Table, chosen: Mapping[str, str]) -> dict[str, Any]:
    """A file's lines as texts by column. A line's key follows from its texts, so that a file that comes twice adds nothing.

    Args:
        chosen: what a person says that columns hold, by header.

    Raises:
        CoreError: ``columns_unknown``, ``too_many_cards``, and as ``bound_columns``.
    """
    bound = bound_columns(table.headers, chosen)
    if not any(key for key, _ in bound):
        expected = ", ".join(each.title.lower() for each in islice(CARD_COLUMNS.values(), 8))
        raise CoreError(
            "columns_unknown", f"No column of this file is known. Expected names such as: {expected}.", "file"
        )
    rows: list[dict[str, Any]] = []
    seen: dict[str, int] = {}
    for line, texts in table.lines():
        cells = {
            key: _with_unit(text.strip(), unit)
            for (key, unit), text in zip(bound, texts, strict=False)
            if key and text.strip()
        }
        if not cells:
            continue
        if len(rows) == MOST_CARDS:
            raise CoreError("too_many_cards", f"Expected at most {MOST_CARDS:,} cards in a file. Split it.", "file")
        told = repr(sorted(cells.items()))
        seen[told] = seen.get(told, 0) + 1  # two cards may say the same
        rows.append({"id": uuid5(programme.pk, f"paper card {told} {seen[told]}"), "line": line, "cells": cells})
    return {
        "how": table.how,
        "notices": list(table.notices),
        "columns": [{"header": header, "key": key} for header, (key, _) in zip(table.headers, bound, strict=True)],
        "date_order": date_order_of([each["cells"].get("date", "") for each in rows]),
        "rows": rows,
    }  # fmt: skip


def _with_unit(text: str, unit: str | None) -> str:
    """A bare number with the unit that its column's name tells."""
    return f"{text} {unit}" if unit and not text[-1].isalpha() and text[-1] not in "\"'" else text


def file_cards(
    person: Person, programme: Programme, rows: Sequence[Mapping[str, Any]], how: Mapping[str, Any], store: bool
) -> list[dict[str, Any]]:
    """Store the cards of lines, or see what would become of them; a line that is refused holds up no other.

    Args:
        rows: ``id`` and ``cells`` (texts by column). how: ``tagger`` (key of a membership) for lines that name none, ``date_order``,
            ``length_unit``.

    Returns:
        For each line ``state`` ("ready", "stored", "there" where it came before, "refused") with ``field`` and ``message`` of what is wrong,
        and the card's ``missing`` and ``problem``.
    """
    answers = _answers(programme, rows, how)
    members = Membership.objects.filter(programme=programme).select_related("person")
    taggers, names = Taggers.of(list(members)), {str(each.pk): each.person.name for each in members}
    told: list[dict[str, Any]] = []
    try:
        # what is only looked at is stored and taken back: tags are placed by the very same rules
        with transaction.atomic():
            for each in rows:
                told.append(_filed(person, programme, each, how, answers, taggers, names))
            if not store:
                raise _Undone
    except _Undone:
        for each in told:
            each["state"] = "ready" if each["state"] == "stored" else each["state"]
    return told


def _filed(
    person: Person, programme: Programme, line: Mapping[str, Any], how: Mapping[str, Any], answers: Answers, taggers: Taggers,
    names: Mapping[str, str],
) -> dict[str, Any]:  # fmt: skip
    told: dict[str, Any] = {"id": line["id"], "field": "", "message": "", "tagger": "", "missing": [], "problem": ""}
    try:
        entry = entry_of(line["cells"], answers, taggers, str(how["length_unit"]))
        if not entry:
            raise CoreError("card_empty", "Expected at least one thing on this card.", "number_text")
        if not entry.get("tagger") and not how.get("tagger"):
            raise CoreError(
                "tagger_missing", "Expected a tagger. Choose one for all, or enter a name or number.", "tagger"
            )
        entry = {"tagger": str(how.get("tagger") or ""), "channel": Card.Channel.PAPER, **entry}
        _check_length(programme, entry)
        if entry.get("number_text"):
            entry.setdefault("tag_kind", "tbar")
        act = Act(UUID(str(line["id"])), person, timezone.now(), "paper card")
        with transaction.atomic():
            stored = record_card(act, programme, entry)
    except CoreError as error:
        return {
            **told,
            "state": "refused",
            "field": "date" if error.field == "caught_on" else error.field,
            "message": error.message,
        }
    card = Card.objects.get(pk=line["id"])
    known = {"missing": missing_words(card), "problem": card.problem}
    return {**told, **known, "state": "stored" if stored else "there", "tagger": names.get(entry["tagger"], "")}


def _check_length(programme: Programme, entry: Mapping[str, Any]) -> None:
    """Refuse a length that no fish of the species has: most often a unit that is another one."""
    if not entry.get("length") or not entry.get("species"):
        return
    kind, mm = species_of(programme)[entry["species"]], parse_length(entry["length"]).mm
    low, high = kind.length_bounds_mm
    if not low <= mm <= high:
        raise CoreError(
            "length_impossible",
            f"No {kind.common_name} is {mm:g} mm long: expected {low:g} to {high:g} mm. Is it in another unit?",
            "length",
        )


def _answers(programme: Programme, rows: Sequence[Mapping[str, Any]], how: Mapping[str, Any]) -> Answers:
    """How cells are read: decimals by the lengths themselves, years of two digits as the last hundred, conditions by the protocol's words."""

    def cells(key: str) -> list[str]:
        return [str(each["cells"].get(key, "")) for each in rows]

    conditions = standing_protocol(programme).rows("strengths")
    return Answers(
        columns=(),
        date_order=how.get("date_order") or date_order_of(cells("date")),
        years_until=timezone.now().year,
        decimal=decimal_of([cells("length"), cells("lat"), cells("lon"), cells("line_kg")]),
        words={"condition": {str(row["word"]).lower(): str(row["code"]) for row in conditions}},
        species=species_of(programme).named(),
    )
