"""Who may do what: every endpoint by every role, held against the one table in policies."""

from __future__ import annotations

import gzip
import re
from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.common.sources import open_table
from nailwright.config.urls import urlpatterns
from nailwright.deck.models import Capture, Event, Outing, Photo, PhotoFile, Release, Run
from nailwright.findings.long_selections import keep_selection
from nailwright.jobs.models import Job
from nailwright.permits.models import Allowance, Permit
from nailwright.plan.models import PlannedSite, Survey, Unit
from nailwright.programmes.models import Change, Invitation, Membership, Person, Programme, Role
from nailwright.records.mapping import propose
from nailwright.records.models import Import, Mapping
from nailwright.returns.models import Card, CardPhoto, PublicPage, Return, ReturnPhoto
from nailwright.tags.models import Fish, Tag, TagBatch
from nailwright.waters.models import Series
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.conftest import operation

ALL = set(Role.values)
WORKING = {"lead", "biologist", "crew"}
RECORDING = WORKING | {"volunteer"}
DESK = {"lead", "biologist"}
LEADS = {"lead"}
READING = ALL - {"volunteer"}

#: Method, address, body, and who may; what stands in braces is filled in from the test's programme.
ENDPOINTS: list[tuple[str, str, Any, set[str]]] = [
    ("get", "/api/v1/programmes/{programme}", None, ALL),
    ("post", "/api/v1/programmes/{programme}", "programme", LEADS),
    ("get", "/api/v1/programmes/{programme}/species", None, ALL),
    ("post", "/api/v1/programmes/{programme}/species", "species", DESK),
    ("get", "/api/v1/programmes/{programme}/species/{code}", None, ALL),
    ("post", "/api/v1/programmes/{programme}/species/{code}", "described", DESK),
    ("post", "/api/v1/programmes/{programme}/species/{code}/as-shipped", "nothing", DESK),
    ("get", "/api/v1/programmes/{programme}/allowances", None, ALL),
    ("post", "/api/v1/programmes/{programme}/allowances", "allowance", DESK),
    ("post", "/api/v1/allowances/{allowance}", "allowance", DESK),
    ("post", "/api/v1/allowances/{allowance}/deleted", "gone", DESK),
    ("get", "/api/v1/programmes/{programme}/crossed", None, DESK),
    ("post", "/api/v1/programmes/{programme}/crossed", "crossed", DESK),
    ("get", "/api/v1/programmes/{programme}/others", None, ALL),
    ("post", "/api/v1/programmes/{programme}/others", "other", DESK),
    ("get", "/api/v1/programmes/{programme}/protocol", None, ALL),
    ("post", "/api/v1/programmes/{programme}/protocol", "decide", DESK),
    ("get", "/api/v1/programmes/{programme}/protocol?number=1", None, ALL),
    ("post", "/api/v1/outings/{outing}/protocol", "nothing", DESK),
    ("get", "/api/v1/outings/{outing}/ledger", None, ALL),
    ("get", "/api/v1/outings/{outing}/enough", None, ALL),
    ("get", "/api/v1/outings/{outing}/passes", None, ALL),
    ("get", "/api/v1/programmes/{programme}/inductions?agent=tricaine&purpose=surgery", None, ALL),
    ("get", "/api/v1/outings/{outing}/day.pdf", None, ALL),
    ("get", "/api/v1/outings/{outing}/anglers", None, ALL),
    ("get", "/api/v1/outings/{outing}/tracks", None, ALL),
    ("get", "/api/v1/outings/{outing}/instruments", None, RECORDING),
    ("get", "/api/v1/photos/{photo}.jpg", None, ALL),
    ("get", "/api/v1/outings/{outing}/angler-card?angler=Ada", None, ALL),
    ("post", "/api/v1/members/{gone}/forget", "nothing", LEADS),
    ("get", "/api/v1/programmes/{programme}/people", None, ALL),
    ("post", "/api/v1/programmes/{programme}/invitations", "invitation", LEADS),
    ("delete", "/api/v1/invitations/{invitation}", None, LEADS),
    ("post", "/api/v1/members/{member}", "member", LEADS),
    ("post", "/api/v1/members/{member}/shut-out", "nothing", LEADS),
    ("post", "/api/v1/members/{member}/password-link", "nothing", LEADS),
    ("get", "/api/v1/waters/{water}/sites", None, ALL),
    ("post", "/api/v1/waters/{water}/sites", "site", WORKING),
    ("post", "/api/v1/waters/{water}", "water_change", DESK),
    ("post", "/api/v1/waters/{water}/deleted", "nothing", DESK),
    ("post", "/api/v1/sites/{site}", "site_change", WORKING),
    ("post", "/api/v1/sites/{site}/deleted", "gone", WORKING),
    ("get", "/api/v1/programmes/{programme}/waters", None, ALL),
    ("get", "/api/v1/programmes/{programme}/series", None, ALL),
    ("post", "/api/v1/waters/{water}/series", "flow", DESK),
    ("post", "/api/v1/series/{series}/deleted", "gone", DESK),
    ("get", "/api/v1/series/{series}/overlay?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/outings", None, ALL),
    ("post", "/api/v1/programmes/{programme}/outings", "outing", RECORDING),
    ("post", "/api/v1/programmes/{programme}/sync", "sync", WORKING),
    ("post", "/api/v1/outings/{outing}/state", "close", WORKING),
    ("post", "/api/v1/outings/{outing}/state", "reopen", {"lead", "biologist"}),
    ("get", "/api/v1/outings/{outing}/deck", None, ALL),
    ("get", "/api/v1/outings/{outing}/live", None, ALL),
    ("get", "/api/v1/programmes/{programme}/tags?number=10", None, ALL),
    ("get", "/api/v1/programmes/{programme}/tags/tbar/W1001/moves", None, ALL),
    ("get", "/api/v1/programmes/{programme}/tags/batches", None, WORKING),
    ("post", "/api/v1/programmes/{programme}/tags/batches", "batch", WORKING),
    ("post", "/api/v1/programmes/{programme}/tags/try", "numbers", WORKING),
    ("post", "/api/v1/programmes/{programme}/tags/file", "tag_file", WORKING),
    ("get", "/api/v1/programmes/{programme}/tags/handed-out", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/transmitters", None, WORKING),
    ("post", "/api/v1/programmes/{programme}/transmitters", "activated", WORKING),
    ("post", "/api/v1/programmes/{programme}/tags/move", "lost_tags", WORKING),
    ("post", "/api/v1/programmes/{programme}/tags/hand-out", "hand_out", WORKING),
    ("post", "/api/v1/tags/batches/{batch}", "batch_told", WORKING),
    ("post", "/api/v1/tags/batches/{batch}/numbers", "more_numbers", WORKING),
    ("get", "/api/v1/programmes/{programme}/returns", None, WORKING),
    ("post", "/api/v1/programmes/{programme}/returns", "told_return", WORKING),
    ("post", "/api/v1/programmes/{programme}/returns/decisions", "decision", DESK),
    ("get", "/api/v1/programmes/{programme}/public-page", None, WORKING),
    ("post", "/api/v1/programmes/{programme}/public-page", "public_page", LEADS),
    ("get", "/api/v1/programmes/{programme}/public-page/notice.pdf", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/kits", None, WORKING),
    ("get", "/api/v1/kits/{kit}", None, WORKING),
    ("get", "/api/v1/kits/{kit}/summary", None, WORKING),
    ("get", "/api/v1/kits/{kit}/letter", None, WORKING),
    ("post", "/api/v1/kits/{kit}/letter", "card_letter", WORKING),
    ("get", "/api/v1/card-photos/{card_photo}.jpg", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/tagging-course", None, RECORDING),
    ("post", "/api/v1/programmes/{programme}/tagging-course", "course", RECORDING),
    ("post", "/api/v1/programmes/{programme}/paper-cards", "paper_cards", DESK),
    ("post", "/api/v1/programmes/{programme}/paper-cards/file", "card_file", DESK),
    ("get", "/api/v1/returns/{return}", None, WORKING),
    ("post", "/api/v1/returns/{return}", "details", WORKING),
    ("post", "/api/v1/returns/{return}/match", "match", DESK),
    ("post", "/api/v1/returns/{return}/reward", "pay", DESK),
    ("get", "/api/v1/programmes/{programme}/rewards", None, WORKING),
    ("get", "/api/v1/returns/{return}/photo.jpg", None, WORKING),
    ("get", "/api/v1/captures/{capture}/history", None, ALL),
    ("post", "/api/v1/fish/{fish}/merged", "merge", {"lead", "biologist"}),
    ("post", "/api/v1/fish/{fish}/split", "split", {"lead", "biologist"}),
    ("post", "/api/v1/fish/{fish}/taken-back", "fish_back", {"lead", "biologist"}),
    ("get", "/api/v1/fish/{fish}", None, ALL),
    ("get", "/api/v1/fish/{fish}/handling", None, ALL),
    ("get", "/api/v1/programmes/{programme}/selection-options", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/size?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/condition?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/size-compared?species=wal&by=sex", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/condition-compared?species=wal&by=sex", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/cohorts?species=wal&k=1", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/induction?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/retention?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/return-rate?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/catch-rate?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/abundance-marks?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/abundance-removal?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/movement?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/where-met?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/findings/recapture-growth?species=wal", None, READING),
    ("get", "/api/v1/programmes/{programme}/today", None, ALL),
    ("get", "/api/v1/captures/{capture}", None, ALL),
    ("post", "/api/v1/captures/{capture}", "correction", {"lead", "biologist"}),
    ("get", "/api/v1/programmes/{programme}/register", None, READING),
    ("get", "/api/v1/programmes/{programme}/saved-findings", None, READING),
    ("post", "/api/v1/programmes/{programme}/selections", "selection", READING),
    ("get", "/api/v1/programmes/{programme}/selections/{selection}", None, READING),
    ("post", "/api/v1/programmes/{programme}/saved-findings", "keep", {"lead", "biologist"}),
    ("post", "/api/v1/captures/{capture}/deleted", "deleted", {"lead", "biologist"}),
    ("get", "/api/v1/programmes/{programme}/captures.csv?species=wal", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/captures.zip", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/encounters.csv", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/encounter-histories.csv?species=wal", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/encounters.geojson?species=wal", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/encounters.kml?species=wal", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/encounters.gpx?species=wal", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/returns.csv?species=wal", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/marks.zip", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/darwin-core.zip", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/marks-at-large.csv", None, LEADS),
    ("get", "/api/v1/programmes/{programme}/marks-at-large.zip", None, LEADS),
    ("get", "/api/v1/programmes/{programme}/foreign-marks", None, WORKING),
    ("post", "/api/v1/programmes/{programme}/foreign-marks", "marks_file", WORKING),
    ("post", "/api/v1/programmes/{programme}/foreign-marks/forgotten", "owner", WORKING),
    ("get", "/api/v1/programmes/{programme}/captures.xlsx", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/mappings", None, DESK),
    ("post", "/api/v1/programmes/{programme}/mappings", "mapping", DESK),
    ("delete", "/api/v1/mappings/{mapping}", None, DESK),
    ("get", "/api/v1/programmes/{programme}/archive.zip", None, LEADS),
    ("get", "/api/v1/permits/{permit}/report?form=csv", None, WORKING),
    ("get", "/api/v1/programmes/{programme}/imports", None, DESK),
    ("post", "/api/v1/programmes/{programme}/imports", "file", DESK),
    ("get", "/api/v1/imports/{import}", None, DESK),
    ("post", "/api/v1/imports/{import}/try", "answers", DESK),
    ("post", "/api/v1/imports/{import}/bring-in", "tried", DESK),
    ("post", "/api/v1/imports/{import}/take-back", "in", DESK),
    ("get", "/api/v1/imports/{import}/rejects.csv", None, DESK),
    ("delete", "/api/v1/imports/{import}", None, DESK),
    ("get", "/api/v1/jobs/{job}", None, DESK),
    ("post", "/api/v1/jobs/{job}/stop", "nothing", DESK),
    ("get", "/api/v1/programmes/{programme}/plan", None, ALL),
    ("post", "/api/v1/programmes/{programme}/plan", "survey", DESK),
    ("post", "/api/v1/programmes/{programme}/new-water", "water", DESK),
    ("get", "/api/v1/programmes/{programme}/units", None, ALL),
    ("post", "/api/v1/programmes/{programme}/units", "unit", DESK),
    ("post", "/api/v1/programmes/{programme}/permits", "permit", DESK),
    ("post", "/api/v1/programmes/{programme}/seasons", "season", DESK),
    ("post", "/api/v1/permits/{permit}", "permit", DESK),
    ("get", "/api/v1/programmes/{programme}/enough", None, ALL),
    ("get", "/api/v1/surveys/{survey}", None, ALL),
    ("post", "/api/v1/surveys/{survey}", "nothing", DESK),
    ("post", "/api/v1/surveys/{survey}/sites", "nothing", DESK),
    ("post", "/api/v1/surveys/{survey}/sites/move", "move", DESK),
    ("get", "/api/v1/surveys/{survey}/settings", None, ALL),
    ("get", "/api/v1/surveys/{survey}/kit", None, ALL),
    ("get", "/api/v1/surveys/{survey}/rehearsals", None, ALL),
    ("post", "/api/v1/surveys/{survey}/rehearsals", "rehearsal", DESK),
    ("post", "/api/v1/surveys/{survey}/outing", "go", WORKING),
    ("post", "/api/v1/surveys/{survey}/again", "again", DESK),
    ("post", "/api/v1/surveys/{survey}/deleted", "take_out", DESK),
    ("get", "/api/v1/surveys/{survey}/sites.gpx", None, ALL),
    ("get", "/api/v1/surveys/{survey}/survey.ics", None, ALL),
    ("get", "/api/v1/surveys/{survey}/sheet.pdf", None, ALL),
    ("get", "/api/v1/programmes/{programme}/layers", None, ALL),
    ("get", "/api/v1/waters/{water}/reach", None, ALL),
    ("post", "/api/v1/waters/{water}/line", "line", DESK),
    ("post", "/api/v1/waters/{water}/zones", "zones", DESK),
]
#: Needs more fish than there are here: test_own_species asks it by role.
ELSEWHERE = {"programmes/{programme}/species/{code}/own-line"}
#: Open to those who have not signed in.
OPEN = {
    "session",
    "session/demo",
    "first",
    "password/forgotten",
    "password/reset",
    "public/pages/<slug:address>",
    "public/pages/<slug:address>/waters",
    "public/reports/<str:link>",
    "public/reports/<str:link>/contact/erased",
    "public/reports/<str:link>/certificate.<str:form>",
    "invitations/look",
    "invitations/join",
}
#: For whoever is signed in, about nobody but themselves.
OWN = {
    "programmes/bring-in", "account/data", "account/short-code", "account/forget", "account", "account/password", "account/second-step", "account/second-step/end", "session/everywhere", "tokens", "tokens/{token}", "programmes",
}  # fmt: skip


@pytest.fixture
def fish(run: Run) -> Capture:
    """The first of six weighed fish, so that every finding has an answer; it carries a mark and has been released."""
    marked = Fish.objects.create(programme=run.outing.programme, species="wal")
    weighed = ((310.0, 260.0, "f"), (410.0, 640.0, "f"), (480.0, 1050.0, "f"))
    for mm, g, sex in (*weighed, (300.0, 240.0, "u"), (400.0, 600.0, "u"), (469.0, 1000.0, "u")):
        fish = Capture.objects.create(
            programme=run.outing.programme, run=run, species="wal", length_mm=mm, length_type="TL", length_basis="measured",
            mass_g=g, mass_basis="measured", recorder=run.recorder, fish=marked, sex=sex,
        )  # fmt: skip
        Release.objects.create(capture=fish, fate=Release.Fate.RELEASED, recorder=run.recorder)
    Run.objects.update(ended_at=run.started_at)
    return fish


@pytest.fixture
def keys(fish: Capture, outing: Outing) -> dict[str, Any]:
    """What stands in braces in an address, by its name."""
    programme = outing.programme
    job = Job.objects.create(programme=programme, person=fish.recorder, permission="import_rows", title="Trying a file")
    content = b"species,length\nwal,463\n"
    answers = {
        "columns": [{"header": "species", "key": "species"}, {"header": "length", "key": "length", "unit": "mm"}],
        "fixed": {"date": "2026-05-03", "water": str(outing.water_id), "site": "K15", "gear": "angling"},
        "words": {},
    }
    table, _ = propose(programme, open_table(content))
    row = Import.objects.create(
        programme=programme, person=fish.recorder, file_name="fish.csv", sha256="", bytes=len(content),
        packed=gzip.compress(content), preview=table, answers=answers, rejects=gzip.compress(b"reject_line\n"),
    )  # fmt: skip
    water = outing.water
    water.geometry = {"type": "LineString", "coordinates": [[-31.6, 44.9], [-31.5, 44.95]]}
    water.save()
    unit = {"max_volts": 500, "max_amps": 20, "max_watts": 3000, "r100_ohm": 60}
    Unit.objects.create(programme=programme, name="Boat", gear="boat_electrofishing", **unit)
    days = {"first": date(2026, 5, 1), "last": date(2026, 6, 1)}
    permit = Permit.objects.create(programme=programme, kind="permit", name="Collecting", **days)
    survey = Survey.objects.create(
        programme=programme, water=water, person=fish.recorder, name="Spring", question="size", species=["wal"], gear="angling",
        **days,
    )  # fmt: skip
    PlannedSite.objects.create(survey=survey, number=1, start_m=0, end_m=500)
    selection = keep_selection(programme, {"species": "wal"}).key
    member = Membership.objects.create(
        programme=programme, person=Person.objects.create(username="keld", name="Keld"), role="viewer"
    )
    ends_at = timezone.now() + timedelta(days=1)
    invitation = Invitation.objects.create(
        programme=programme, digest="d", name="Sander", role="crew", inviter=fish.recorder, ends_at=ends_at
    )
    allowance = Allowance.objects.create(permit=permit, what="captured", most=5, **days)
    gone = Membership.objects.create(
        programme=programme,
        person=Person.objects.create(username="gone", name="Gone"),
        role="crew",
        left_at=timezone.now(),
    )
    bout = Run.objects.create(
        outing=outing,
        site=fish.run.site,
        number=2,
        gear="angling",
        recorder=fish.recorder,
        started_at=timezone.now(),
        ended_at=timezone.now(),
    )
    Event.objects.create(outing=outing, run=bout, kind="anglers", details={"names": "Ada"}, recorder=fish.recorder)
    series = Series.objects.create(water=water, name="Flow", unit="m3/s", source="gauge", person=fish.recorder)
    photo = Photo.objects.create(outing=outing, shows="place", width=1, height=1, recorder=fish.recorder)
    PhotoFile.objects.create(photo=photo, jpeg=b"jpeg", small=b"jpeg")
    batch = TagBatch.objects.create(programme=programme, kind="tbar", name="Yellow")
    Tag.objects.create(programme=programme, kind="tbar", number="W1001", batch=batch)
    mapping = Mapping.objects.create(programme=programme, name="Old", answers=row.answers, person=fish.recorder)
    PublicPage.objects.create(programme=programme, address="tarn", open=True, telephone="555")
    report = Return.objects.create(programme=programme, number_text="W1001")
    ReturnPhoto.objects.create(report=report, jpeg=b"jpeg", small=b"jpeg")
    card = Card.objects.create(programme=programme, tagger=member.person, recorder=member.person)
    card_photo = CardPhoto.objects.create(card=card, recorder=member.person, jpeg=b"jpeg", small=b"jpeg")
    people = {
        "card_photo": card_photo.pk,
        "return": report.pk,
        "kit": member.pk,
        "mapping": mapping.pk,
        "batch": batch.pk,
        "photo": photo.pk,
        "series": series.pk,
        "gone": gone.pk,
        "member": member.pk,
        "invitation": invitation.pk,
        "allowance": allowance.pk,
        "code": "wal",
        "site": fish.run.site_id,
    }
    plan = people | {"selection": selection, "survey": survey.pk, "water": water.pk, "permit": permit.pk}
    return plan | {"programme": programme.pk, "outing": outing.pk, "capture": fish.pk, "fish": fish.fish_id, "import": row.pk, "job": job.pk}  # fmt: skip


CROSSED = new_id()


def cross_two_corrections(outing: Outing) -> None:
    """Two words on one fish's note, the earlier one come late."""
    fish = Capture.objects.filter(run__outing=outing)[0]
    now = timezone.now()
    shared = {"programme": outing.programme, "table": "capture", "row": fish.pk, "person": fish.recorder, "before": {}}
    Change.objects.create(**shared, device_time=now - timedelta(minutes=5), after={"note": "scar"})
    Change.objects.filter(pk=CROSSED).delete()
    Change.objects.create(
        **shared, id=CROSSED, device_time=now - timedelta(minutes=9), after={}, late={"note": "no scar"}
    )


def request_of(name: str | None, outing: Outing) -> Any:
    """The body that goes with an endpoint; puts the programme into the state in which it may be asked."""
    if name == "reopen":
        Outing.objects.update(state=Outing.State.CLOSED)
    if name in ("tried", "in"):
        Import.objects.update(state=name)
    if name == "other":
        Capture.objects.filter(length_mm=300).update(species="other", note="bullhead")
    if name == "crossed":
        cross_two_corrections(outing)
    bodies = {
        "crossed": {"change": str(CROSSED)},
        "outing": {"id": str(new_id()), "water": str(outing.water_id), "date": "2026-10-13", "gear": "angling"},
        "sync": {"operations": [operation("water.record", outing=str(outing.pk), temperature_c=9)]},
        "close": {"id": str(new_id()), "state": "closed"},
        "reopen": {"id": str(new_id()), "state": "open"},
        "programme": {"name": "Tarn study", "time_zone": "Europe/Oslo"},
        "species": {"codes": ["wal", "yep"]},
        "described": species_values(species.get("wal")),
        "other": {"name": "bullhead", "code": "wal"},
        "allowance": {
            "permit": str(Permit.objects.values_list("pk", flat=True).first()),
            "species": "wal",
            "what": "killed",
            "most": 3,
            "first": "2026-01-01",
            "last": "2026-12-31",
        },
        "batch": {"id": str(new_id()), "kind": "tbar", "name": "Red", "numbers": "R1001-R1003"},
        "batch_told": {"name": "Yellow", "colour": "yellow"},
        "numbers": {"kind": "tbar", "numbers": "R1001-R1003"},
        "more_numbers": {"numbers": "W1002"},
        "tag_file": {"file": SimpleUploadedFile("tags.csv", b"number\nR1001\nR1002\n"), "kind": "tbar"},
        "lost_tags": {"kind": "tbar", "numbers": "W1001", "state": "lost", "reason": "bag went overboard"},
        "activated": {"kind": "acoustic", "numbers": "A1001", "day": "2026-05-01"},
        "hand_out": {"id": str(new_id()), "kind": "tbar", "numbers": "W1001", "boat": "Boat 2"},
        "card_letter": {"by_mail": False},
        "course": {"answers": {}, "practice": {}},
        "paper_cards": {
            "rows": [{"id": str(new_id()), "cells": {"species": "wal", "tagger": "Keld"}}],
            "length_unit": "mm",
            "store": True,
        },
        "card_file": {"file": SimpleUploadedFile("cards.csv", b"tagger,species\nKeld,wal\n")},
        "told_return": {"id": str(new_id()), "number": "W1001", "channel": "telephone"},
        "decision": {
            "reports": [str(Return.objects.values_list("pk", flat=True).first())],
            "state": "rejected",
            "reason": "not ours",
        },
        "public_page": {"address": "tarn-2", "open": False},
        "details": {"place_text": "below the weir"},
        "match": {"kind": "tbar", "number": "W1001"},
        "marks_file": {"file": SimpleUploadedFile("m.csv", b"programme,kind,number\nFjord study,tbar,F7701\n")},
        "owner": {"owner": "Fjord study"},
        "merge": {
            "other": str(Fish.objects.values_list("pk", flat=True).first()),
            "reason": "both tags were read on it",
        },
        "split": {"meetings": [], "reason": "a number was misread"},
        "fish_back": {"reason": "they were two after all"},
        "pay": {"paid": True, "proof": "transfer 12"},
        "gone": {"deleted": True},
        "decide": {
            "id": str(new_id()),
            "based_on": 1,
            "why": "the board has half a millimetre",
            "sections": {"precision": [{"length_mm": 0.5, "mass_g": 1}]},
        },
        "invitation": {"name": "Sander", "role": "crew"},
        "member": {"role": "crew"},
        "water_change": {"kind": "lake", "reason": "a reservoir"},
        "site_change": {"zone": "Upper", "reason": "zones were drawn"},
        "site": {"name": "Boat ramp", "latitude": 44.9, "longitude": -31.5},
        "selection": {"query": {"species": "wal", "sex": ["f"]}},
        "keep": {"id": str(new_id()), "kind": "size", "query": {"species": "wal"}},
        "deleted": {"id": str(new_id()), "deleted": True, "reason": "called twice"},
        "correction": {"id": str(new_id()), "reason": "misheard", "length": "400"},
        "file": {"file": SimpleUploadedFile("fish.csv", b"species,length\nwal,400\n")},
        "answers": Import.objects.get().answers,
        "mapping": {"id": str(new_id()), "name": "Office", "answers": Import.objects.get().answers},
        "survey": {
            "water": str(outing.water_id),
            "name": "x",
            "question": "size",
            "species": ["wal"],
            "gear": "angling",
            "first": "2027-05-01",
            "last": "2027-06-01",
        },
        "water": {"name": "New Beck", "kind": "river"},
        "unit": {"name": "b", "gear": "angling", "max_volts": 5, "max_amps": 5, "max_watts": 5, "r100_ohm": 5},
        "permit": {"kind": "permit", "name": "Other", "first": "2027-05-01", "last": "2027-06-01"},
        "season": {"kind": "closed", "name": "Ice", "first_day": "03-01", "last_day": "04-01"},
        "move": {"number": 1, "start_m": 100, "reason": "no access"},
        "rehearsal": {"kind": "removal", "design": {"population": 90, "capture": 0.4}},
        "go": {"date": "2026-05-02"},
        "again": {"first": "2027-05-02"},
        "take_out": {"id": str(new_id()), "deleted": True},
        "flow": {
            "name": "Stage",
            "unit": "m",
            "source": "gauge",
            "file": SimpleUploadedFile("flow.csv", b"2026-10-11,1.5\n"),
        },
        "line": {"file": SimpleUploadedFile("line.csv", b"lon,lat\n-31.6,44.9\n-31.5,44.9\n")},
        "zones": {"zones": []},
    }
    return bodies.get(name or "", {} if name else None)


def ask(client: APIClient, method: str, address: str, body: str | None, outing: Outing, keys: dict[str, Any]) -> Any:
    form = (
        {"format": "multipart" if body in ("file", "line", "flow", "tag_file", "marks_file", "card_file") else "json"}
        if body
        else {}
    )
    return getattr(client, method)(address.format(**keys), request_of(body, outing), **form)


@pytest.mark.parametrize(
    ("method", "address", "body", "allowed"), ENDPOINTS, ids=lambda value: str(value) if isinstance(value, str) else ""
)
def test_every_endpoint_by_every_role(
    client_as: Callable[[str], APIClient],
    keys: dict[str, Any],
    outing: Outing,
    method: str,
    address: str,
    body: str,
    allowed: set[str],
) -> None:
    with transaction.atomic():
        response = ask(APIClient(), method, address, body, outing, keys)
        assert response.status_code in (401, 403), "nobody enters unsigned"
        assert Outing.objects.count() == 1 and Import.objects.count() == 1
        transaction.set_rollback(True)
    for role in (*Role.values, "stranger"):
        with transaction.atomic():  # each role finds what the first one found
            response = ask(client_as(role), method, address, body, outing, keys)
            if role in allowed:
                # it was looked for, though
                refused = response.status_code == 422 and response.data["code"] in (
                    "no_baths",
                    "no_tags",
                    "no_fish",
                    "reward_none",
                    "fish_same",
                    "split_nothing",
                    "nothing_to_take_back",
                    "water_in_use",
                    "no_effort",
                    "one_catch",
                    "no_passes",
                    "no_journeys",
                    "nobody_met",
                    "fish_too_few",
                )
                assert refused or response.status_code in (200, 201, 204), (role, getattr(response, "data", ""))
            elif role == "stranger":  # the same answer as for a key that is nobody's
                nobodys = ask(client_as(role), method, address, body, outing, keys | dict.fromkeys(keys, new_id()))
                assert response.status_code == nobodys.status_code == 404 and response.data == nobodys.data
            else:
                # entries of a tablet are answered one by one; a member's are refused by kind
                assert response.status_code == (422 if body == "sync" else 403), role
                assert response.data["code"] == "role_may_not"
                assert response.data["message"].endswith(".")
            transaction.set_rollback(True)


def test_the_table_above_names_every_endpoint() -> None:
    """A new endpoint must be entered here, or this fails."""
    included = [pattern.url_patterns for pattern in urlpatterns if hasattr(pattern, "url_patterns")]
    routes = {str(each.pattern) for patterns in included for each in patterns}
    tested = {address.split("?")[0].removeprefix("/api/v1/") for _, address, _, _ in ENDPOINTS}
    for route in routes:
        route = (
            re.sub(r"<uuid:(\w+)_id>", r"{\1}", route)
            .replace("<slug:key>", "{selection}")
            .replace("<str:kind>/<str:number>", "tbar/W1001")
            .replace("<slug:code>", "{code}")
        )
        assert route in tested | OPEN | OWN | ELSEWHERE, f"{route} is not in the table of endpoints"


def test_a_programme_that_is_not_there_is_not_found(crew: APIClient, programme: Programme) -> None:
    response = crew.get(f"/api/v1/programmes/{new_id()}/outings")
    assert (response.status_code, response.data["code"]) == (404, "not_found")
