"""A volunteer records on outings of their own, from opening to closing, and on nobody else's; a viewer on none."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Run
from nailwright.waters.models import Site
from server.tests.conftest import operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


def states(answer: Any) -> list[tuple[str, str]]:
    return [(each["state"], (each["error"] or {}).get("code", "")) for each in answer.data["results"]]


def test_their_own_outing_from_opening_to_closing(
    sync: Send, client_as: Callable[[str], APIClient], outing: Outing
) -> None:
    volunteer = client_as("volunteer")
    key = str(new_id())
    body = {"id": key, "water": str(outing.water_id), "date": str(date(2026, 11, 17)), "gear": "angling"}
    assert volunteer.post(f"/api/v1/programmes/{outing.programme_id}/outings", body, format="json").status_code == 201
    site = str(Site.objects.filter(water=outing.water).values_list("pk", flat=True)[0])
    run = operation("run.start", outing=key, site=site, gear="angling", started_at="2026-11-17T18:00:00Z")
    fish = operation("capture.record", run=run["id"], species="wal", length="437", mass="890")
    went = operation("release.set", captures=[fish["id"]], fate="released", strength=1)
    ended = operation("run.edit", run=run["id"], ended_at="2026-11-17T19:00:00Z")
    assert states(sync(run, fish, went, ended, client=volunteer)) == [("stored", "")] * 4
    closed = volunteer.post(f"/api/v1/outings/{key}/state", {"id": str(new_id()), "state": "closed", "name": "Vera Oak"}, format="json")  # fmt: skip
    assert closed.status_code == 200, closed.data
    assert Outing.objects.get(pk=key).opened_by.username != ""
    assert Capture.objects.get().recorder == Outing.objects.get(pk=key).opened_by


def test_on_nobody_elses(
    sync: Send, called: Called, client_as: Callable[[str], APIClient], outing: Outing, run: Run
) -> None:
    volunteer = client_as("volunteer")
    theirs = called()
    assert states(sync(theirs)) == [("stored", "")]
    refused = ("refused", "role_may_not")
    entries = (
        called(),
        operation("capture.edit", capture=theirs["id"], length="440"),
        operation("capture.delete", capture=theirs["id"]),
        operation("release.set", captures=[theirs["id"]], fate="dead"),
        operation("event.record", what="found", capture=theirs["id"], details={"what": "scrape"}),
        operation("run.edit", run=str(run.pk), rods=2),
        operation("checklist.sign", outing=str(outing.pk), checklist="boat", name="Vera Oak"),
        operation("water.record", outing=str(outing.pk), temperature_c=9),
    )
    for entry in entries:
        assert states(sync(entry, client=volunteer)) == [refused], entry
    closed = volunteer.post(
        f"/api/v1/outings/{outing.pk}/state", {"id": str(new_id()), "state": "closed"}, format="json"
    )
    assert (closed.status_code, closed.data["code"]) == (403, "role_may_not")
    assert Capture.objects.get().length_mm == 463 and not outing.signatures.exists()
    stock = operation("tag.take_in", kind="pit", number="999000000000701")
    assert states(sync(stock, client=volunteer)) == [("refused", "role_may_not")]


def test_a_viewer_records_nowhere(sync: Send, called: Called, client_as: Callable[[str], APIClient]) -> None:
    assert states(sync(called(), client=client_as("viewer"))) == [("refused", "role_may_not")]
