"""Rewards: promised once a tag, paid with a proof, taken back, and what they may still cost."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture
from nailwright.programmes.models import Change, Programme
from nailwright.returns.models import Return, Reward
from nailwright.tags.models import TagBatch
from server.tests.returns.conftest import later

Send = Callable[..., Any]


@pytest.fixture
def biologist(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("biologist")


@pytest.fixture
def rewarded(stock: TagBatch, tagged: Capture) -> Capture:
    """The tagged walleye, whose tag promises 50."""
    TagBatch.objects.filter(pk=stock.pk).update(reward=50)
    Programme.objects.update(currency="EUR")
    return tagged


@pytest.fixture
def decide(biologist: APIClient, programme: Programme) -> Send:
    def post(state: str, report: Return, **more: Any) -> Any:
        body = {"reports": [str(report.pk)], "state": state, **more}
        return biologist.post(f"/api/v1/programmes/{programme.pk}/returns/decisions", body, format="json")

    return post


@pytest.fixture
def pay(biologist: APIClient) -> Send:
    def post(report: Return, client: APIClient = biologist, **told: Any) -> Any:
        return client.post(f"/api/v1/returns/{report.pk}/reward", told, format="json")

    return post


def budget(client: APIClient, programme: Programme) -> dict[str, Any]:
    told = client.get(f"/api/v1/programmes/{programme.pk}/rewards").data
    return {name: told[name] for name in ("paid_n", "paid", "promised_n", "promised", "at_large_n", "at_large")}


def test_promised_as_it_is_verified_and_paid_with_a_proof(
    send: Send, decide: Send, pay: Send, rewarded: Capture, biologist: APIClient, programme: Programme
) -> None:
    assert budget(biologist, programme) == {
        "paid_n": 0,
        "paid": 0,
        "promised_n": 0,
        "promised": 0,
        "at_large_n": 1,
        "at_large": 50,
    }
    answer = send(found_on=str(later(1)))
    assert "a reward of 50 EUR. A person looks at your report first" in answer.data["story"]["lines"][-1].replace(
        "\u2068", ""
    ).replace("\u2069", "")
    report = Return.objects.get()
    assert pay(report, paid=True, proof="transfer 1").data["code"] == "reward_none"
    decide("verified", report)
    assert budget(biologist, programme) == {
        "paid_n": 0,
        "paid": 0,
        "promised_n": 1,
        "promised": 50,
        "at_large_n": 0,
        "at_large": 0,
    }
    assert pay(report, paid=True, proof=" ").data["code"] == "proof_missing"
    paid = pay(report, paid=True, proof="transfer 1207")
    assert paid.data["proof"] == "transfer 1207" and paid.data["paid_at"]
    assert pay(report, paid=True, proof="transfer 1207").data["paid_at"] == paid.data["paid_at"]  # said twice
    assert budget(biologist, programme)["paid"] == 50
    assert biologist.get(f"/api/v1/returns/{report.pk}").data["reward"]["amount"] == 50


def test_what_was_paid_holds_the_report_until_it_is_taken_back(
    send: Send, decide: Send, pay: Send, rewarded: Capture
) -> None:
    send(found_on=str(later(1)))
    report = Return.objects.get()
    decide("verified", report)
    pay(report, paid=True, proof="transfer 1207")
    assert decide("rejected", report, reason="the photo is of another tag").data["code"] == "reward_paid"
    assert Return.objects.get().state == "verified"
    assert pay(report, paid=False).data["code"] == "reason_missing"
    back = pay(report, paid=False, reason="the transfer came back")
    assert back.data["paid_at"] is None and back.data["proof"] == ""
    assert {each.after.get("proof") for each in Change.objects.filter(table="reward")} == {"transfer 1207", ""}
    decide("rejected", report, reason="the photo is of another tag")
    assert not Reward.objects.exists() and Return.objects.get().state == "rejected"


def test_once_a_tag(send: Send, decide: Send, rewarded: Capture) -> None:
    send(found_on=str(later(0)), fish_fate="released", tag_fate="left")
    send(found_on=str(later(1)))
    first, second = Return.objects.order_by("found_on")
    decide("verified", first)
    decide("verified", second)
    assert [each.report_id for each in Reward.objects.all()] == [first.pk]


def test_without_a_reward_none_and_others_may_not_pay(
    send: Send, decide: Send, pay: Send, tagged: Capture, crew: APIClient, stock: TagBatch
) -> None:
    answer = send(found_on=str(later(1)))
    assert not any("reward" in line for line in answer.data["story"]["lines"])
    report = Return.objects.get()
    decide("verified", report)
    assert not Reward.objects.exists()
    assert pay(report, client=crew, paid=True, proof="cash").status_code == 403


def test_reporting_rate_by_rewards(
    send: Send, decide: Send, rewarded: Capture, biologist: APIClient, programme: Programme
) -> None:
    asked = f"/api/v1/programmes/{programme.pk}/findings/return-rate?species=wal&by=reward"
    assert biologist.get(asked).data["groups"][0]["share"]["value"] == 0
    send(found_on=str(later(1)))
    decide("verified", Return.objects.get())
    told = biologist.get(asked).data
    assert (told["n"], told["groups"][0]["name"], told["groups"][0]["reported"]) == (1, "reward of 50 EUR", 1)
    assert "1 were reported and verified: 100.0 %" in told["sentence"] and told["reporting"] is None
    young = biologist.get(f"{asked}&first_year=true").data
    assert young["code"] == "no_tags" and "a year ago or more" in young["message"]
