"""How fish leave the boat, and who is still aboard."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Container, Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from django.db.models import Q, QuerySet, Sum

from nailwright.common.fields import read_word
from nailwright.deck.encounters import renew_encounters
from nailwright.deck.handling.summary import renew_handling
from nailwright.deck.models import Capture, Outing, Release
from nailwright.deck.rows import time_of
from nailwright.programmes.models import Programme
from nailwright.programmes.protocols import protocol_in, standing_protocol
from nailwright.programmes.record.audit import Act, already_done, apply_change, note_change
from nailwright.programmes.record.operations import Waits
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.events import SPECIES
from nailwright_core.deck.leaving import left_as

MAX_AT_ONCE = 1000
#: How entries of releases before protocols, and words of the call line, say that a fish left; the word is kept.
OLD_WORDS = {"alive": Release.Fate.RELEASED, "weak": Release.Fate.RELEASED}
STRENGTHS = (1, 2, 3, 4)
LONGEST_WORD = 20


@dataclass(frozen=True)
class Leaving:
    """What is said of how fish left: all of it where ``fate`` is there, else only the fields that are."""

    fate: str | None
    changes: Mapping[str, Any]

    def over(self, before: Release | None) -> dict[str, Any]:
        """The fields of a release once this is said of it.

        Raises:
            CoreError: as ``left_as``.
        """
        standing = before.fate if before and before.deleted_at is None else None
        return {**left_as(standing, self.fate, self.changes), "deleted_at": None}


def aboard_of(outings: Iterable[Outing]) -> QuerySet[Capture]:
    """Captures of outings that have not left."""
    left = Q(release__isnull=False, release__deleted_at=None)
    return Capture.present.filter(run__outing__in=list(outings), run__deleted_at=None).exclude(left)


def count_aboard(outing: Outing) -> int:
    """Fish that are aboard still, in whichever lane."""
    return int(aboard_of([outing]).aggregate(fish=Sum("count"))["fish"] or 0)


def set_release(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool | Waits:
    """Say of one or many captures how their fish left, or, with a fate of null, that they are still aboard.

    Each release's key follows from the act's and the capture's, so that doing it twice changes nothing: fish that have not
    arrived yet hold up none of the others.

    Args:
        row: ``captures`` (keys), ``fate``, and if told ``strength``, ``reason``, ``taken_to``, ``word``. Without ``fate`` only
            what is told changes. ``code`` is how tablets of before said it: "alive" and "weak" are released, the word is kept.

    Raises:
        CoreError: ``captures_unreadable``, ``release_unknown``, ``outing_closed``, and as ``Leaving.over``.
    """
    keys = keys_of_captures(row)
    captures = list(
        Capture.objects.select_for_update().filter(pk__in=keys, programme=programme).select_related("run__outing")
    )
    outings = {capture.run.outing for capture in captures}
    for outing in outings:
        outing.must_be_open(act)
    leaving = read_leaving(row, known_codes(programme, outings))
    there = {each.capture_id: each for each in Release.objects.filter(capture__in=captures)}
    changed = [_set_one(act, programme, each, there.get(each.pk), leaving) for each in captures]
    renew_encounters(each.pk for each in captures if each.fish_id)
    renew_handling(each.pk for each in captures)
    if missing := len(keys) - len(captures):
        return Waits(f"{missing} of the {len(keys)} fish of this release have not arrived yet; the others left.")
    return any(changed)


def read_leaving(row: Mapping[str, Any], codes: Callable[[str], Container[Any]]) -> Leaving | None:
    """What a row says of how fish left; None where it says that they are still aboard.

    Raises:
        CoreError: ``release_unknown`` with the field.
    """
    changes: dict[str, Any] = {}
    fate = row.get("fate")
    if "code" in row and "fate" not in row:
        fate = row["code"]
        if isinstance(fate, str) and fate in OLD_WORDS:
            fate, changes["word"] = str(OLD_WORDS[fate]), fate
    if fate is None and ("fate" in row or "code" in row):
        return None
    if fate is not None and fate not in Release.Fate.values:
        raise CoreError("release_unknown", f"Expected a release of {', '.join(Release.Fate.values)}; got {str(fate)[:20]!r}.", "fate" if "fate" in row else "code")  # fmt: skip
    if "strength" in row:
        changes["strength"] = row["strength"]
        if changes["strength"] not in (None, *STRENGTHS) or isinstance(changes["strength"], bool | float):
            raise CoreError(
                "release_unknown",
                f"Expected a strength of 1 to 4, or none; got {str(changes['strength'])[:20]!r}.",
                "strength",
            )
    for field, section in (("reason", "reasons"), ("taken_to", "taken_to")):
        if field in row:
            changes[field] = read_word(row, field, 20)
            if changes[field] and changes[field] not in codes(section):
                raise CoreError(
                    "release_unknown",
                    f"'{changes[field]}' is none of the protocol's codes for {section.replace('_', ' ')}.",
                    field,
                )
    if "word" in row:
        changes["word"] = read_word(row, "word", LONGEST_WORD)
    return Leaving(fate, changes)


def known_codes(programme: Programme, outings: Iterable[Outing] = ()) -> Callable[[str], Container[Any]]:
    """Codes of a section in the protocols of these outings and in the one that holds now, or of the programme's species; read once."""

    @cache
    def codes(section: str) -> set[Any]:
        if section == SPECIES:
            return set(programme.species.values_list("code", flat=True))
        protocols = [standing_protocol(programme), *(protocol_in(each.protocol) for each in outings)]
        return {each["code"] for protocol in protocols for each in protocol.rows(section)}

    return codes


def _set_one(act: Act, programme: Programme, capture: Capture, before: Release | None, leaving: Leaving | None) -> bool:
    key = uuid.uuid5(act.id, str(capture.pk))
    if before is None:
        if leaving is None:
            return False
        values = leaving.over(None)
        Release.objects.create(
            id=key, capture=capture, recorder=act.person, device_time=time_of(act, capture), **values
        )
        return True
    single = act.part(f"change {capture.pk}")
    if (before.pk == key and before.device_time == act.device_time) or already_done(single):
        return False
    values = {"deleted_at": act.device_time} if leaving is None else leaving.over(before)
    if before.device_time > act.device_time:
        note_change(single, programme, before, {}, {}, late=values)
        return True
    # only what says anew on deck how it left moves the time at which it did
    whole = not act.desk and (leaving is None or leaving.fate is not None)
    return apply_change(single, programme, before, {**values, **({"device_time": act.device_time} if whole else {})})


def keys_of_captures(row: Mapping[str, Any]) -> set[uuid.UUID]:
    """Keys in a row's ``captures``.

    Raises:
        CoreError: ``captures_unreadable``.
    """
    given = row.get("captures")
    if not isinstance(given, list) or not 1 <= len(given) <= MAX_AT_ONCE:
        raise CoreError("captures_unreadable", f"Expected the keys of 1 to {MAX_AT_ONCE} captures.", "captures")
    try:
        return {uuid.UUID(str(each)) for each in given}
    except ValueError as error:
        raise CoreError("captures_unreadable", "Expected each capture's key as a UUID.", "captures") from error
