"""What once gave a 500 or a 503: read while it is written, a unit of the wrong kind, a number without end, a lost lock."""

from __future__ import annotations

import json
import math
import threading
from collections.abc import Callable
from typing import Any

import pytest
from django.db import OperationalError, connection
from rest_framework.test import APIClient

from nailwright.common.rendering import Json, finite
from nailwright.common.rows import new_id
from nailwright.common.spreadsheets import harmless
from nailwright.deck.models import Outing, Run
from nailwright.findings.models import SavedFinding
from nailwright.plan.models import Survey
from nailwright.programmes.models import Person, Programme
from nailwright.tags.models import Tag
from server.tests.common.test_races import at_once
from server.tests.conftest import operation


@pytest.mark.django_db(transaction=True)
def test_the_deck_is_of_one_moment_while_scanned_fish_arrive(
    programme: Programme, outing: Outing, run: Run, person_as: Callable[[str], Person]
) -> None:
    crew, reader = person_as("crew"), APIClient(raise_request_exception=False)
    reader.force_authenticate(person_as("lead"))
    sent, stop = [0], threading.Event()
    Tag.objects.bulk_create(Tag(programme=programme, kind="tbar", number=f"W{n}") for n in range(1000, 1400))

    def write() -> None:
        client = APIClient()
        client.force_authenticate(crew)
        try:
            while not stop.is_set() and sent[0] < 390:
                numbers = [f"W{1000 + sent[0] + n}" for n in range(10)]
                fish = [
                    operation("capture.record", run=str(run.pk), species="wal", length="410", scanned="none")
                    for _ in numbers
                ]
                places = [
                    operation("tag.place", capture=each["id"], kind="tbar", number=number)
                    for each, number in zip(fish, numbers, strict=True)
                ]
                again = [
                    operation("capture.record", run=str(run.pk), species="wal", scanned="number", scans=[{"kind": "tbar", "number": number}])
                    for number in numbers
                ]  # fmt: skip
                answer = client.post(
                    f"/api/v1/programmes/{programme.pk}/sync", {"operations": [*fish, *places, *again]}, format="json"
                )
                assert answer.status_code == 200, answer.data
                sent[0] += 10
        finally:
            connection.close()

    writer = threading.Thread(target=write)
    writer.start()
    try:
        reads = 0
        while writer.is_alive() or not reads:
            answer = reader.get(f"/api/v1/outings/{outing.pk}/deck")
            assert answer.status_code == 200, answer.content[:300]
            deck, reads = answer.json(), reads + 1
            fish = {each["fish"] for each in deck["captures"] if each["fish"]}
            assert fish <= {each["id"] for each in deck["marks"]["fish"]}  # whoever is known is told of
            if reads >= 6 and sent[0] >= 60:
                stop.set()
    finally:
        stop.set()
        writer.join()
    assert sent[0] >= 60 and reads >= 3


@pytest.mark.django_db
@pytest.mark.parametrize(
    "unit", ["x", "5", "01900000-0000-7000-8000-000000000009", "01900000-0000-8fff-0000-000000000001", "../../etc"]
)
def test_a_plans_unit_of_the_wrong_kind_is_said(
    unit: str,
    programme: Programme,
    outing: Outing,
    client_as: Callable[[str], APIClient],
    person_as: Callable[[str], Person],
) -> None:
    survey = Survey.objects.create(
        programme=programme, water=outing.water, person=person_as("lead"), name="Spring", question="size", species=["wal"],
        gear="boat_electrofishing", first="2026-05-01", last="2026-06-01", parts={"electro": {"unit": unit, "goal_w": 2000.0}},
    )  # fmt: skip
    lead = client_as("lead")
    answer = lead.get(f"/api/v1/surveys/{survey.pk}/settings")
    assert (answer.status_code, answer.data["code"]) == (422, "unit_missing")
    if unit == "x":  # one is enough: a sheet takes long
        assert lead.get(f"/api/v1/surveys/{survey.pk}/sheet.pdf").status_code == 200
    assert lead.get(f"/api/v1/surveys/{survey.pk}").status_code == 200


@pytest.mark.django_db
def test_a_number_that_is_not_finite_is_null(
    programme: Programme, client_as: Callable[[str], APIClient], person_as: Callable[[str], Person]
) -> None:
    result = {"sentence": "x", "upper": math.inf, "rows": [{"se": math.nan}, {"se": 1.5}]}
    SavedFinding.objects.create(
        programme=programme,
        kind="size",
        query={"species": "wal"},
        result=result,
        saved_by=person_as("lead"),
        fingerprint="x",
    )
    (kept,) = client_as("lead").get(f"/api/v1/programmes/{programme.pk}/saved-findings").json()
    assert kept["result"] == {"sentence": "x", "upper": None, "rows": [{"se": None}, {"se": 1.5}]}
    told = json.loads(Json().render({"a": (math.inf, 1), "b": {"c": -math.inf}}))
    assert told == {"a": [None, 1], "b": {"c": None}}
    assert finite([True, "x", 3]) == [True, "x", 3]


#: Where a deadlock was answered 503: the action as its address calls it, and a body.
WRITES = [
    ("nailwright.programmes.api.protocol.decide", "protocol", {"based_on": 1, "why": "half a millimetre",
     "sections": {"precision": [{"length_mm": 0.5, "mass_g": 1}]}}),
    ("nailwright.programmes.api.programme.set_species", "species", {"codes": ["wal", "yep"]}),
    ("nailwright.plan.surveys.api.plan_survey", "plan", {"name": "x", "question": "size", "species": ["wal"], "gear": "angling",
     "first": "2027-05-01", "last": "2027-06-01"}),
    ("nailwright.permits.api.add_permit", "permits", {"kind": "permit", "name": "Other", "first": "2027-05-01", "last": "2027-06-01"}),
]  # fmt: skip


@pytest.mark.django_db
@pytest.mark.parametrize(("action", "end", "body"), WRITES, ids=[each[1] for each in WRITES])
def test_what_lost_a_lock_is_tried_again(
    action: str, end: str, body: dict[str, Any], programme: Programme, outing: Outing, client_as: Callable[[str], APIClient],
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    module, name = action.rsplit(".", 1)
    real = getattr(__import__(module, fromlist=[name]), name)
    tries = []

    def loses_twice(*args: Any, **more: Any) -> Any:
        tries.append(1)
        if len(tries) <= 2:
            raise OperationalError(1213, "Deadlock found when trying to get lock; try restarting transaction")
        return real(*args, **more)

    monkeypatch.setattr(action, loses_twice)
    lead = client_as("lead")
    full = {"id": str(new_id()), **body, **({"water": str(outing.water_id)} if end == "plan" else {})}
    answer = lead.post(f"/api/v1/programmes/{programme.pk}/{end}", full, format="json")
    assert answer.status_code in (200, 201), answer.data
    assert len(tries) == 3

    def always_loses(*args: Any, **more: Any) -> Any:
        raise OperationalError(1213, "Deadlock found when trying to get lock; try restarting transaction")

    monkeypatch.setattr(action, always_loses)
    again = {**full, "id": str(new_id())}
    assert lead.post(f"/api/v1/programmes/{programme.pk}/{end}", again, format="json").data["code"] == "not_now"


@pytest.mark.django_db(transaction=True)
def test_many_change_species_protocol_and_permits_at_once(
    programme: Programme, person_as: Callable[[str], Person]
) -> None:
    lead = person_as("lead")
    to = f"/api/v1/programmes/{programme.pk}"
    permit = {"kind": "permit", "name": "Other", "first": "2027-05-01", "last": "2027-06-01"}
    for round_ in range(3):
        posts: list[tuple[str, Any]] = [
            (f"{to}/species", {"codes": ["wal", "yep"] if n % 2 else ["yep", "bur", "wal"]}) for n in range(3)
        ]
        posts += [(f"{to}/permits", {**permit, "name": f"{round_} {n}"}) for n in range(3)]
        answers = at_once(lead, posts)
        assert {each.status_code for each in answers} <= {200, 201}, [each.content[:200] for each in answers]


@pytest.mark.django_db
def test_a_lost_cookie_has_a_code_of_its_own(person_as: Callable[[str], Person]) -> None:
    client = APIClient(enforce_csrf_checks=True)
    client.force_login(person_as("crew"))
    answer = client.post("/api/v1/account", {"name": "Ada"}, format="json")
    assert (answer.status_code, answer.data["code"]) == (403, "csrf")
    assert answer.headers["Nailwright-Version"] and answer.headers["Cache-Control"] == "no-store"


@pytest.mark.parametrize("sign", ["=", "+", "-", "@", "\t", "\r", "\n", "\uff1d", "\uff0b", "\uff0d", "\uff20"])
def test_no_cell_is_run_as_a_formula_and_each_comes_back_as_it_was(sign: str) -> None:
    """Full-width signs among them, which some spreadsheets take for the plain ones."""
    cell = f"{sign}1+1"
    assert harmless(cell) == f"'{cell}" and harmless("wal 437") == "wal 437" and harmless(-3) == -3
