"""Columns of who the fish is, what was read on it, and how it left."""

from __future__ import annotations

from typing import Any, ClassVar
from uuid import UUID

from nailwright.deck.handling.releases import LONGEST_WORD, OLD_WORDS, STRENGTHS
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
    path = "left_fate"
    description = "How it left: released, dead, kept, escaped, taken; empty: still aboard"
    heading = "Left as"
    what = "a way of leaving"
    known: ClassVar[dict[str, str]] = {
        **{code: code for code in Release.Fate.values},
        **{label.lower(): code for code, label in Release.Fate.choices},
        # words of before fate and strength were two things: the release keeps them as they were said
        **{word: word for word in OLD_WORDS},
        "released alive": "alive",
        "released, swam badly": "weak",
    }


class Strength(Column):
    key, title, words = "strength", "How strongly it went", ("strength", "release code", "release strength", "vigour")
    term = "strength"
    type = "integer"
    path = "left_strength"
    description = "How strongly a released fish went: 1 swam off strongly to 4 not recovered, in the protocol's words"

    def clean(self, text: str, answers: Answers, unit: str | None) -> int:
        if text.strip() not in {str(each) for each in STRENGTHS}:
            raise CoreError("strength_unreadable", f"Expected a strength of 1 to 4; got '{text[:20]}'.", self.key)
        return int(text)


class ReleaseReason(Column):
    key, title, words = "release_reason", "Why it was released", ("release reason", "reason released", "why released")
    term = "release_reason"
    path = "left_reason"
    description = "Why a fish was released that could have been kept: a code of the protocol"


class TakenTo(Column):
    key, title, words = "taken_to", "Where it was taken to", ("taken to", "transferred to", "destination")
    term = "taken_to"
    path = "left_taken_to"
    description = "Where a fish was taken to: a code of the protocol"


class SaidAs(Column):
    key, title, words = "left_word", "How it left, as said", ("left word",)
    term = "left_word"
    path = "left_word"
    description = "What was said of how it left, where that is none of the codes"

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        if len(text) > LONGEST_WORD:
            raise CoreError("word_too_long", f"Expected at most {LONGEST_WORD} characters; got {len(text)}.", self.key)
        return text


def read(draft: Draft, *scans: dict[str, str]) -> None:
    """Numbers that were read on the fish of a line; a line may have them in several columns."""
    draft.call["scanned"] = "number"
    draft.call["scans"] = [*draft.call.get("scans", ()), *scans]
