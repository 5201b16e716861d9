"""Each angler's card of the day."""

from __future__ import annotations

import csv
import io
from datetime import timedelta
from typing import Any
from zoneinfo import ZoneInfo

import pypdfium2
import pytest
from rest_framework.test import APIClient

from nailwright.deck.forgetting import replace_name
from nailwright.deck.models import Capture, Event, Gear, Outing, Release, Run
from nailwright.programmes.models import Person, Programme, ProgrammeSpecies, ProtocolVersion
from nailwright.tags.models import Fish, Placement, Tag
from nailwright.waters.models import Site
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.conftest import BEGAN


class Bout:
    """A bout of two hours with two rods, and what is said of it, minutes after it began."""

    def __init__(self, outing: Outing, site: Site, person: Person) -> None:
        self.outing, self.person = outing, person
        self.run = Run.objects.create(
            outing=outing, site=site, number=1, gear=Gear.ANGLING, rods=2, recorder=person,
            started_at=BEGAN, ended_at=BEGAN + timedelta(hours=2),
        )  # fmt: skip

    def say(self, minute: float, kind: str, capture: Capture | None = None, **details: Any) -> Event:
        return Event.objects.create(
            outing=self.outing, run=None if capture else self.run, capture=capture, kind=kind, details=details,
            recorder=self.person, device_time=BEGAN + timedelta(minutes=minute),
        )  # fmt: skip

    def fish(self, minute: float, mm: float, code: str = "wal", **more: Any) -> Capture:
        return Capture.objects.create(
            programme=self.outing.programme, run=self.run, species=code, length_mm=mm, recorder=self.person,
            device_time=BEGAN + timedelta(minutes=minute), **more,
        )  # fmt: skip


@pytest.fixture
def bout(outing: Outing, site: Site, person_as: Any) -> Bout:
    return Bout(outing, site, person_as("crew"))


def rows(client: APIClient, outing: Outing, angler: str) -> list[dict[str, str]]:
    answer = client.get(f"/api/v1/outings/{outing.pk}/angler-card", {"angler": angler, "form": "csv"})
    assert answer.status_code == 200, answer.content
    return list(csv.DictReader(io.StringIO(answer.content.decode())))


def test_fish_belong_to_the_rod_they_took(crew: APIClient, outing: Outing, bout: Bout) -> None:
    bout.say(0, "anglers", names="Ada Holt,  Ben Oak")
    bout.say(10, "hooked", angler="ada holt")
    bout.say(11, "hooked", angler="Ben Oak")
    bout.fish(14, 520)  # the oldest hook-up ends first: Ada's, after four minutes
    bout.say(15, "lost", how="off")
    bout.say(40, "hooked")
    unsaid = bout.fish(41, 300)
    assert crew.get(f"/api/v1/outings/{outing.pk}/anglers").data == {"names": ["Ada Holt", "Ben Oak"], "results": []}
    (fish,) = rows(crew, outing, "ADA HOLT")
    assert (fish["length_mm"], fish["fight_s"], fish["left"]) == ("520.0", "240", "aboard")
    here = (BEGAN + timedelta(minutes=14)).astimezone(ZoneInfo(outing.water.time_zone))
    assert (fish["date"], fish["time"]) == (str(here.date()), f"{here:%H:%M:%S}")
    assert rows(crew, outing, "Ben Oak") == []
    bout.say(41, "hands", unsaid, caught="Ben Oak")
    assert [each["length_mm"] for each in rows(crew, outing, "Ben Oak")] == ["300.0"]


def test_who_fished_alone_caught_them_all(crew: APIClient, outing: Outing, bout: Bout) -> None:
    bout.say(0, "anglers", names="Ada")
    bout.fish(5, 400)
    bout.fish(6, 420, mass_g=700)
    assert len(rows(crew, outing, "Ada")) == 2


def page(client: APIClient, outing: Outing, form: str = "pdf") -> str:
    answer = client.get(f"/api/v1/outings/{outing.pk}/angler-card", {"angler": "Ada", "form": form})
    text = pypdfium2.PdfDocument(b"".join(answer)).get_page(0).get_textpage().get_text_range()
    return " ".join(text.split())


def test_on_paper(crew: APIClient, outing: Outing, bout: Bout) -> None:
    bout.say(0, "anglers", names="Ada, Ben")
    for minute in (10, 20, 30, 40):
        bout.say(minute, "hooked", angler="Ada")
        caught = bout.fish(minute + 2, 400 + minute)
    Release.objects.create(capture=caught, fate="released", strength=2, recorder=bout.person)
    bout.say(50, "hooked", angler="Ada")
    bout.say(52, "lost", how="broke")
    told = page(crew, outing)
    # 4 fish in half of 2 rods x 2 h = 2 rod-hours; Garwood's interval of 4 is 1.09 to 10.24
    assert "4 fish in 2.0 rod-hours: 2.00 an hour (95 % interval 0.54 to 5.12" in told
    assert "Lost: 1." in told and "Longest fight 120 s." in told
    Run.objects.update(rods=None)  # nobody wrote how many: one each
    assert "4 fish in 2.0 rod-hours" in page(crew, outing)
    Run.objects.update(ended_at=None)
    assert "4 fish in 0.0 rod-hours. Lost: 1. Longest fight 120 s. A run still goes" in page(crew, outing)


def test_bad_questions(crew: APIClient, outing: Outing, bout: Bout) -> None:
    address = f"/api/v1/outings/{outing.pk}/angler-card"
    answer = crew.get(address, {"angler": "Nobody"})
    assert answer.status_code == 422 and answer.data["code"] == "angler_unknown"
    assert "nobody was named" in answer.data["message"]
    for wrong in ({}, {"angler": "Ada", "form": "xls"}, {"angler": "x" * 61}):
        assert crew.get(address, wrong).status_code == 422


def test_no_cell_is_run_by_a_spreadsheet(crew: APIClient, outing: Outing, bout: Bout) -> None:
    bout.say(0, "anglers", names="=1+1")
    bout.fish(5, 400)
    assert rows(crew, outing, "=1+1")[0]["angler"] == "'=1+1"


@pytest.mark.parametrize("role", ["viewer", "crew"])
def test_places_of_hidden_species(
    client_as: Any, programme: Programme, outing: Outing, site: Site, bout: Bout, role: str
) -> None:
    bout.say(0, "anglers", names="Ada")
    bout.fish(5, 400)
    hidden = {**species_values(species.get("wal")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=hidden)
    Programme.objects.update(species_revision=8)
    assert rows(client_as(role), outing, "Ada")[0]["site"] == ("not shown" if role == "viewer" else site.name)


def test_a_person_who_is_forgotten_leaves_the_rods(
    crew: APIClient, programme: Programme, outing: Outing, bout: Bout
) -> None:
    bout.say(0, "anglers", names="Ada Holt, Ben Oak")
    bout.say(10, "hooked", angler="Ada Holt")
    bout.fish(14, 520)
    replace_name("ada holt", "forgotten", [programme])
    assert crew.get(f"/api/v1/outings/{outing.pk}/anglers").data["names"] == ["forgotten", "Ben Oak"]
    assert len(rows(crew, outing, "forgotten")) == 1


def test_a_catch_report_names_what_was_retained(crew: APIClient, outing: Outing, bout: Bout) -> None:
    bout.say(0, "anglers", names="Ada")
    kept, gone = bout.fish(5, 431, mass_g=700), bout.fish(6, 387)
    Release.objects.create(capture=kept, fate="kept", recorder=bout.person)
    Release.objects.create(capture=gone, fate="released", strength=1, recorder=bout.person)
    told = page(crew, outing, "report")
    assert "Licence number" in told and "Signature" in told and "Ada" in told
    assert "431" in told and "387" not in told  # the fish that went back is in the counts alone


def test_a_weigh_in_by_what_the_protocol_counts(
    crew: APIClient, lead: APIClient, programme: Programme, outing: Outing, bout: Bout
) -> None:
    rows = [{"species": "wal", "best": 2, "by": "length", "dead": "no"}]
    outing.protocol = ProtocolVersion.objects.create(
        programme=programme, number=7, values={"weigh_in": rows}, why="an event"
    )
    outing.save()
    bout.say(0, "anglers", names="Ada, Ben")
    for minute, mm, who, fate in (
        (1, 400, "Ada", "released"),
        (2, 450, "Ada", "released"),
        (3, 900, "Ada", "dead"),
        (4, 700, "Ben", "released"),
    ):
        fish = bout.fish(minute, mm, length_basis="measured")
        bout.say(minute, "hands", fish, caught=who)
        Release.objects.create(
            capture=fish, fate=fate, strength=1 if fate == "released" else None, recorder=bout.person
        )
    bout.fish(9, 333, length_basis="measured")  # nobody said whose
    tag = Tag.objects.create(programme=programme, kind="tbar", number="W77", state="placed")
    Placement.objects.create(
        tag=tag, fish=Fish.objects.create(programme=programme, species="wal"), capture_id=Capture.objects.get(length_mm=700).pk,
        living_tag=tag.pk, recorder=bout.person,
    )  # fmt: skip
    (result,) = crew.get(f"/api/v1/outings/{outing.pk}/anglers").data["results"]
    assert (result["unit"], result["nobody"]) == ("mm", 1)
    ada, ben = result["standings"]
    assert (ada["place"], ada["angler"], ada["total"], ada["dead"]) == (1, "Ada", 850, 1)
    assert (ben["total"], ben["let_go"], ben["tagged_let_go"]) == (700, 1, 1)
    # for every species together, as the suggested row has it
    outing.protocol.values = {"weigh_in": [{**rows[0], "species": ""}]}
    outing.protocol.save()
    (whole,) = crew.get(f"/api/v1/outings/{outing.pk}/anglers").data["results"]
    assert whole["species"] == "" and [each["total"] for each in whole["standings"]] == [850, 700]
