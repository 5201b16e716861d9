"""Promising and paying rewards."""

from __future__ import annotations

from typing import Any
from uuid import uuid5

from django.db import transaction

from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.returns.models import Return, Reward
from nailwright_core.common.errors import CoreError


def renew_reward(act: Act, report: Return) -> None:
    """Make the reward of a report true, whose row the caller has locked: promised where it is verified and the first of its tag, none elsewhere.

    Raises:
        CoreError: ``reward_paid`` where it was paid and would go.
    """
    there = Reward.objects.select_for_update().filter(report=report).first()
    amount = _earned(report)
    if amount is None and there is not None:
        if there.paid_at:
            raise CoreError(
                "reward_paid",
                "The reward of this report was paid. Take the payment back first; then decide the report anew.",
                "state",
            )
        there.delete()
    if amount is not None and there is None:
        key = uuid5(report.pk, "reward")
        Reward.objects.create(id=key, report=report, amount=amount, promised_at=act.device_time)


def _earned(report: Return) -> float | None:
    batch = report.tag.batch if report.tag else None
    if report.state != Return.State.VERIFIED or batch is None or batch.reward is None:
        return None
    others = Reward.objects.filter(report__tag=report.tag_id).exclude(report=report)
    return None if others.exists() else batch.reward


def pay(act: Act, report: Return, paid: bool, proof: str) -> Reward:
    """Say that a reward was paid, by what proof, or that it was not after all.

    Args:
        act: ``reason`` says why a payment is taken back.

    Raises:
        CoreError: ``reward_none``, ``proof_missing``, ``reason_missing``. Refused: ``role_may_not``.
    """
    require(act.person, report.programme, "verify_returns")
    with transaction.atomic():
        row = Reward.objects.select_for_update().filter(report=report).first()
        if row is None:
            raise CoreError(
                "reward_none",
                "This report earned no reward: only a verified one of a tag with a reward does.",
                "report",
            )
        if paid and len(proof.strip()) < 2:
            raise CoreError(
                "proof_missing",
                "Say by what it can be shown, such as the number of the transfer or who signed.",
                "proof",
            )
        if not paid and row.paid_at and len(act.reason.strip()) < 3:
            raise CoreError("reason_missing", "Say in a few words why, such as 'the transfer came back'.", "reason")
        values: dict[str, Any] = {
            "paid_at": (row.paid_at or act.device_time) if paid else None,
            "proof": proof.strip() if paid else "",
        }
        apply_change(act, report.programme, row, values, groups=(("paid_at", "proof"),))
    return row
