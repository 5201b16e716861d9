"""An outing is handed over at the quay: signed, with what was not complete, and told in plain words."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pypdfium2
import pytest
from django.core import mail
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.handling.summary import rebuild_handling
from nailwright.deck.models import Capture, Event, Handover, Outing, Release, Run, Target
from nailwright.deck.outing.ledger import open_lines
from nailwright.deck.tasks import tell_of_special
from nailwright.programmes.models import Membership, Person, Programme, ProgrammeSpecies
from nailwright.tags.models import Tag, TagIssue, TagState
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from nailwright_core.deck.surgery import STEPS
from server.tests.conftest import operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


def close(client: APIClient, outing: Outing, key: str | None = None, **more: str) -> Any:
    body = {"id": key or str(new_id()), "state": "closed", **more}
    return client.post(f"/api/v1/outings/{outing.pk}/state", body, format="json")


@pytest.fixture
def gone(run: Run) -> Run:
    run.ended_at = timezone.now()
    run.save()
    return run


def test_who_hands_over_signs_and_what_was_open_is_kept(client_as: Any, outing: Outing, gone: Run) -> None:
    lead = client_as("lead")
    Capture.objects.create(programme=outing.programme, run=gone, species="wal", length_mm=400, recorder=gone.recorder)
    assert close(lead, outing, name="Ada Holt").data["code"] == "fish_aboard"
    assert not Handover.objects.exists()
    Release.objects.create(capture=Capture.objects.get(), fate="released", recorder=gone.recorder)
    key = str(new_id())
    assert close(lead, outing, key, name=" Ada Holt ", note="one net torn").status_code == 200
    assert close(lead, outing, key, name="Somebody Else").status_code == 200  # the same touch sent again
    handover = Handover.objects.get()
    assert (handover.name, handover.note) == ("Ada Holt", "one net torn")
    assert "1 fish is measured and not weighed." in handover.lines
    told = lead.get(f"/api/v1/outings/{outing.pk}/deck").data["handovers"]
    assert [each["name"] for each in told] == ["Ada Holt"]
    assert lead.get("/api/v1/session").status_code == 200


def test_of_two_tablets_the_first_signature_stands_and_a_second_close_signs_anew(
    client_as: Any, outing: Outing, gone: Run
) -> None:
    lead, other = client_as("lead"), client_as("lead")
    assert close(lead, outing, name="Ada").status_code == close(other, outing, name="Ben").status_code == 200
    assert [each.name for each in Handover.objects.all()] == ["Ada"]
    lead.post(f"/api/v1/outings/{outing.pk}/state", {"id": str(new_id()), "state": "open"}, format="json")
    assert close(other, outing).status_code == 200
    assert [each.name for each in Handover.objects.all()] == ["Ada", "Lead"]  # nobody named: who sent it


def details(run: Run, capture: Capture, seconds: float, kind: str, **fields: Any) -> None:
    at = capture.device_time + timedelta(seconds=seconds)
    Event.objects.create(
        outing=run.outing, run=run, capture=capture, kind=kind, details=fields, recorder=run.recorder, device_time=at
    )


def test_the_day_in_plain_words(client_as: Any, outing: Outing, gone: Run, programme: Programme) -> None:
    lead = client_as("lead")
    fish = [
        Capture.objects.create(programme=programme, run=gone, species="bur", length_mm=400 + n, length_text=str(400 + n), length_basis="measured", recorder=gone.recorder)
        for n in range(3)
    ]  # fmt: skip
    for n, each in enumerate(fish):
        details(gone, each, 10, "air", where="out")
        details(gone, each, 10 + 30 * (n + 1), "lane", lane="recovery")
        Release.objects.create(
            capture=each,
            fate="released",
            strength=1,
            recorder=gone.recorder,
            device_time=each.device_time + timedelta(minutes=9),
        )
    details(
        gone, fish[0], 5, "vented", place="side", needle="18", person="Ada", gas="much", ended="sank", cleaned="yes"
    )
    details(gone, fish[0], 60, "sent_down", device="cage")
    details(gone, fish[0], 90, "way_down", outcome="down")
    details(gone, fish[1], 60, "sent_down", device="cage")
    details(gone, fish[2], 12, "surgery", surgeon="Ada", monitor="Ben", licence="AC 1", version=1)
    for code, _ in STEPS[:-1]:
        details(gone, fish[2], 15, "step", step=code, done="done")
    details(gone, fish[2], 16, "step", step=STEPS[-1][0], done="skipped", why="strong already")
    details(gone, fish[2], 300, "reflexes", tried=["gills", "bite", "pinch", "upright"], impaired=["bite"])
    rebuild_handling()
    Target.objects.create(outing=outing, species="bur", what="measured", wanted=10)
    tag = Tag.objects.create(programme=programme, kind="pit", number="999000000000500", state=TagState.ISSUED)
    TagIssue.objects.create(tag=tag, outing_id=outing.pk, issuer=gone.recorder)
    told = lead.get(f"/api/v1/outings/{outing.pk}/ledger").data
    assert told["handled"] == [
        "Out of water at one time: median 60 s, longest 90 s (bur 402), of 3 fish that were timed.",
        "From depth: 2 fish were sent down: 1 swam down, 1 of nothing is said after that; 1 had gas let out by needle.",
        "Surgeries: 1 (Ada 1); 1 with every step said, 1 steps skipped.",
        "Reflexes tried in 1 fish: mean score 0.25 (0: all present, 1: all impaired).",
    ]
    assert told["done"] == ["burbot: 3 of 10 measured."]
    assert "1 tags went out and are neither in a fish nor back: 999000000000500." in told["open"]
    close(lead, outing, name="Ada Holt")
    pdf = pypdfium2.PdfDocument(lead.get(f"/api/v1/outings/{outing.pk}/day.pdf").content)
    text = " ".join(" ".join(page.get_textpage().get_text_bounded() for page in pdf).split())
    assert "longest 90 s" in text and "Handed over and closed by Ada Holt" in text and "burbot: 3 of 10" in text


def test_fish_of_special_interest_are_told_of(
    sync: Send, called: Called, programme: Programme, outing: Outing, settings: Any
) -> None:
    settings.EMAIL_HOST = "mail.example"
    own = {**species_values(species.get("bur")), "special_interest": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="bur").update(own=own)
    Programme.objects.update(species_revision=9)
    lead = Person.objects.create(username="l", name="L", email="lead@example.org")
    Membership.objects.create(programme=programme, person=lead, role="lead")
    rare, common = called(species="bur", length="400"), called()
    assert sync(rare, common).status_code == 200
    assert tell_of_special.call([rare["id"]]) == 1
    assert (
        mail.outbox[0].to == ["lead@example.org"]
        and "burbot" in mail.outbox[0].subject
        and "400" in mail.outbox[0].body
    )
    outing.refresh_from_db()
    from nailwright.programmes.protocols import standing_version

    version = standing_version(programme)
    version.values = {**version.values, "told": [{"species": "bur", "person": "Ida", "email": "ida@example.org"}]}
    version.save()
    Outing.objects.update(protocol=version)
    assert tell_of_special.call([rare["id"]]) == 1 and mail.outbox[1].to == ["ida@example.org"]


def test_quotas_count_what_other_outings_of_the_year_placed(
    sync: Send, called: Called, programme: Programme, outing: Outing, run: Run, crew: APIClient, client_as: Any
) -> None:
    rows = [
        {"species": "wal", "zone": zone, "from_mm": 300, "to_mm": None, "most": 150} for zone in ("Lower river", "Upper river")
    ]  # fmt: skip
    body = {"id": str(new_id()), "based_on": 1, "why": "as agreed", "sections": {"quotas": rows}}
    assert client_as("lead").post(f"/api/v1/programmes/{programme.pk}/protocol", body, format="json").status_code == 201
    Outing.objects.update(protocol=programme.protocols.first())
    number = "999000000000600"
    Tag.objects.create(programme=programme, kind="pit", number=number)
    fish = called(length="420", scanned="none")
    sync(fish, operation("tag.place", capture=fish["id"], kind="pit", number=number))

    def placed(of: Outing) -> list[int]:
        return [each["placed"] for each in crew.get(f"/api/v1/outings/{of.pk}/deck").data["quotas"]]

    assert placed(outing) == [0, 0]  # the tablet counts its own outing's
    for day, expected in (((2026, 11, 2), [1, 0]), ((2027, 4, 2), [0, 0])):
        other = Outing.objects.create(
            programme=programme, water=outing.water, name="Other", date=timezone.datetime(*day).date(), gear="angling",
            protocol=outing.protocol or programme.protocols.first(),
        )  # fmt: skip
        assert placed(other) == expected


def test_a_surgery_without_its_number_is_said(
    sync: Send, called: Callable[..., dict[str, Any]], outing: Outing, programme: Programme
) -> None:
    fish = called(scanned="none")
    sync(fish, operation("event.record", what="step", capture=fish["id"], details={"step": "tag-in", "done": "done"}))
    assert any("by surgery whose number is not recorded" in line for line in open_lines(outing))
    Tag.objects.create(programme=programme, kind="acoustic", number="A69-1")
    sync(operation("tag.place", capture=fish["id"], kind="acoustic", number="A69-1"))
    assert not any("by surgery" in line for line in open_lines(outing))
