"""Whatever a tablet's entry holds, it is stored or refused by itself, and the good entries beside it go through all the same."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import islice
from typing import Any, TypeVar

from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Event, Photo, Run, WaterReading
from nailwright.plan.models import Unit
from nailwright.programmes.models import Programme
from server.tests.conftest import operation
from server.tests.deck.test_photos import picture
from server.tests.programmes.test_permissions import fish  # noqa: F401 - a fixture
from server.tests.test_wild_requests import must_answer, send, spoiled, wild  # noqa: F401 - a fixture among them

T = TypeVar("T")
PICTURE = picture(8, 8)


def batched(values: Iterable[T], size: int) -> Iterator[list[T]]:
    left = iter(values)
    while batch := list(islice(left, size)):
        yield batch


def test_entries_of_a_tablet(wild: APIClient, programme: Programme, run: Run, fish: Capture, unit: Unit) -> None:  # noqa: F811
    """Each kind of entry with each of its fields spoiled; the good entry beside it goes through all the same."""
    here, one = str(run.outing_id), str(fish.pk)
    reading = WaterReading.objects.create(outing=run.outing, recorder=run.recorder, temperature_c=8)
    event = Event.objects.create(
        outing=run.outing, capture=fish, kind="found", details={"what": "scar"}, recorder=run.recorder
    )
    photo = Photo.objects.create(outing=run.outing, shows="place", width=1, height=1, recorder=run.recorder)
    rows: dict[str, dict[str, Any]] = {
        "capture.record": {"run": str(run.pk), "species": "wal", "length": "463", "mass": "1085", "sex": "f", "count": 1,
                           "note": "scar", "scanned": "none", "length_unit": "mm", "questions": [], "details": "wal 463"},
        "capture.edit": {"capture": one, "length": "441", "mass": "900", "note": "x", "sex": "f", "species": "wal"},
        "capture.delete": {"capture": one, "meant": "never_marked"},
        "capture.restore": {"capture": one},
        "run.start": {"outing": here, "site": str(run.site_id), "gear": "angling", "started_at": "2026-05-02T20:00:00Z",
                      "volts": 300, "amps": 10, "rods": 2, "distance_m": 40.5, "direction": "up"},
        "run.edit": {"run": str(run.pk), "ended_at": None, "current_on_s": 600, "started_at": "2026-05-02T20:00:00Z"},
        "release.set": {"captures": [one], "fate": "released", "strength": 1, "reason": "study", "word": "fine"},
        "tag.place": {"capture": one, "kind": "pit", "number": "999000000000101", "body_site": "dorsal", "quality": "good"},
        "tag.describe": {"capture": one, "kind": "pit", "number": "999000000000101", "body_site": "dorsal", "quality": "good"},
        "photo.add": {"outing": here, "capture": one, "shows": "fish", "jpeg": PICTURE, "note": "x", "lat": 44.9, "lon": -31.5},
        "photo.edit": {"photo": str(photo.pk), "shows": "mouth", "note": "y", "deleted": False},
        "track.add": {"run": str(run.pk), "fixes": [[1780000000, 44.9, -31.5], [1780000005.5, 44.9001, -31.5]]},
        "tag.take_in": {"kind": "tbar", "number": "W2001", "batch": "Found aboard"},
        "tag.shed": {"capture": one, "kind": "pit", "number": "999000000000101", "shed": True},
        "tag.spoil": {"outing": here, "kind": "pit", "number": "999000000000101", "spoiled": True},
        "water.record": {"outing": here, "run": str(run.pk), "temperature_c": 9, "ambient_us_cm": 300, "sky": "overcast", "gates_open": 2},
        "water.edit": {"reading": str(reading.pk), "temperature_c": 9, "depth_m": 2.5, "sky": "rain", "deleted": False},
        "event.record": {"capture": one, "what": "found", "details": {"what": "scrape", "part": "belly"}},
        "event.edit": {"event": str(event.pk), "details": {"degree": "heavy"}, "at": "2026-05-02T20:00:00Z", "deleted": False},
        "unit.resistance": {"unit": str(unit.pk), "r100_ohm": 55},
        "checklist.sign": {"outing": here, "checklist": "electricity", "name": "Tove", "note": "", "signed": True},
    }  # fmt: skip
    to = f"/api/v1/programmes/{programme.pk}/sync"
    for kind, row in rows.items():
        entry = operation(kind, **row) | {"reason": "", "clock_offset_s": 0.0}
        for several in batched(spoiled(entry, str(entry["kind"])), 8):
            good = operation("water.record", outing=here, temperature_c=9)
            sent = {"operations": [*several, good], "device_now": "2026-05-02T20:00:00Z"}
            response = send(wild, "post", to, sent)
            must_answer(response, several)
            results = response.json().get("results", [])
            assert len(results) == len(several) + 1 and results[-1]["state"] == "stored", (response.json(), several)
            for spoilt, each in zip(several, results, strict=False):
                assert each["state"] != "failed" or each["error"]["code"] == "waits", spoilt
    assert Capture.objects.count() >= 6
