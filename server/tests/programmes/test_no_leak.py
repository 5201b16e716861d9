"""A walk over every endpoint and document as somebody who may not see where protected species are.

The bytes of each answer, of each page of a PDF and of each file in an archive are searched for the secret site's name, its
position, and the number and key of its run.
"""

from __future__ import annotations

import gzip
import io
import re
import sys
import zipfile
from collections.abc import Callable, Iterable, Iterator
from datetime import date, timedelta
from typing import Any

import pypdfium2
import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.common.sources import open_table
from nailwright.config.urls import urlpatterns
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.handling.releases import set_release
from nailwright.deck.models import (
    Capture,
    Event,
    Outing,
    Photo,
    PhotoFile,
    Run,
    Target,
    TrackPart,
    WaterReading,
)
from nailwright.findings.long_selections import keep_selection
from nailwright.findings.saved import save_finding
from nailwright.jobs.models import Job
from nailwright.permits.models import Allowance, Permit
from nailwright.plan.models import PlannedSite, Survey
from nailwright.programmes.models import Membership, Person, Programme, ProgrammeSpecies
from nailwright.programmes.record.audit import Act
from nailwright.records.mapping import propose
from nailwright.records.models import Import
from nailwright.returns.deciding import decide
from nailwright.returns.models import Card, CardPhoto, PublicPage
from nailwright.returns.public_links import key_of
from nailwright.returns.reporting import take_report
from nailwright.tags.models import Fish, Placement, Scan, Tag
from nailwright.waters.models import Series, SeriesPoint, Site, Water
from nailwright.waters.zones import zone_called
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values

pytestmark = pytest.mark.django_db
NAME, RUN, KM = "Wrycombe hollow", 7731, 17.313
LAT, LON = 44.912347, -31.543219
#: What must not stand anywhere, as patterns; filled up with keys by the fixture. A number within a longer one, or in a key, is none.
SECRETS = [NAME, "44[.]9123", "31[.]5432", r"(?<![\w.-])17[.,]?31\d*(?![\w-])", rf"(?<![\w.-]){RUN}(?![\w.-])"]


@pytest.fixture
def programme(programme: Programme) -> Programme:
    """Burbot are protected."""
    hidden = {**species_values(species.get("bur")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="bur").update(own=hidden)
    Programme.objects.filter(pk=programme.pk).update(species_revision=7)
    return Programme.objects.get(pk=programme.pk)


@pytest.fixture
def keys(programme: Programme, outing: Outing, run: Run) -> Iterator[dict[str, list[str]]]:
    """An outing with an open and a secret run, and one of everything that may tell of the second; keys by what they are of."""
    Run.objects.filter(pk=run.pk).update(number=1, ended_at=run.started_at + timedelta(minutes=20), current_on_s=900)
    run.refresh_from_db()
    water, lead = outing.water, run.recorder
    water.geometry = {"type": "LineString", "coordinates": [[-31.7, 44.8], [-31.6, 44.9], [-31.4, 44.98]]}
    water.save()
    Site.objects.filter(pk=run.site_id).update(geometry={"type": "Point", "coordinates": [-31.6, 44.9]})
    site = Site.objects.create(
        water=water,
        name=NAME,
        zone=zone_called(water, "Lower river"),
        river_km=KM,
        geometry={"type": "Point", "coordinates": [LON, LAT]},
    )
    began = run.started_at + timedelta(minutes=30)
    secret = Run.objects.create(
        outing=outing, site=site, number=RUN, gear=run.gear, started_at=began, ended_at=began + timedelta(minutes=20), recorder=lead,
        current_on_s=800,
    )  # fmt: skip
    known = {code: Fish.objects.create(programme=programme, species=code) for code in ("wal", "bur")}
    captures = []
    for of, minutes in ((run, 5), (secret, 40)):
        for n in range(6):
            code = "bur" if of == secret and n % 2 else "wal"
            captures.append(
                Capture.objects.create(
                    programme=programme,
                    run=of,
                    species=code,
                    length_mm=300 + 17 * n + minutes,
                    length_type="TL",
                    length_basis="measured",
                    length_text=str(300 + 17 * n + minutes),
                    length_unit="mm",
                    mass_g=300 + 20 * n,
                    mass_basis="measured",
                    mass_text="300",
                    mass_unit="g",
                    recorder=lead,
                    device_time=run.started_at + timedelta(minutes=minutes, seconds=n),
                    fish=known[code] if n < 2 else None,
                    scanned="known" if n < 2 else "",
                    sex="fmu"[n % 3],
                    questions=[{"code": "length_far", "answer": "not asked"}] if n == 3 else [],
                )
            )
    act = Act(new_id(), lead, timezone.now(), "test")
    set_release(act, programme, {"captures": [str(each.pk) for each in captures], "fate": "released"})
    tag = Tag.objects.create(programme=programme, kind="tbar", number="W1001", state="placed")
    Placement.objects.create(
        tag=tag, fish=known["wal"], capture_id=captures[6].pk, living_tag=tag.pk, tag_before="stock", recorder=lead
    )
    burbot = Tag.objects.create(programme=programme, kind="tbar", number="B1001", state="placed")
    Placement.objects.create(
        tag=burbot,
        fish=known["bur"],
        capture_id=captures[7].pk,
        living_tag=burbot.pk,
        tag_before="stock",
        recorder=lead,
    )
    for each, number in ((captures[6], "W1001"), (captures[7], "B1001")):
        Scan.objects.create(
            programme=programme, source_id=each.pk, kind="tbar", number=number, result="known", fish=each.fish, recorder=lead,
            device_time=each.device_time,
        )  # fmt: skip
    rebuild_encounters()
    page = PublicPage.objects.create(programme=programme, address="tarn", open=True, telephone="555")
    reports = []
    for code, number in (("wal", "W1001"), ("bur", "B1001")):
        told = {"number": number, "species": code, "found_on": timezone.now().date(), "lat": 44.95, "lon": -31.5}
        report, _ = take_report(programme, new_id(), told)
        report.told = True
        report.save()
        decide(Act(new_id(), biologist_of(programme), timezone.now()), report, "verified")
        reports.append(report)
    for each in (run, secret):
        Event.objects.create(outing=outing, run=each, kind="anglers", details={"names": "Ada"}, recorder=lead)
        Event.objects.create(outing=outing, run=each, kind="power", details={"volts": 200, "amps": 9}, recorder=lead)
        TrackPart.objects.create(run=each, fixes=[[began.timestamp() + s, LAT, LON] for s in range(3)], recorder=lead)
    for capture in (captures[0], captures[7]):
        Event.objects.create(
            outing=outing, run=capture.run, capture=capture, kind="lane", details={"lane": "bath"}, recorder=lead
        )
    photos = [
        Photo.objects.create(outing=outing, capture=of, shows=shows, width=1, height=1, lat=LAT, lon=LON, recorder=lead)
        for of, shows in ((captures[7], "fish"), (captures[6], "fish"), (None, "place"))
    ]
    PhotoFile.objects.bulk_create(PhotoFile(photo=each, jpeg=b"jpeg", small=b"jpeg") for each in photos)
    card = Card.objects.create(
        programme=programme,
        tagger=lead,
        recorder=lead,
        species="bur",
        fish=known["bur"],
        lat=LAT,
        lon=LON,
        place_text=NAME,
    )
    card_photo = CardPhoto.objects.create(card=card, recorder=lead, jpeg=b"jpeg", small=b"jpeg")
    WaterReading.objects.create(outing=outing, temperature_c=9, recorder=lead)
    Target.objects.create(outing=outing, species="wal", what="measured", wanted=100)
    days = {"first": date(2026, 5, 1), "last": date(2027, 6, 1)}
    survey = Survey.objects.create(
        programme=programme,
        water=water,
        person=lead,
        name="Spring",
        question="size",
        species=["wal"],
        gear=run.gear,
        **days,
    )
    PlannedSite.objects.create(survey=survey, number=1, start_m=4000, end_m=4500, site=run.site)
    PlannedSite.objects.create(survey=survey, number=2, start_m=17313, end_m=17813, site=site)
    survey.outings.add(outing)
    permit = Permit.objects.create(programme=programme, kind="permit", name="Collecting", **days)
    allowance = Allowance.objects.create(permit=permit, what="captured", most=5, **days)
    series = Series.objects.create(water=water, name="Flow", unit="m3/s", source="gauge", person=lead)
    SeriesPoint.objects.create(series=series, at=began, value=4)
    kept = [
        save_finding(biologist_of(programme), programme, new_id(), kind, query, "")
        for kind, query in (
            ("size", {"species": "wal"}),
            ("size", {"species": "wal", "site": [str(site.pk)]}),
            ("size-compared", {"species": "wal", "by": "site"}),
        )
    ]
    assert any(NAME in str(each.result) for each in kept)
    selections = [
        keep_selection(programme, query).key
        for query in ({"species": "wal"}, {"species": "wal", "zone": "Lower river"})
    ]
    job = Job.objects.create(programme=programme, person=lead, permission="read_findings", title="x")
    member = programme.memberships.first()
    assert member
    table, answers = propose(programme, open_table(b"species,length\nwal,463\n"))
    file = Import.objects.create(
        programme=programme, person=lead, file_name="f.csv", sha256="", bytes=1, packed=gzip.compress(NAME.encode()), preview=table,
        answers=answers.kept(), rejects=gzip.compress(NAME.encode()),
    )  # fmt: skip
    text: dict[str, list[Any]] = {
        "programme_id": [programme.pk], "outing_id": [outing.pk], "capture_id": [each.pk for each in captures],
        "fish_id": [each.pk for each in known.values()], "water_id": [water.pk], "survey_id": [survey.pk], "permit_id": [permit.pk],
        "allowance_id": [allowance.pk], "series_id": [series.pk], "photo_id": [each.pk for each in photos], "card_photo_id": [card_photo.pk], "job_id": [job.pk],
        "member_id": [member.pk], "gone_id": [member.pk], "import_id": [file.pk], "mapping_id": [new_id()], "key": selections, "code": ["wal", "bur"],
        "invitation_id": [new_id()], "token_id": [new_id()], "batch_id": [new_id()], "site": [run.site_id, site.pk],
        "site_id": [run.site_id, site.pk], "address": [page.address], "link": [key_of(each) for each in reports], "form": ["svg", "pdf"],
        "kit_id": [member.pk], "return_id": [each.pk for each in reports], "kind": ["tbar"], "number": ["W1001", "B1001"],
    }  # fmt: skip
    before = list(SECRETS)
    SECRETS.extend([str(secret.pk), secret.pk.hex])
    yield {name: [str(each) for each in values] for name, values in text.items()}
    SECRETS[:] = before


def biologist_of(programme: Programme) -> Person:
    return programme.people.get(memberships__role="biologist")


@pytest.fixture(autouse=True)
def people(programme: Programme, person_as: Callable[[str], Person]) -> None:
    person_as("biologist")


#: Queries that some of the addresses want, one walk for each.
QUERIES = {
    "findings/size": ["species=wal", "species=wal&site={site}", "species=bur", "species=wal&by=site", "species=wal&outing={outing_id}"],
    "findings/size-compared": ["species=wal&by=site", "species=wal&by=sex", "species=bur&by=site"],
    "findings/condition": ["species=wal", "species=bur&site={site}"],
    "findings/condition-compared": ["species=wal&by=site", "species=wal&by=sex"],
    "findings/cohorts": ["species=wal&k=1", "species=bur&k=1"],
    "findings/induction": ["species=wal", "species=bur", "species=wal&site={site}"],
    "findings/retention": ["species=wal", "species=bur"],
    "findings/return-rate": ["species=wal&by=batch", "species=bur"],
    "findings/catch-rate": ["species=wal", "species=wal&by=site", "species=bur", "species=bur&by=site"],
    "findings/abundance-marks": ["species=wal", "species=bur", "species=wal&by=site", "species=bur&by=site"],
    "findings/abundance-removal": ["species=wal", "species=bur"],
    "findings/movement": ["species=wal", "species=bur"],
    "findings/where-met": ["species=wal", "species=bur"],
    "findings/recapture-growth": ["species=wal", "species=bur"],
    "register": ["", "species=bur", "species=wal&site={site}", "deleted=true", "sort=-length"],
    "captures.csv": ["", "species=bur"],
    "captures.zip": [""],
    "captures.xlsx": ["", "species=bur"],
    "overlay": ["species=wal", "species=wal&site={site}"],
    "angler-card": ["angler=Ada&form=csv", "angler=Ada"],
    "report": ["form=csv", "form=pdf"],
    "inductions": ["agent=tricaine&purpose=surgery"],
    "tags": ["number=9", "number=W"],
    "live": [""],
}  # fmt: skip


def routes(patterns: Iterable[Any] = urlpatterns, before: str = "") -> Iterator[str]:
    """Every route of the API, whatever module holds it."""
    for pattern in patterns:
        route = before + str(pattern.pattern)
        if hasattr(pattern, "url_patterns"):
            yield from routes(pattern.url_patterns, route)
        elif route.startswith("api/v1/"):
            yield route


def addresses(keys: dict[str, list[str]]) -> Iterator[str]:
    """Every address that can be read, with each key and each query."""
    for route in routes():
        paths = [f"/{route}"]
        for kind, name in re.findall(r"<(?:(\w+):)?(\w+)>", route):
            hole = f"<{kind}:{name}>" if kind else f"<{name}>"
            paths = [path.replace(hole, key) for path in paths for key in keys[name]]
        wanted = next((queries for end, queries in QUERIES.items() if route.endswith(end)), [""])
        for query in wanted:
            holes = re.findall(r"{(\w+)}", query)
            filled = [query.replace(f"{{{holes[0]}}}", key) for key in keys[holes[0]]] if holes else [query]
            for path in paths:
                yield from (f"{path}?{each}" if each else path for each in filled)


def texts(content: bytes) -> Iterator[str]:
    """All that a person can read of an answer: its text, the pages of a PDF, the files of an archive."""
    if content.startswith(b"%PDF"):
        for page in pypdfium2.PdfDocument(content):
            yield page.get_textpage().get_text_bounded()
    elif content.startswith(b"PK"):
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            for name in archive.namelist():
                yield from texts(archive.read(name))
    elif content.startswith(b"\x1f\x8b"):
        yield from texts(gzip.decompress(content))
    else:
        yield content.decode("utf-8", "replace")


def content_of(response: Any) -> bytes:
    return b"".join(response.streaming_content) if response.streaming else response.content


def leaks(client: APIClient, keys: dict[str, list[str]]) -> tuple[list[str], int]:
    found, read = [], 0
    for address in addresses(keys):
        response = client.get(address)
        assert response.status_code < 500, address
        content = content_of(response)
        read += response.status_code == 200
        for text in texts(content):
            for secret in SECRETS:
                if hit := re.search(f".{{0,40}}{secret}.{{0,20}}", text, re.DOTALL):
                    found.append(f"{address}: {hit[0]}")
    return found, read


@pytest.fixture
def as_html(monkeypatch: pytest.MonkeyPatch) -> None:
    """The pages from which PDF is made, in place of it: a walk over printed ones takes half a minute, and one of them does that."""
    for module in [
        each for name, each in sys.modules.items() if name.startswith("nailwright.") and hasattr(each, "pdf_of")
    ]:
        monkeypatch.setattr(module, "pdf_of", str.encode)


@pytest.mark.usefixtures("as_html")
@pytest.mark.parametrize("role", ["viewer", "volunteer"])
def test_nobody_reads_of_a_secret_site_who_may_not(
    client_as: Callable[[str], APIClient], keys: dict[str, list[str]], role: str
) -> None:
    found, read = leaks(client_as(role), keys)
    assert not found, "\n".join(found)
    assert read > 40


def test_the_walk_finds_what_crew_may_read(client_as: Callable[[str], APIClient], keys: dict[str, list[str]]) -> None:
    """A walk that finds nothing proves nothing: where places may be seen it finds the site in every kind of document."""
    found, _ = leaks(client_as("biologist"), keys)
    where = "\n".join(found)
    for end in ("/deck", "day.pdf", "/reach", "/sites", "register", "captures.csv", "captures.zip", "selection-options", "sheet.pdf",
                "sites.gpx", "/tracks", "saved-findings", "/passes"):  # fmt: skip
        assert end in where, end


@pytest.mark.usefixtures("as_html")
def test_one_who_has_become_a_viewer_reads_no_more(
    client_as: Callable[[str], APIClient], keys: dict[str, list[str]]
) -> None:
    client = client_as("crew")
    assert leaks(client, keys)[0]
    Membership.objects.filter(role="crew").update(role="viewer")
    assert not leaks(client, keys)[0]


def test_a_site_with_no_protected_fish_is_shown(
    client_as: Callable[[str], APIClient], keys: dict[str, list[str]], outing: Outing
) -> None:
    deck = client_as("viewer").get(f"/api/v1/outings/{outing.pk}/deck").json()
    assert [site["name"] for site in deck["sites"]] == ["K15"] and len(deck["runs"]) == 1
    assert len(deck["captures"]) == 6


def test_a_burbot_that_was_none_hides_its_site_no_longer(
    client_as: Callable[[str], APIClient], keys: dict[str, list[str]], outing: Outing
) -> None:
    Capture.objects.filter(species="bur").update(species="yep")
    Fish.objects.filter(species="bur").update(species="yep")
    deck = client_as("viewer").get(f"/api/v1/outings/{outing.pk}/deck").json()
    assert NAME in [site["name"] for site in deck["sites"]]
    assert Water.objects.count() == 1
