"""What people decide of reports: matched, verified, rejected, asked back; each with its reason, its history and its way back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any
from uuid import UUID

from django.db import transaction

from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.record.effects import WITH_IT, Effects, effects_of, undo
from nailwright.returns.encounters import renew_return
from nailwright.returns.matching import fish_of
from nailwright.returns.models import Return
from nailwright.returns.reporting import as_stored
from nailwright.returns.rewards.paying import renew_reward
from nailwright.tags.actions import check_put_back
from nailwright.tags.models import Placement, Tag, TagState
from nailwright.tags.numbers import read_number_of
from nailwright.tags.states import check_change
from nailwright_core.common.errors import CoreError

_S = Return.State
#: What a person may decide; the words in which a reason is asked for.
DECISIONS: tuple[str, ...] = (_S.VERIFIED.value, _S.REJECTED.value, _S.ASKED.value, _S.RECEIVED.value)
_NEEDS_REASON = {_S.REJECTED: "the number is of another species", _S.ASKED: "on which day was it?"}
_PLAIN = ("species", "found_within_days", "place_text", "means", "fish_fate", "tag_fate")


def decide(act: Act, report: Return, state: str, seen: str = "") -> bool:
    """Decide a report. Verified it becomes an encounter, and a tag that was removed leaves its fish; decided anew, that is undone.

    Args:
        act: ``reason`` says why it is rejected, or what is asked back.
        seen: the state that whoever decides saw; "" where it does not matter.

    Returns:
        False where it was decided so already.

    Raises:
        CoreError: ``return_decided_meanwhile``, ``reason_missing``, ``return_unmatched``, ``return_without_day``, ``tag_in_fish``,
            ``tag_state``, ``reward_paid``, ``not_a_choice``. Refused: ``role_may_not``.
    """
    require(act.person, report.programme, "verify_returns")
    if state not in DECISIONS:
        raise CoreError("not_a_choice", f"Expected one of {', '.join(DECISIONS)}; got '{state[:20]}'.", "state")
    with transaction.atomic():
        row = _locked(report.pk)
        if seen and row.state != seen and row.state != state:
            raise CoreError(
                "return_decided_meanwhile",
                f"Somebody else has marked this report '{row.get_state_display().lower()}' meanwhile. Look at it again.",
                "state",
            )
        if state == _S.RECEIVED and row.fish_id:
            state = _S.MATCHED
        if row.state == state:
            return False
        _check_decidable(act, row, state)
        if row.state == _S.VERIFIED:
            _take_back(row)
        effects = _effects(row) if state == _S.VERIFIED else Effects()
        open_again = state in (_S.RECEIVED, _S.MATCHED)
        values = {"state": state, "decided_at": None if open_again else act.device_time, "reason": act.reason}
        apply_change(act, row.programme, row, values, also=({WITH_IT: effects.rows}, {}))
        renew_return(row)
        renew_reward(act, row)
    return True


def decide_many(
    act: Act, programme: Programme, reports: Sequence[UUID], state: str
) -> tuple[list[UUID], list[tuple[UUID, str]]]:
    """Decide several reports alike; those that may not be so stay, each with why.

    Returns:
        Keys of those that changed, and of those that were refused.

    Raises:
        Refused: ``role_may_not``.
    """
    require(act.person, programme, "verify_returns")
    done: list[UUID] = []
    refused: list[tuple[UUID, str]] = []
    for report in Return.objects.filter(programme=programme, pk__in=reports).select_related("programme"):
        try:
            if decide(act.part(report.pk), report, state):
                done.append(report.pk)
        except CoreError as error:
            refused.append((report.pk, error.message))
    return done, refused


def match_report(act: Act, report: Return, kind: str, number: str) -> Return:
    """Say which tag a report is of, or of none with an empty number.

    Raises:
        CoreError: ``return_verified``, ``tag_not_in_stock``, and as the number's. Refused: ``role_may_not``.
    """
    require(act.person, report.programme, "verify_returns")
    tag = None
    if number.strip():
        read = read_number_of(kind, number)
        tag = Tag.objects.filter(programme=report.programme, kind=kind, number=read).first()
        if tag is None:
            raise CoreError("tag_not_in_stock", f"{number.strip()} is not in this programme's stock.", "number")
    fish = fish_of(tag) if tag else None
    with transaction.atomic():
        row = _locked(report.pk)
        if row.state == _S.VERIFIED:
            raise CoreError(
                "return_verified", "This report is verified. Open it again before it gets another tag.", "number"
            )
        state = row.state
        if state in (_S.RECEIVED, _S.MATCHED):
            state = _S.MATCHED if fish else _S.RECEIVED
        apply_change(act, row.programme, row, {"tag": tag, "fish": fish, "state": state})
    return row


def correct_report(act: Act, report: Return, told: Mapping[str, Any]) -> Return:
    """Change what a report says, as its finder put it right; only what is told changes, and what was said before stays in its history.
    One that is verified is an encounter: it is corrected by those who may verify.

    Raises:
        CoreError: as ``as_stored``; ``return_without_day``, ``return_verified``. Refused: ``role_may_not``.
    """
    require(act.person, report.programme, "enter_return")
    values = {**{name: told[name] for name in _PLAIN if name in told}, **as_stored(told)}
    if "found_on" in told and told["found_on"] is None:
        values["found_on"] = None
    with transaction.atomic():
        row = _locked(report.pk)
        if row.state == _S.VERIFIED:
            require(act.person, row.programme, "verify_returns")
        if row.state == _S.VERIFIED and values.get("tag_fate", row.tag_fate) != row.tag_fate:
            raise CoreError(
                "return_verified", "Open the report again before what became of the tag changes.", "tag_fate"
            )
        apply_change(act, row.programme, row, values, groups=(("lat", "lon", "error_m"),))
        if row.state == _S.VERIFIED and row.found_on is None:
            raise CoreError("return_without_day", "A verified report needs its day. Open it again first.", "found_on")
        renew_return(row)
    return row


def _locked(key: UUID) -> Return:
    return Return.objects.select_for_update().get(pk=key)


def _check_decidable(act: Act, row: Return, state: str) -> None:
    if state in _NEEDS_REASON and len(act.reason.strip()) < 3:
        raise CoreError("reason_missing", f"Say in a few words why, such as '{_NEEDS_REASON[_S(state)]}'.", "reason")
    if state != _S.VERIFIED:
        return
    if row.fish_id is None:
        raise CoreError("return_unmatched", "Match the report with a tag in a fish first.", "number")
    if row.found_on is None:
        raise CoreError(
            "return_without_day",
            "The report has no day. Ask the finder, or enter it with how far it may be off.",
            "found_on",
        )


def _effects(row: Return) -> Effects:
    """What a verified report does to its tag: one that was removed is in the fish no more."""
    effects = Effects()
    if row.tag_fate != Return.TagFate.REMOVED or row.tag_id is None:
        return effects
    tag = Tag.objects.select_for_update().get(pk=row.tag_id)
    placement = Placement.objects.select_for_update().filter(living_tag=tag.pk, fish=row.fish_id).first()
    if placement is None or tag.state != TagState.PLACED:
        return effects
    check_change(tag, TagState.REMOVED)
    effects.set(tag, state=TagState.REMOVED)
    effects.set(placement, living_tag=None)
    return effects


def _take_back(row: Return) -> None:
    effects = effects_of(row, "state") or []
    check_put_back(row.programme, effects)
    of_programme = Tag.objects.filter(programme=row.programme_id)
    placements = Placement.objects.filter(tag__programme=row.programme_id)
    undo(effects, {Tag: (of_programme, ("state",)), Placement: (placements, ("living_tag",))})
