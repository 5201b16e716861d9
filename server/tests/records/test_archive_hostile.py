"""An archive taken while others write, and archives whose JSON somebody has altered."""

from __future__ import annotations

import csv
import io
import json
import random
import threading
import zipfile
from collections.abc import Callable, Iterator
from typing import Any
from zlib import crc32

import pytest
from django.db import connection, models
from rest_framework.test import APIClient

from bench.size import THOROUGH
from nailwright.common.rows import new_id
from nailwright.common.shaped_json import ShapedJSON
from nailwright.deck.models import Capture, Event, Handover, Outing, Run, Signature, TrackPart, WaterReading
from nailwright.findings.long_selections import keep_selection
from nailwright.findings.models import LongSelection
from nailwright.findings.saved import save_finding
from nailwright.permits.models import Permit
from nailwright.plan.models import Rehearsing, Survey
from nailwright.programmes.models import Change, Membership, Person, Programme, ProgrammeSpecies
from nailwright.programmes.protocols import standing_version
from nailwright.programmes.record.removal import delete_programme
from nailwright.records.archive.tables import LEFT_OUT, all_models, tables
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.conftest import operation
from server.tests.programmes.test_no_leak import QUERIES, content_of, routes
from server.tests.records.test_archive import brought, taken

SHAPED = [
    (model, field)
    for model in sorted(all_models(), key=lambda each: each._meta.label)
    for field in model._meta.concrete_fields
    if isinstance(field, models.JSONField)
]


def test_every_json_column_has_a_shape() -> None:
    plain = [f"{model._meta.label}.{field.name}" for model, field in SHAPED if not isinstance(field, ShapedJSON)]
    assert not plain and len(SHAPED) > 25


@pytest.mark.parametrize(
    ("model", "field"), SHAPED, ids=lambda each: getattr(each, "name", None) or each._meta.model_name
)
def test_no_column_takes_what_is_nested_without_end(model: Any, field: ShapedJSON) -> None:
    deep: Any = "x"
    for _ in range(3000):
        deep = [deep]
    with pytest.raises(Exception, match=r".") as refused:
        field.check_shape({"a": deep, "type": deep, "parts": deep} if field.name != "x" else deep)
        field.check_shape(deep)
    assert getattr(refused.value, "code", "") == "shape_unreadable"


@pytest.fixture
def full(programme: Programme, outing: Outing, run: Run, person_as: Callable[[str], Person]) -> Programme:
    """A programme with something in every JSON column that goes out."""
    lead = person_as("lead")
    water = outing.water
    water.geometry = {"type": "LineString", "coordinates": [[-31.7, 44.8], [-31.6, 44.9], [-31.4, 44.98]]}
    water.save()
    site = run.site
    site.geometry = {"type": "Point", "coordinates": [-31.6, 44.9]}
    site.save()
    own = species_values(species.get("wal"))
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=own)
    standing_version(programme)
    Run.objects.update(ended_at=run.started_at, current_on_s=600, volts=200)
    days = {"first": "2026-05-01", "last": "2026-06-01"}
    survey = Survey.objects.create(
        programme=programme, water=water, person=lead, name="Spring", question="marks", species=["wal"], gear=run.gear, more_gears=["seine"],
        parts={"layout": {"from_km": 0, "gap_m": 800.0}, "targets": [{"species": "wal", "what": "measured", "wanted": 3, "from_mm": None}],
               "crew": ["Ada"]}, **days,
    )  # fmt: skip
    survey.outings.add(outing)
    designs = [{"design": {"n": 4.0}, "truth": 4.0, "bias": 0.1, "median": 4.0, "low": 1.0, "high": 9.0, "coverage": 0.9,
                "coverage_low": 0.8, "coverage_high": 0.95, "useless": 0.0, "within": 0.4, "cost": 3.0, "counts": [1], "edges": [0.0, 1.0]}]  # fmt: skip
    Rehearsing.objects.create(
        survey=survey, person=lead, kind="marks", design={"n": 4}, values=[1.0, 2.0], replicates=100, seed=1, estimate=[0.1],
        result={"sentence": "x", "designs": designs},
    )  # fmt: skip
    Permit.objects.create(programme=programme, kind="permit", name="Collecting", gears=["angling"], **days)
    Outing.objects.update(
        orders={"survey": "Spring", "lines": ["Lengths to 1 mm."], "electro": None, "well": None, "mark_from_mm": None,
                "enough": {"psd_half": 8, "cv": 0.2}}, more_gears=["angling"], checklists=["boat"],
    )  # fmt: skip
    for mm in (310, 410, 480, 300, 400, 463):
        fish = Capture.objects.create(
            programme=programme, run=run, species="wal", length_mm=mm, length_type="TL", length_basis="measured", mass_g=(mm / 50) ** 3,
            mass_basis="measured", recorder=lead, questions=[{"code": "mass_low", "answer": "kept"}],
        )  # fmt: skip
    Event.objects.create(outing=outing, run=run, capture=fish, kind="lane", details={"lane": "bath"}, recorder=lead)
    Event.objects.create(outing=outing, run=run, kind="power", details={"volts": 200.0, "amps": 9.0}, recorder=lead)
    Event.objects.create(outing=outing, run=run, kind="anglers", details={"names": "Ada"}, recorder=lead)
    WaterReading.objects.create(outing=outing, temperature_c=9, more={"turbidity_ntu": 4}, recorder=lead)
    TrackPart.objects.create(run=run, fixes=[[1.7e9, 44.9, -31.6], [1.7e9 + 9, 44.91, -31.6]], recorder=lead)
    Handover.objects.create(outing=outing, name="Ada", lines=["1 run has not ended."], person=lead)
    Signature.objects.create(
        outing=outing, checklist="boat", version=1, lines=["x"], name="Ada", person=lead, at=run.started_at
    )
    Change.objects.create(
        programme=programme, table="capture", row=fish.pk, person=lead, before={"note": "", "with_it": []}, after={"note": "scar"},
        late={"sex": "f"},
    )  # fmt: skip
    save_finding(lead, programme, new_id(), "size", {"species": "wal"}, "")
    keep_selection(programme, {"species": "wal"})
    return programme


#: What somebody with a spreadsheet and a text editor, or with malice, puts in place of a value.
WRONG = ("5", '"x"', "[]", "{}", "[5]", "[[[]]]", '{"a": {"b": [1]}}', '[{"a": 1}]', "true", "[null]", '{"type": "Point", "coordinates": ["x", 1]}')  # fmt: skip


def columns() -> list[tuple[str, str]]:
    """Tables and columns of an archive that hold JSON."""
    inside = [each for each in tables() if each.model._meta.label not in LEFT_OUT]
    return [
        (each.name, field.attname) for each in inside for field in each.fields if isinstance(field, models.JSONField)
    ]


def altered(text: str, column: str, value: str | Callable[[Any], Any]) -> str:
    rows = list(csv.reader(io.StringIO(text, newline="")))
    at = rows[0].index(column)
    filled = [row for row in rows[1:] if row[at] not in ("", "[]", "{}")]
    assert filled, f"nothing stands in {column}"
    for row in filled:
        row[at] = value if isinstance(value, str) else json.dumps(value(json.loads(row[at])))
    sink = io.StringIO(newline="")
    csv.writer(sink).writerows(rows)
    return sink.getvalue()


def rewritten(content: bytes, name: str, column: str, value: str | Callable[[Any], Any]) -> bytes:
    sink = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as before, zipfile.ZipFile(sink, "w") as after:
        for piece in before.namelist():
            text = before.read(piece).decode()
            after.writestr(piece, altered(text, column, value) if piece == f"{name}.csv" else text)
    return sink.getvalue()


def leaves(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Paths to everything within a value."""
    if path:
        yield path
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, each in items:
        yield from leaves(each, (*path, key))


def with_at(value: Any, path: tuple[Any, ...], new: Any) -> Any:
    if not path:
        return new
    copy = list(value) if isinstance(value, list) else dict(value)
    copy[path[0]] = with_at(value[path[0]], path[1:], new)
    return copy


def read_all(client: APIClient, programme: Programme) -> None:
    """Everything that reads the record; none of it may fall over."""
    outing, survey = programme.outings.get(), programme.surveys.get()
    fish = Capture.objects.filter(programme=programme)[0]
    filled = {"programme_id": programme.pk, "outing_id": outing.pk, "survey_id": survey.pk, "water_id": outing.water_id,
              "capture_id": fish.pk, "key": LongSelection.objects.get(programme=programme).key, "code": "wal"}  # fmt: skip
    for route in routes():
        path = f"/{route}"
        for name, value in filled.items():
            for kind in ("uuid:", "slug:", "str:", ""):
                path = path.replace(f"<{kind}{name}>", str(value))
        if "<" in path or "archive.zip" in path:
            continue
        query = next((queries[0] for end, queries in QUERIES.items() if route.endswith(end)), "")
        response = client.get(f"{path}?{query}" if "{" not in query else path)
        content_of(response)
        assert response.status_code < 500, path


@pytest.mark.django_db
@pytest.mark.parametrize(("name", "column"), columns(), ids=lambda each: each)
def test_altered_json_is_refused_in_words_or_does_no_harm(
    name: str, column: str, full: Programme, client_as: Callable[[str], APIClient]
) -> None:
    """The whole column in another form, and each place within it: never a 500, at once or later."""
    lead = APIClient()
    lead.force_authenticate(Person.objects.get(name="Lead"))
    lead.raise_request_exception = True
    content = taken(lead, full)
    rows = list(
        csv.DictReader(io.StringIO(zipfile.ZipFile(io.BytesIO(content)).read(f"{name}.csv").decode(), newline=""))
    )
    inside = [json.loads(row[column]) for row in rows if row[column] not in ("", "[]", "{}")]
    changes: list[str | Callable[[Any], Any]] = list(WRONG)
    paths = sorted({path for value in inside[:1] for path in leaves(value)}, key=repr)[
        :: max(1, len(list(leaves(inside[0]))) // 12)
    ]
    for path in paths:
        for wrong in (None, "x", {}, 1e300):
            changes.append(
                lambda value, path=path, wrong=wrong: (
                    with_at(value, path, wrong) if path in set(leaves(value)) else value
                )
            )
    # a few of them, always the same: a figure where no column holds one, which is refused, and of every third column one of the others,
    # since what is taken is read again by every address
    others = 60 if THOROUGH else int(crc32(f"{name} {column}".encode()) % 3 == 0)
    chosen = [WRONG[0], *random.Random(f"{name} {column}").sample(changes, min(len(changes), others))]
    key = full.pk
    delete_programme(full)
    own = Programme.objects.create(name="Own")
    Membership.objects.create(programme=own, person=Person.objects.get(name="Lead"), role="lead")
    refused = 0
    for change in chosen:
        answer = brought(lead, rewritten(content, name, column, change))
        assert answer.status_code in (201, 422), answer.data
        if answer.status_code == 422:
            refused += 1
            assert answer.data["code"] == "archive_unreadable" and f"{name}.csv, line" in answer.data["message"]
            assert not Programme.objects.filter(pk=key).exists()
            continue
        here = Programme.objects.get(pk=key)
        read_all(lead, here)
        delete_programme(here)
    assert refused >= 1


@pytest.mark.django_db(transaction=True)
def test_an_archive_taken_while_three_write_is_of_one_moment_and_comes_in_as_it_went_out(
    programme: Programme, run: Run, person_as: Callable[[str], Person]
) -> None:
    """Three tablets send fish, releases and corrections as it is made; every key in it leads to a row of it."""
    lead_person = person_as("lead")
    lead = APIClient()
    lead.force_authenticate(lead_person)
    crew = [person_as("crew") for _ in range(3)]
    stop, sent = threading.Event(), [0, 0, 0]
    failures: list[Any] = []

    def write(place: int) -> None:
        client = APIClient()
        client.force_authenticate(crew[place])
        try:
            while not stop.is_set():
                fish = [
                    operation("capture.record", run=str(run.pk), species="wal", length=str(300 + n)) for n in range(5)
                ]
                more = [
                    operation("release.set", captures=[each["id"] for each in fish], fate="released"),
                    operation("event.record", captures=[fish[0]["id"]], what="lane", details={"lane": "bath"}),
                    operation("capture.edit", capture=fish[1]["id"], note="scar"),
                    operation("capture.delete", capture=fish[2]["id"]),
                ]
                body = {"operations": [*fish, *more]}
                answer = client.post(f"/api/v1/programmes/{programme.pk}/sync", body, format="json")
                assert answer.status_code == 200, answer.data
                sent[place] += 1
        except Exception as failure:
            failures.append(failure)
        finally:
            connection.close()

    writers = [threading.Thread(target=write, args=(place,)) for place in range(3)]
    for each in writers:
        each.start()
    archives = []
    try:
        while min(sent) < 4 and not failures:
            pass
        for _ in range(4):
            archives.append(taken(lead, programme))
    finally:
        stop.set()
        for each in writers:
            each.join()
    assert not failures and min(sent) > 4
    counts = []
    for content in archives:
        delete_programme(Programme.objects.get(pk=programme.pk))
        own = Programme.objects.create(name="Own")
        Membership.objects.create(programme=own, person=lead_person, role="lead")
        answer = brought(lead, content)
        assert answer.status_code == 201, answer.data
        again = taken(lead, Programme.objects.get(pk=programme.pk))
        with zipfile.ZipFile(io.BytesIO(content)) as out, zipfile.ZipFile(io.BytesIO(again)) as back:
            for name in out.namelist():
                if name not in ("datapackage.json", "memberships.csv", "programmes.csv"):
                    assert out.read(name) == back.read(name), name
        # a release is of a fish, five fish are sent with five releases: of one moment they are as many
        captures = Capture.objects.filter(programme=programme).count()
        assert captures % 5 == 0
        counts.append(captures)
        own.delete()
    assert counts == sorted(counts) and counts[-1] > counts[0]
