"""Opening, closing and reading outings."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from django_tasks_db.models import DBTaskResult
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Release, Run
from nailwright.deck.tasks import group_lengths
from nailwright.programmes.models import Change, Programme
from nailwright.waters.models import Site, Water


def opened(site: Site, **change: Any) -> dict[str, Any]:
    return {
        "id": str(new_id()),
        "water": str(site.water_id),
        "date": "2026-10-13",
        "gear": "boat_electrofishing",
        **change,
    }


def test_an_outing_is_opened_once(crew: APIClient, programme: Programme, site: Site) -> None:
    body = opened(site, length_unit="in")
    address = f"/api/v1/programmes/{programme.pk}/outings"
    first = crew.post(address, body, format="json")
    assert first.status_code == 201
    assert (first.data["name"], first.data["length_unit"], first.data["state"]) == (
        "Ketterwick River, boat electrofishing",
        "in",
        "open",
    )
    assert crew.post(address, body, format="json").data["id"] == first.data["id"]
    assert Outing.objects.count() == 1


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"water": str(new_id())}, "water"),
        ({"date": "13.10.2026"}, "date"),
        ({"gear": "net"}, "gear"),
        ({"id": "1"}, "id"),
        ({"length_unit": "ell"}, "length_unit"),
    ],
)
def test_an_outing_that_cannot_be_is_refused(
    crew: APIClient, programme: Programme, site: Site, change: dict[str, Any], field: str
) -> None:
    response = crew.post(f"/api/v1/programmes/{programme.pk}/outings", opened(site, **change), format="json")
    assert (response.status_code, response.data["field"]) == (422, field)


def test_a_water_of_another_programme_is_refused(crew: APIClient, programme: Programme, site: Site) -> None:
    other = Water.objects.create(programme=Programme.objects.create(name="Other"), name="Elsewhere", kind="lake")
    response = crew.post(f"/api/v1/programmes/{programme.pk}/outings", opened(site, water=str(other.pk)), format="json")
    assert response.data["code"] == "water_unknown"


def test_closing_waits_for_the_run_to_end(client_as: Callable[[str], APIClient], run: Run, outing: Outing) -> None:
    lead, address = client_as("lead"), f"/api/v1/outings/{outing.pk}/state"
    refused = lead.post(address, {"id": str(new_id()), "state": "closed"}, format="json")
    assert (refused.status_code, refused.data["code"]) == (422, "run_still_going")
    Run.objects.update(ended_at=run.started_at)
    fish = Capture.objects.create(programme=outing.programme, run=run, species="wal", recorder=run.recorder)
    aboard = lead.post(address, {"id": str(new_id()), "state": "closed"}, format="json")
    assert aboard.data["code"] == "fish_aboard" and aboard.data["message"].startswith("1 fish came aboard")
    Release.objects.create(capture=fish, fate=Release.Fate.RELEASED, recorder=run.recorder)
    change = {"id": str(new_id()), "state": "closed"}
    assert lead.post(address, change, format="json").data["state"] == "closed"
    assert (
        lead.post(address, {"id": str(new_id()), "state": "open", "reason": "a fish forgotten"}, format="json").data[
            "state"
        ]
        == "open"
    )
    # the first change again, late: it has been done, and is not done twice
    assert lead.post(address, change, format="json").data["state"] == "open"
    assert [each.reason for each in Change.objects.order_by("server_time")] == ["", "a fish forgotten"]


def test_the_deck_brings_all_it_needs_with_no_signal(crew: APIClient, run: Run, outing: Outing) -> None:
    Capture.objects.create(
        programme=outing.programme,
        run=run,
        species="wal",
        length_mm=463,
        length_type="TL",
        length_basis="measured",
        recorder=run.recorder,
    )
    deck = crew.get(f"/api/v1/outings/{outing.pk}/deck").data
    assert [each["code"] for each in deck["species"]] == ["wal", "yep", "bur", "other"]
    walleye = deck["species"][0]
    table = walleye["mass_table"]
    assert len(table["length_mm"]) == len(table["low_g"]) > 300 and not walleye["line_is_own"]
    assert deck["units"]["length"]["factors"]["in"] == 25.4
    assert [each["id"] for each in deck["captures"]] == [str(Capture.objects.get().pk)]
    assert deck["sites"][0]["name"] == "K15" and deck["runs"][0]["number"] == 1


def test_last_visits_lengths_lie_behind_the_board(crew: APIClient, run: Run, outing: Outing, site: Site) -> None:
    Capture.objects.create(
        programme=outing.programme,
        run=run,
        species="wal",
        length_mm=412,
        length_type="TL",
        length_basis="measured",
        recorder=run.recorder,
    )
    fish = Capture.objects.get()
    fish.pk, fish.length_type, fish.length_mm = new_id(), "FL", 390
    fish.save(force_insert=True)  # a fork length is no length for a board of total lengths
    later = Outing.objects.create(
        programme=outing.programme, water=site.water, name="Later", date="2026-11-01", gear=outing.gear
    )
    deck = crew.get(f"/api/v1/outings/{later.pk}/deck").data
    assert deck["species"][0]["last_visit_mm"] == [412]


def test_groups_of_the_last_visit_stand_on_the_board(crew: APIClient, run: Run, outing: Outing, site: Site) -> None:
    """Two groups made of known means, 40 fish each; they are found when the next outing is opened, and again where a fish changed."""
    rng = np.random.default_rng(4)
    lengths = [*rng.normal(200, 12, 40), *rng.normal(330, 18, 40)]
    fish = {
        "programme": outing.programme,
        "run": run,
        "species": "wal",
        "length_type": "TL",
        "length_basis": "measured",
    }
    rows = [Capture(id=new_id(), length_mm=round(mm), recorder=run.recorder, **fish) for mm in lengths]
    Capture.objects.bulk_create(rows)

    def groups(day: str) -> list[dict[str, Any]]:
        body = {"id": str(new_id()), "water": str(site.water_id), "date": day, "gear": outing.gear}
        opened = crew.post(f"/api/v1/programmes/{outing.programme_id}/outings", body, format="json")
        assert opened.status_code == 201, opened.data
        asked = list(DBTaskResult.objects.ready())
        for task in asked:
            group_lengths.call(*task.args_kwargs["args"])
            task.delete()
        tried.append(len(asked))
        return list(crew.get(f"/api/v1/outings/{opened.data['id']}/deck").data["species"][0]["last_visit_groups"])

    tried: list[int] = []
    short, long = groups("2026-11-01")
    assert short["mean_mm"] == pytest.approx(200, abs=6) and long["mean_mm"] == pytest.approx(330, abs=9)
    assert (short["n"], long["n"], short["apart"]) == (40, 40, True)
    assert len(groups("2026-11-01")) == 2 and tried == [1, 0]  # not found anew where nothing changed
    Capture.objects.filter(pk=rows[0].pk).update(length_mm=205)
    assert len(groups("2026-11-01")) == 2 and tried == [1, 0, 1]


def test_outings_count_fish_and_not_those_taken_out(crew: APIClient, run: Run, outing: Outing) -> None:
    for deleted in (None, run.started_at):
        Capture.objects.create(
            programme=outing.programme, run=run, species="wal", recorder=run.recorder, deleted_at=deleted
        )
    (row,) = crew.get(f"/api/v1/programmes/{outing.programme_id}/outings").data
    assert (row["n_runs"], row["n_fish"]) == (1, 1)
