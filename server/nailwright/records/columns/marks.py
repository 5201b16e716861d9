"""Columns of who the fish is, what was read on it, and how it left."""

from __future__ import annotations

from typing import Any, ClassVar
from uuid import UUID

from nailwright.deck.models import Capture, Release
from nailwright.records.answers import Answers
from nailwright.records.columns.column import Column, Draft, WordColumn
from nailwright.tags.models import TagKind
from nailwright_core.common.errors import CoreError


class CaptureKey(Column):
    key, title = "capture_id", "Key of the capture"
    term = "capture_id"
    path = "id"
    description = "Key of the capture, UUIDv7"

    def clean(self, text: str, answers: Answers, unit: str | None) -> UUID:
        try:
            return UUID(text)
        except ValueError as error:
            raise CoreError("key_unreadable", f"Expected a UUID; got '{text[:40]}'.", self.key) from error


class FishKey(CaptureKey):
    key, title = "fish_id", "Key of the individual"
    term = "fish_id"
    path = "fish_id"
    description = "Key of the individual, where it carries a mark"


class Scanned(WordColumn):
    key, title, words = "scanned", "Scanned for a mark", ("scanned",)
    term = "scanned"
    path = "scanned"
    description = "none: scanned and none found; known, foreign: a mark was read; empty: not scanned"
    what = "an outcome of a scan (none, known, foreign)"
    known: ClassVar[dict[str, str]] = {code: code for code in Capture.Scanned.values if code}


class MarkRead(Column):
    """Kinds and numbers together, as our own files hold them."""

    key, title, words = "mark_read", "Mark read, kind and number", ("mark read",)
    term = "mark_read"
    path = "mark_read"
    description = "Kind and number of every mark that was read, separated by semicolons"
    heading = "Marks"

    def clean(self, text: str, answers: Answers, unit: str | None) -> list[dict[str, str]]:
        pairs = [each.split(maxsplit=1) for each in text.split(";") if each.strip()]
        return [{"kind": pair[0], "number": pair[1] if len(pair) > 1 else ""} for pair in pairs]

    def assign(self, draft: Draft, value: Any) -> None:
        read(draft, *value)


class PitNumber(Column):
    key, title, words = "pit", "PIT number", ("pit", "pit tag", "pit number", "pit tag number", "pit id")
    kind = TagKind.PIT

    def assign(self, draft: Draft, value: Any) -> None:
        read(draft, {"kind": str(self.kind), "number": value})


class TBarNumber(PitNumber):
    key, title, words = "tbar", "T-bar number", ("tbar", "t bar", "external tag", "anchor tag", "tag number")
    kind = TagKind.T_BAR


class LeftAs(WordColumn):
    key, title, words = "left_as", "How it left", ("left as", "released", "fate", "disposition", "release")
    term = "left_as"
    path = "left_as"
    description = "How it left: alive, weak, dead, kept, escaped; empty: still aboard"
    heading = "Left as"
    what = "a way of leaving"
    known: ClassVar[dict[str, str]] = {
        **{code: code for code in Release.Code.values},
        **{label.lower(): code for code, label in Release.Code.choices},
    }


def read(draft: Draft, *scans: dict[str, str]) -> None:
    """Numbers that were read on the fish of a line; a line may have them in several columns."""
    draft.call["scanned"] = "number"
    draft.call["scans"] = [*draft.call.get("scans", ()), *scans]
