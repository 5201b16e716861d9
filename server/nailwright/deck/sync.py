"""What a tablet sends when it has a signal: a list of operations, in the order they were made.

Each operation is done at most once, by its key. One that is refused does not hold up the others, and its answer says
why, so that the tablet can keep it and show it. Runs of captures are stored together.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from itertools import groupby
from typing import Any

from django.utils import timezone

from nailwright.config.errors import Refused
from nailwright.deck import actions
from nailwright.deck.fields import read_id, read_time
from nailwright.deck.releases import set_release
from nailwright.deck.signing import sign_checklist
from nailwright.programmes.audit import Act
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright_core.common.errors import CoreError

MAX_OPERATIONS = 1000

_SINGLE: dict[str, Callable[[Act, Programme, Mapping[str, Any]], bool]] = {
    "run.start": actions.start_run,
    "run.edit": lambda act, programme, row: actions.edit_run(act, programme, read_id(row, "run"), row),
    "water.record": actions.record_water,
    "capture.edit": lambda act, programme, row: actions.edit_capture(act, programme, read_id(row, "capture"), row),
    "capture.delete": lambda act, programme, row: actions.delete_capture(act, programme, read_id(row, "capture")),
    "capture.restore": lambda act, programme, row: actions.restore_capture(act, programme, read_id(row, "capture")),
    "tag.place": lambda act, programme, row: actions.place_tag_in_capture(act, programme, read_id(row, "capture"), row),
    "release.set": set_release,
    "checklist.sign": sign_checklist,
}
RECORD = "capture.record"
KINDS = (RECORD, *_SINGLE)
STATES = ("stored", "already", "refused")


def apply_operations(person: Person, programme: Programme, operations: Any) -> list[dict[str, Any]]:
    """Do each operation once, in order.

    Returns:
        For each operation ``{"id", "state", "error"}``, state being stored, already or refused.

    Raises:
        Refused: the person may not work the deck. CoreError: ``operations_unreadable``, ``operations_too_many``.
    """
    require(person, programme, "work_deck")
    if not isinstance(operations, list) or not all(isinstance(each, Mapping) for each in operations):
        raise CoreError(
            "operations_unreadable", "Expected a list of operations with id, kind, device_time and row.", "operations"
        )
    if len(operations) > MAX_OPERATIONS:
        raise CoreError(
            "operations_too_many",
            f"Expected at most {MAX_OPERATIONS} operations at once; got {len(operations)}.",
            "operations",
        )
    results: list[dict[str, Any]] = []
    for is_capture, group in groupby(operations, key=lambda each: each.get("kind") == RECORD):
        if is_capture:
            results.extend(_record(person, programme, list(group)))
        else:
            results.extend(_single(person, programme, each) for each in group)
    return results


def _record(person: Person, programme: Programme, operations: list[Mapping[str, Any]]) -> list[dict[str, Any]]:
    results: list[dict[str, Any]] = [{} for _ in operations]
    calls, places = [], []
    for place, operation in enumerate(operations):
        try:
            calls.append((_act(person, operation), _row(operation)))
            places.append(place)
        except CoreError as refused:
            results[place] = _result(operation, refused)
    outcomes = actions.record_captures(person, programme, calls) if calls else []
    for place, outcome in zip(places, outcomes, strict=True):
        results[place] = _result(operations[place], outcome)
    return results


def _single(person: Person, programme: Programme, operation: Mapping[str, Any]) -> dict[str, Any]:
    try:
        action = _SINGLE.get(str(operation.get("kind")))
        if action is None:
            raise CoreError(
                "kind_unknown", f"Expected a kind of {', '.join(KINDS)}; got {operation.get('kind')!r}.", "kind"
            )
        return _result(operation, action(_act(person, operation), programme, _row(operation)))
    except (CoreError, Refused) as refused:
        return _result(operation, refused)


def _act(person: Person, operation: Mapping[str, Any]) -> Act:
    moment = read_time(operation, "device_time") if "device_time" in operation else timezone.now()
    reason = operation.get("reason") or ""
    if not isinstance(reason, str) or len(reason) > 200:
        raise CoreError("text_too_long", "Expected a reason in at most 200 characters.", "reason")
    return Act(read_id(operation, "id"), person, moment, reason)


def _row(operation: Mapping[str, Any]) -> Mapping[str, Any]:
    row = operation.get("row")
    if not isinstance(row, Mapping):
        raise CoreError("row_missing", f"Expected the operation's row as an object; got {type(row).__name__}.", "row")
    return row


def _result(operation: Mapping[str, Any], outcome: bool | CoreError | Refused) -> dict[str, Any]:
    key = str(operation.get("id"))
    if isinstance(outcome, bool):
        return {"id": key, "state": "stored" if outcome else "already", "error": None}
    error = {"code": outcome.code, "message": outcome.message, "field": getattr(outcome, "field", None)}
    return {"id": key, "state": "refused", "error": error}
