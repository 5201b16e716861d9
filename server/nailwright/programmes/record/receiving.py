"""What comes from tablets and phones: the one wrapper that decides of every entry, whatever its kind.

Receipt, then permission, then what the kind itself asks (its state), each entry in a transaction of its own. None holds up
another; what depends on one that is not in yet waits for it.
"""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable, Mapping, Sequence
from itertools import groupby
from typing import Any
from uuid import UUID

from django.db import IntegrityError
from django.utils import timezone

from nailwright.common.below_orm import insert_rows
from nailwright.common.database_retries import settled
from nailwright.common.errors import Refused
from nailwright.programmes.models import Membership, Person, Programme, Receipt
from nailwright.programmes.policies import PERMISSIONS, require
from nailwright.programmes.record.audit import Act, must_say_why
from nailwright.programmes.record.entries import (
    Entry,
    Held,
    callers_of,
    clock_offset,
    digest_of,
    is_key,
    opened_entry,
    read_entry,
)
from nailwright.programmes.record.operations import NotYet, Outcome, Waits
from nailwright_core.common.errors import CoreError

#: What an entry of the desk needs besides what its kind does.
CORRECT = "correct_record"
log = logging.getLogger(__name__)

MAX_OPERATIONS = 1000
#: stored; already: had been before; refused: a person must act; held: right but for its time, which a person must say;
#: failed: to be sent again later.
STATES = ("stored", "already", "refused", "held", "failed")
#: What became of an entry.
Answer = Outcome | CoreError | Refused


def receive(person: Person, programme: Programme, operations: Any, device_now: Any = None) -> list[dict[str, Any]]:
    """Do each entry once, in order.

    Args:
        operations: each with ``id``, ``kind``, ``device_time``, ``row``, if given ``reason``, ``by`` (key of the person who
            had taken over the tablet: the entry is theirs), ``carried`` (the entry as it stands in a file, ``carrying``) and
            ``clock_offset_s``, what the device knew that its clock is
            behind when the entry was made, ``desk`` for a correction of the record that needs no open outing but a reason.
        device_now: what the device's clock says as it sends, for entries that know no offset.

    Returns:
        For each ``{"id", "state", "error"}``, the state one of ``STATES``.

    Raises:
        CoreError: ``operations_unreadable``, ``operations_too_many``.
    """
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
    offset = clock_offset(device_now)
    made = [opened_entry(each) for each in operations]
    callers = callers_of(programme, made)
    read = [each if isinstance(each, CoreError) else read_entry(person, *each, offset, callers) for each in made]
    answers: list[Answer] = []
    desk = _Desk(person, programme, [each for each in read if isinstance(each, Entry)])
    # what belongs to one that cannot be read, or whose time is held, waits for it
    wrong = [str(sent.get("id")) for sent, each in zip(operations, read, strict=True) if isinstance(each, CoreError)]
    desk.miss(key for key in wrong if is_key(key))  # a word in a key's place, such as none, is named by no other entry
    for kind, group in groupby(read, key=lambda each: each.kind if isinstance(each, Entry) else None):
        entries = list(group)
        if kind is not None and kind.do_many is not None:
            answers.extend(desk.take_many([each for each in entries if isinstance(each, Entry)]))
        else:
            answers.extend(desk.take(each) for each in entries)
    return [_told(operation, answer) for operation, answer in zip(operations, answers, strict=True)]


def once(act: Act, programme: Programme, kind: str, row: Mapping[str, Any], do: Callable[[], Any]) -> None:
    """Do something that came from the desk under the same receipts: at most once, and the same key never for two things.

    Raises:
        CoreError: ``key_used``; and whatever ``do`` raises.
    """
    digest = digest_of(kind, None, row)

    def at_most_once() -> None:
        if _known(act.person, kind, digest, Receipt.objects.filter(pk=act.id).first()):
            return
        do()
        Receipt.objects.create(id=act.id, programme=programme, person=act.person, kind=kind, digest=digest)

    settled(at_most_once, also=(IntegrityError,))


class _Known(Exception):
    """Some entries may have been before; nothing was stored."""


class _Desk:
    """Takes the entries of one request."""

    def __init__(self, person: Person, programme: Programme, entries: Sequence[Entry]) -> None:
        self._person, self._programme, self._now = person, programme, timezone.now()
        self._keys = [each.act.id for each in entries]
        self._receipts: dict[UUID, Receipt] | None = None
        #: Entries of this request that are in.
        self._stored: dict[UUID, Entry] = {}
        self._may: dict[str, Refused | None] = {}
        #: Keys of entries of this request that are not in: what names one of them waits.
        self._missing: set[str] = set()

    def miss(self, keys: Iterable[str]) -> None:
        """Entries with these keys are not in."""
        self._missing.update(key.lower() for key in keys)

    def take(self, entry: Entry | CoreError) -> Answer:
        answer = entry if isinstance(entry, CoreError) else self._before(entry, self._look_up())
        if answer is None:
            assert isinstance(entry, Entry)
            answer = self._do(entry)
        if isinstance(entry, Entry) and not isinstance(answer, bool):
            self._missing.add(str(entry.act.id))
        return answer

    def take_many(self, entries: Sequence[Entry]) -> list[Answer]:
        """Entries of kinds that have a path for many; where anything is odd with them, one by one.

        Most entries come for the first time: receipts are looked up only where the insert says that one is there.
        """
        if len(entries) < 2 or len({each.act.id for each in entries}) < len(entries):
            return [self.take(each) for each in entries]
        if self._receipts is None:
            try:
                return self._do_many(entries, {}, new=True)
            except (IntegrityError, _Known):
                pass  # some of it has been before, or is refused where it may have been before
            except Exception:
                return self._one_by_one(entries)
        try:
            return self._do_many(entries, self._look_up(), new=False)
        except Exception:
            return self._one_by_one(entries)

    def _one_by_one(self, entries: Sequence[Entry]) -> list[Answer]:
        log.warning(
            "%d entries of kind %s did not go through together", len(entries), entries[0].kind.name, exc_info=True
        )
        return [self.take(each) for each in entries]

    def _do_many(self, entries: Sequence[Entry], receipts: Mapping[UUID, Receipt], new: bool) -> list[Answer]:
        """All at once. Where they are taken for ``new`` and one is not simply stored, nothing is, and ``_Known`` is raised."""
        before = [self._before(each, receipts) for each in entries]
        fresh = [entry for entry, answer in zip(entries, before, strict=True) if answer is None]
        do_many = entries[0].kind.do_many
        assert do_many is not None

        def do() -> list[bool | CoreError]:
            done = do_many(self._programme, [(each.act, each.row) for each in fresh], new)
            if new and not all(outcome is True for outcome in done):
                raise _Known
            stored = [each for each, outcome in zip(fresh, done, strict=True) if isinstance(outcome, bool)]
            insert_rows(Receipt, [self._receipt_of(each) for each in stored])
            return list(done)

        done = settled(do) if fresh else []
        self._stored |= {
            each.act.id: each for each, outcome in zip(fresh, done, strict=True) if isinstance(outcome, bool)
        }
        outcomes = iter(done)
        told = [next(outcomes) if answer is None else answer for answer in before]
        self._missing.update(
            str(entry.act.id) for entry, answer in zip(entries, told, strict=True) if not isinstance(answer, bool)
        )
        return told

    def _look_up(self) -> dict[UUID, Receipt]:
        if self._receipts is None:
            self._receipts = Receipt.objects.in_bulk(self._keys)
        return self._receipts

    def _before(self, entry: Entry, receipts: Mapping[UUID, Receipt]) -> Answer | None:
        """The answer, where it follows before the entry is done."""
        try:
            before = self._stored.get(entry.act.id)
            receipt = Receipt(**self._receipt_of(before)) if before else receipts.get(entry.act.id)
            if _known(self._person, entry.name, entry.digest, receipt):
                return False
            if entry.act.desk:
                must_say_why(entry.act, "digits swapped on the sheet")
        except CoreError as refused:
            return refused
        if may_not := self._may_not(entry):
            return may_not
        # an entry that names one other waits for it; one that names many does what it can
        if any(isinstance(value, str) and value.lower() in self._missing for value in entry.row.values()):
            return Waits("An entry that this one belongs to has not gone through yet.")
        return None

    def _may_not(self, entry: Entry) -> Refused | None:
        """Why neither may: whoever sends it needs the permission, and whoever called it."""
        for needed in (entry.kind.permission, *((CORRECT,) if entry.act.desk else ())):
            if needed not in self._may:
                try:
                    require(self._person, self._programme, needed)
                    self._may[needed] = None
                except Refused as refused:
                    self._may[needed] = refused
            role = entry.caller_role
            if role is not None and role not in PERMISSIONS[needed][0]:
                return Refused("role_may_not", f"{entry.act.person.name} may not {PERMISSIONS[needed][1]}.")
            if may_not := self._may[needed]:
                return may_not
        return None

    def _do(self, entry: Entry) -> Answer:
        def do() -> Outcome:
            outcome = entry.kind.do(entry.act, self._programme, entry.row)
            if not isinstance(outcome, Waits):
                insert_rows(Receipt, [self._receipt_of(entry)])
            return outcome

        try:
            outcome = settled(do)
        except (CoreError, Refused) as refused:
            return refused
        except Exception:
            # another request may have brought the very same entry meanwhile
            there = Receipt.objects.filter(pk=entry.act.id).first()
            try:
                if _known(self._person, entry.name, entry.digest, there):
                    return False
            except CoreError as taken:
                return taken
            log.exception("entry %s of kind %s failed", entry.act.id, entry.kind.name)
            return Waits("The server could not keep this entry. It stays on the device and is sent again.")
        if not isinstance(outcome, Waits):
            self._stored[entry.act.id] = entry
        return outcome

    def _receipt_of(self, entry: Entry) -> dict[str, Any]:
        return {
            "id": entry.act.id,
            "programme_id": self._programme.pk,
            "person_id": self._person.pk,
            "caller_id": entry.act.person.pk if entry.caller_role is not None else None,
            "in_name_of_id": entry.in_name_of,
            "kind": entry.name,
            "digest": entry.digest,
            "clock_offset_s": entry.act.clock_offset_s,
            "server_time": self._now,
        }


def _known(person: Person, kind: str, digest: str, receipt: Receipt | None) -> bool:
    """Whether the entry went through before.

    Raises:
        CoreError: ``key_taken`` where the key is somebody else's, ``key_used`` where it was for something else.
    """
    if receipt is None:
        return False
    own = receipt.person_id == person.pk
    if not own and not Membership.present.filter(person=person, programme=receipt.programme_id).exists():
        raise key_taken("entry")
    if receipt.digest and (receipt.kind, receipt.digest) != (kind, digest):
        raise CoreError(
            "key_used",
            "This key has gone through before with other content. What is in the record stays; make a new entry for the rest.",
            "id",
        )
    return True


def key_taken(what: str) -> CoreError:
    """The refusal of a key under which something else is stored."""
    return CoreError("key_taken", f"This key already belongs to another {what}; make a new UUIDv7.", "id")


def _told(operation: Mapping[str, Any], answer: Answer) -> dict[str, Any]:
    key = str(operation.get("id"))
    if isinstance(answer, bool):
        return {"id": key, "state": "stored" if answer else "already", "error": None}
    if isinstance(answer, Waits):
        return {"id": key, "state": "failed", "error": {"code": "waits", "message": answer.message, "field": None}}
    state = "held" if isinstance(answer, Held) else "failed" if isinstance(answer, NotYet) else "refused"
    error = {"code": answer.code, "message": answer.message, "field": getattr(answer, "field", None)}
    return {"id": key, "state": state, "error": error}
