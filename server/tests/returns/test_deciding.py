"""What people decide of reports, and every way back."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.conf import LazySettings
from django.core import mail
from django.utils import timezone
from django_tasks_db.models import DBTaskResult
from rest_framework.test import APIClient

from nailwright.deck.models import Capture
from nailwright.programmes.models import Change, Programme
from nailwright.returns.encounters import rebuild_returns
from nailwright.returns.letters import send_letter
from nailwright.returns.models import Finder, PublicPage, Return
from nailwright.tags.models import Encounter, Placement, Tag
from server.tests.returns.conftest import later

Send = Callable[..., Any]
Decide = Callable[..., Any]


@pytest.fixture
def biologist(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("biologist")


@pytest.fixture
def decide(biologist: APIClient, programme: Programme) -> Decide:
    def post(state: str, *reports: Return, client: APIClient = biologist, **more: Any) -> Any:
        keys = [str(each.pk) for each in reports or Return.objects.all()]
        body = {"reports": keys, "state": state, **more}
        return client.post(f"/api/v1/programmes/{programme.pk}/returns/decisions", body, format="json")

    return post


def met() -> list[tuple[str, str]]:
    return list(Encounter.objects.order_by("at").values_list("kind", "disposition"))


def test_verified_it_is_an_encounter(send: Send, decide: Decide, tagged: Capture, biologist: APIClient) -> None:
    send(lat=44.99, lon=-31.6, length="471 mm", fish_fate="released", tag_fate="left", found_on=str(later(1)))
    assert decide("verified", seen="matched").data["letters"] == 0
    assert met() == [("capture", "released"), ("return", "released")]
    story = biologist.get(f"/api/v1/fish/{tagged.fish_id}").data
    assert [each["kind"] for each in story["encounters"]] == ["capture", "return"]
    assert story["encounters"][1]["length_mm"] == 471.0
    assert rebuild_returns() == 0


def test_a_length_by_eye_is_no_measurement(send: Send, decide: Decide, tagged: Capture) -> None:
    send(length="~50 cm", found_on=str(later(1)))
    decide("verified")
    assert Encounter.objects.get(kind="return").length_mm is None
    assert Return.objects.get().length_estimated is True


def test_the_tag_that_was_removed_leaves_its_fish_and_comes_back(send: Send, decide: Decide, tagged: Capture) -> None:
    send(tag_fate="removed", fish_fate="kept", found_on=str(later(1)))
    decide("verified")
    tag = Tag.objects.get(number="W1207")
    assert tag.state == "removed" and Placement.objects.get().living_tag is None
    assert met()[-1] == ("return", "retained")
    decide("rejected", reason="it was the neighbour's fish")
    tag.refresh_from_db()
    assert tag.state == "placed" and Placement.objects.get().living_tag == tag.pk
    assert met() == [("capture", "released")]
    assert Return.objects.get().reason == "it was the neighbour's fish"


def test_a_tag_that_went_into_another_fish_since_does_not_come_back(
    send: Send, decide: Decide, tagged: Capture
) -> None:
    send(tag_fate="removed", found_on=str(later(1)))
    decide("verified")
    Tag.objects.filter(number="W1207").update(state="stock")
    answer = decide("received")
    assert (answer.status_code, answer.data["code"]) == (422, "tag_state")
    assert Return.objects.get().state == "verified" and len(met()) == 2


def test_opened_again_it_is_matched_and_tells_no_findings(send: Send, decide: Decide, tagged: Capture) -> None:
    send(found_on=str(later(1)))
    decide("verified")
    decide("received")
    row = Return.objects.get()
    assert (row.state, row.decided_at) == ("matched", None) and len(met()) == 1


def test_without_reason_nothing_is_rejected_or_asked(send: Send, decide: Decide, tagged: Capture) -> None:
    send()
    for state in ("rejected", "asked"):
        answer = decide(state)
        assert (answer.status_code, answer.data["code"], answer.data["field"]) == (422, "reason_missing", "reason")


def test_verified_needs_a_fish_and_a_day(send: Send, decide: Decide, tagged: Capture) -> None:
    send(number="Z9999")
    assert decide("verified").data["code"] == "return_unmatched"
    Return.objects.all().delete()
    send(found_on=None)
    assert decide("verified").data["code"] == "return_without_day"


def test_two_verifiers_at_once(send: Send, decide: Decide, tagged: Capture, lead: APIClient) -> None:
    send(found_on=str(later(1)))
    assert decide("verified", seen="matched").status_code == 200
    late = decide("rejected", seen="matched", reason="no such fish", client=lead)
    assert (late.status_code, late.data["code"]) == (422, "return_decided_meanwhile")
    same = decide("verified", seen="matched", client=lead)  # both the same: nothing is done twice
    assert same.data["done"] == [] and Change.objects.filter(table="return").count() == 1


def test_several_at_once_and_those_that_may_not_stay(send: Send, decide: Decide, tagged: Capture) -> None:
    for number in ("W1207", "Z9999", "W1219"):
        send(number=number, found_on=str(later(1)))
    answer = decide("verified")
    assert len(answer.data["done"]) == 1 and len(answer.data["refused"]) == 2
    assert "Match the report" in answer.data["refused"][0]["why"]


def test_a_person_sees_near_numbers_and_matches(
    send: Send, decide: Decide, tagged: Capture, biologist: APIClient
) -> None:
    send(number="W1270", found_on=str(later(1)))
    row = Return.objects.get()
    shown = biologist.get(f"/api/v1/returns/{row.pk}").data
    assert shown["near"][0] == {"kind": "tbar", "number": "W1207", "state": "placed"}
    matched = biologist.post(f"/api/v1/returns/{row.pk}/match", {"kind": "tbar", "number": "W1207"}, format="json")
    assert matched.data["state"] == "matched" and matched.data["fish_species_name"] == "walleye"
    assert matched.data["number_text"] == "W1270"  # what the finder read stays
    decide("verified")
    refused = biologist.post(f"/api/v1/returns/{row.pk}/match", {"kind": "tbar", "number": ""}, format="json")
    assert refused.data["code"] == "return_verified"


def test_doubts_stand_beside_the_report(send: Send, tagged: Capture, biologist: APIClient) -> None:
    send(species="nop", length="300 mm", lat=71.9, lon=-31.6)
    send()
    shown = biologist.get(f"/api/v1/programmes/{tagged.programme_id}/returns").data
    codes = [[each["code"] for each in report["doubts"]] for report in shown["reports"]]
    assert codes == [["same_event"], ["species_differs", "too_fast", "shrunk", "same_event"]]
    assert shown["counts"]["matched"] == 2


def test_corrected_in_one_field_only(send: Send, decide: Decide, tagged: Capture, biologist: APIClient) -> None:
    send(lat=44.99, lon=-31.6, length="47.1 cm", found_on=str(later(0)), place_text="below the weir")
    decide("verified")
    row = Return.objects.get()
    answer = biologist.post(f"/api/v1/returns/{row.pk}", {"length": "18 1/2 in"}, format="json")
    assert answer.status_code == 200, answer.data
    after = Return.objects.get()
    changed = {"length_text", "length_mm"}
    for field in Return._meta.concrete_fields:
        if field.attname not in changed:
            assert getattr(after, field.attname) == getattr(row, field.attname), field.attname
    assert (after.length_mm, after.length_text) == (469.9, "18 1/2 in")
    assert Encounter.objects.get(kind="return").length_mm == 469.9  # the encounter follows
    assert answer.data["history"][-1]["before"] == {"length_mm": 471.0, "length_text": "47.1 cm"}


def test_days_are_those_of_the_programmes_zone(
    send: Send, tagged: Capture, programme: Programme, biologist: APIClient
) -> None:
    """Ten hours east of Greenwich the evening of the tagging is the next morning already: found that day it was at large for none."""
    Programme.objects.update(time_zone="Etc/GMT-10")
    story = send(found_on=str(later(1))).data["story"]
    assert (story["tagged_on"], story["days"]) == (str(later(1)), 0)
    send(found_on=str(later(0)))  # the day before, there
    doubts = biologist.get(f"/api/v1/programmes/{programme.pk}/returns").data["reports"][0]["doubts"]
    assert "before_tagging" in [each["code"] for each in doubts]


def test_crew_correct_what_is_open_and_no_verified_report(
    send: Send, decide: Decide, tagged: Capture, crew: APIClient
) -> None:
    send(found_on=str(later(1)))
    address = f"/api/v1/returns/{Return.objects.get().pk}"
    assert crew.post(address, {"place_text": "below the weir"}, format="json").status_code == 200
    decide("verified")
    refused = crew.post(address, {"place_text": "elsewhere"}, format="json")
    assert (refused.status_code, refused.data["code"]) == (403, "role_may_not")
    assert Return.objects.get().place_text == "below the weir"


def test_what_became_of_the_tag_changes_only_on_an_open_report(
    send: Send, decide: Decide, tagged: Capture, biologist: APIClient
) -> None:
    send(tag_fate="left")
    decide("verified")
    answer = biologist.post(f"/api/v1/returns/{Return.objects.get().pk}", {"tag_fate": "removed"}, format="json")
    assert (answer.status_code, answer.data["code"]) == (422, "return_verified")


def test_finders_are_written_to_in_their_language(
    send: Send, decide: Decide, tagged: Capture, contact: dict[str, Any], settings: LazySettings
) -> None:
    settings.EMAIL_HOST = "mail.example.org"
    send(language="fr", contact=contact, found_on=str(later(1)))
    assert decide("asked", reason="Quel jour était-ce ?").data["letters"] == 1
    assert decide("verified").data["letters"] == 1
    for each in DBTaskResult.objects.order_by("enqueued_at"):
        assert send_letter.call(*each.args_kwargs["args"]) is True
    asked, thanks = mail.outbox
    assert "Quel jour était-ce ?" in asked.body and asked.to == ["orla@example.org"]
    assert "Bonjour Orla Venn," in thanks.body and "1 jour plus tard" in thanks.body and "/r/tarn#" in thanks.body


def test_no_letter_goes_where_none_is_wanted(
    send: Send, decide: Decide, tagged: Capture, contact: dict[str, Any], settings: LazySettings
) -> None:
    settings.EMAIL_HOST = "mail.example.org"
    send(contact=contact, found_on=str(later(1)))
    send(found_on=str(later(1)))
    assert decide("verified", letter=False).data["letters"] == 0 and mail.outbox == []


def test_contacts_are_erased_when_their_purpose_is_over(
    send: Send, decide: Decide, tagged: Capture, contact: dict[str, Any], biologist: APIClient, programme: Programme
) -> None:
    send(contact=contact, found_on=str(later(1)))
    send(contact=contact, found_on=str(later(1)))
    first = Return.objects.first()
    assert first is not None
    decide("verified", first)
    PublicPage.objects.update(contact_days=30)
    Return.objects.filter(pk=first.pk).update(decided_at=timezone.now() - timedelta(days=31))
    biologist.get(f"/api/v1/programmes/{programme.pk}/returns")
    assert sorted(Finder.objects.values_list("name", flat=True)) == ["", "Orla Venn"]  # the open one is needed still


def test_staff_enter_a_telephone_call(crew: APIClient, programme: Programme, tagged: Capture) -> None:
    from server.tests.returns.conftest import report

    address = f"/api/v1/programmes/{programme.pk}/returns"
    answer = crew.post(
        address, report(channel="telephone", contact={"name": "Ib", "telephone": "555", "consent": True}), format="json"
    )
    assert answer.status_code == 201, answer.data
    assert (answer.data["state"], answer.data["recorder"], answer.data["channel"]) == ("matched", "Crew", "telephone")
    assert answer.data["finder"]["telephone"] == "555"


def test_today_says_what_waits(send: Send, tagged: Capture, crew: APIClient, programme: Programme) -> None:
    send()
    send(number="Z9999")
    lines = {
        each["code"]: each["text"] for each in crew.get(f"/api/v1/programmes/{programme.pk}/today").data["waiting"]
    }
    assert lines["returns_matched"] == "1 report of a tag to verify, today."
    assert lines["returns_received"] == "1 report of a tag to match with a tag, today."


def test_more_than_a_page_is_reached(biologist: APIClient, programme: Programme) -> None:
    at = timezone.now()
    Return.objects.bulk_create([Return(programme=programme, number_text=str(n), received_at=at) for n in range(103)])
    address = f"/api/v1/programmes/{programme.pk}/returns"
    first = biologist.get(address).data["reports"]
    rest = biologist.get(address, {"before": first[-1]["id"]}).data["reports"]
    assert (len(first), len(rest)) == (100, 3)
    assert len({each["number_text"] for each in [*first, *rest]}) == 103
