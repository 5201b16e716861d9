"""Undo is the exact inverse: random sequences of what a crew does, each step taken back again, against the whole record."""

from __future__ import annotations

import random
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.db import models
from django.utils import timezone
from rest_framework.test import APIClient

from bench.size import some
from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Event, Outing, Photo, Release, Run, WaterReading
from nailwright.programmes.models import Programme
from nailwright.tags.models import Encounter, Placement, Scan, Tag, TagState
from server.tests.conftest import operation
from server.tests.deck.test_photos import picture

Send = Callable[..., Any]
Step = tuple[dict[str, Any], dict[str, Any] | None]
pytestmark = pytest.mark.django_db
NUMBERS = [f"W100{n}" for n in range(6)]
#: Of these every present row with every field counts, but for what the server itself writes beside them.
TABLES: tuple[type[models.Model], ...] = (
    Capture,
    Event,
    Photo,
    Release,
    Run,
    WaterReading,
    Placement,
    Scan,
    Tag,
    Encounter,
    Outing,
)
BESIDE = {"server_time", "id", "deleted_at"}


def record() -> dict[str, list[tuple[Any, ...]]]:
    """Everything that is in the record, as plain values."""
    found = {}
    for model in TABLES:
        rows: Any = model._default_manager.all()
        names = [field.attname for field in model._meta.concrete_fields]
        if "deleted_at" in names:
            rows = rows.filter(deleted_at=None)
        # an encounter, a scan and a change of a release are made anew: what they say counts, not their keys
        kept = [
            name for name in names if name not in BESIDE or (name == "id" and model not in (Encounter, Scan, Release))
        ]
        if model is Release:
            kept.remove("device_time")
        found[model.__name__] = sorted((tuple(each) for each in rows.values_list(*kept)), key=repr)
    return found


class Crew:
    """Thinks of something to do, and of how to take it back."""

    def __init__(self, seed: int, outing: Outing, run: Run) -> None:
        self.random, self.outing, self.run = random.Random(seed), outing, run
        self.at = timezone.now() - timedelta(hours=1)

    def entry(self, kind: str, /, **row: Any) -> dict[str, Any]:
        self.at += timedelta(seconds=1)
        return {**operation(kind, **row), "device_time": self.at.isoformat()}

    def step(self) -> Step | None:
        """What is done, and its undo; None where that has nothing to work on just now."""
        kinds = (self.call, self.edit, self.rescan, self.take_out, self.place, self.spoil, self.leave, self.say, self.unsay, self.resay,
                 self.photo, self.water, self.volts, self.end)  # fmt: skip
        return self.random.choice(kinds)()

    def fish(self, **where: Any) -> Capture | None:
        found = list(Capture.present.filter(**where).order_by("id"))
        return self.random.choice(found) if found else None

    def reading(self) -> dict[str, Any]:
        if self.random.random() < 0.4:
            return {"scanned": "none"}
        numbers = self.random.sample(NUMBERS, self.random.choice((1, 1, 2)))
        return {"scanned": "number", "scans": [{"kind": "tbar", "number": number} for number in numbers]}

    def call(self) -> Step:
        mm = self.random.randint(250, 600)
        made = self.entry(
            "capture.record", run=str(self.run.pk), species="wal", length=str(mm), length_unit="mm", **self.reading()
        )
        return made, self.entry("capture.delete", capture=made["id"])

    def edit(self) -> Step | None:
        if not (fish := self.fish()):
            return None
        field, value = self.random.choice(
            (("length", str(self.random.randint(250, 600))), ("note", "scar"), ("sex", "f"), ("mass", "900"))
        )
        was = {"length": fish.length_text, "note": fish.note, "sex": fish.sex, "mass": fish.mass_text}[field]
        unit = {"length": {"length_unit": fish.length_unit}, "mass": {"mass_unit": fish.mass_unit}}.get(field, {})
        do = self.entry("capture.edit", capture=str(fish.pk), **{field: value})
        return do, self.entry("capture.edit", capture=str(fish.pk), **{field: was}, **unit)

    def rescan(self) -> Step | None:
        if not (fish := self.fish()):
            return None
        read = [{"kind": each.kind, "number": each.number} for each in Scan.present.filter(source_id=fish.pk)]
        was = {"scanned": "number", "scans": read} if read else {"scanned": "none"}
        return self.entry("capture.edit", capture=str(fish.pk), **self.reading()), self.entry(
            "capture.edit", capture=str(fish.pk), **was
        )

    def take_out(self) -> Step | None:
        if not (fish := self.fish()):
            return None
        meant = self.random.choice(({}, {"meant": "never_marked"}, {"meant": "fish_keeps_mark"}))
        return self.entry("capture.delete", capture=str(fish.pk), **meant), self.entry(
            "capture.restore", capture=str(fish.pk)
        )

    def place(self) -> Step | None:
        if not (fish := self.fish(scanned="none")):
            return None
        return self.entry("tag.place", capture=str(fish.pk), kind="tbar", number=self.random.choice(NUMBERS)), None

    def spoil(self) -> Step:
        tag = {"outing": str(self.outing.pk), "kind": "tbar", "number": self.random.choice(NUMBERS)}
        return self.entry("tag.spoil", **tag), self.entry("tag.spoil", **tag, spoiled=False)

    def leave(self) -> Step | None:
        if not (fish := self.fish()):
            return None
        was = Release.present.filter(capture=fish).first()
        back = {"fate": was.fate, "strength": was.strength} if was else {"fate": None}
        fate = self.random.choice(("released", "dead", "kept"))
        return self.entry("release.set", captures=[str(fish.pk)], fate=fate), self.entry(
            "release.set", captures=[str(fish.pk)], **back
        )

    def say(self) -> Step | None:
        if not (fish := self.fish()):
            return None
        lane = self.random.choice(("bath", "table", "recovery"))
        made = self.entry("event.record", capture=str(fish.pk), what="lane", details={"lane": lane})
        return made, self.entry("event.edit", event=made["id"], deleted=True)

    def unsay(self) -> Step | None:
        if not (event := self._event()):
            return None
        return self.entry("event.edit", event=str(event.pk), deleted=True), self.entry(
            "event.edit", event=str(event.pk), deleted=False
        )

    def resay(self) -> Step | None:
        if not (event := self._event()):
            return None
        return self.entry("event.edit", event=str(event.pk), details={"lane": "table"}), self.entry(
            "event.edit", event=str(event.pk), details=event.details
        )

    def _event(self) -> Event | None:
        found = list(Event.present.filter(capture__deleted_at=None).exclude(capture=None).order_by("id"))
        return self.random.choice(found) if found else None

    def photo(self) -> Step:
        made = self.entry("photo.add", outing=str(self.outing.pk), shows="place", jpeg=PICTURE)
        return made, self.entry("photo.edit", photo=made["id"], deleted=True)

    def water(self) -> Step:
        made = self.entry("water.record", outing=str(self.outing.pk), temperature_c=self.random.randint(1, 20))
        return made, self.entry("water.edit", reading=made["id"], deleted=True)

    def volts(self) -> Step:
        run = Run.objects.get(pk=self.run.pk)
        return self.entry("run.edit", run=str(run.pk), volts=self.random.randint(100, 400)), self.entry(
            "run.edit", run=str(run.pk), volts=run.volts
        )

    def end(self) -> Step:
        run = Run.objects.get(pk=self.run.pk)
        ended: datetime | None = run.ended_at
        return self.entry("run.edit", run=str(run.pk), ended_at=self.at.isoformat()), self.entry(
            "run.edit", run=str(run.pk), ended_at=ended.isoformat() if ended else None
        )


PICTURE = picture()


@pytest.fixture
def stock(programme: Programme) -> None:
    for place, number in enumerate(NUMBERS):
        state = TagState.ISSUED if place % 2 else TagState.STOCK
        Tag.objects.create(programme=programme, kind="tbar", number=number, state=state)


@pytest.mark.parametrize("seed", some(range(12), 4))
def test_every_step_is_taken_back_exactly(seed: int, stock: None, sync: Send, outing: Outing, run: Run) -> None:
    """Forwards a step at a time; a step that is stored is undone, done again, and at the end all are undone in turn."""
    Run.objects.update(volts=220)  # a figure of the current can be changed, not emptied
    crew = Crew(seed, outing, run)
    done: list[tuple[Step, dict[str, Any]]] = []
    for _ in range(60):
        before = record()
        step = crew.step()
        if step is None:
            continue
        do, undo = step
        (answer,) = sync(do).data["results"]
        assert answer["state"] in ("stored", "already", "refused"), answer
        if answer["state"] != "stored":
            assert record() == before, f"{do['kind']} was {answer['state']} and changed something"
            continue
        assert rebuild_encounters() == 0
        if undo is None:
            done.clear()  # nothing before it can be compared any more
            continue
        done.append((step, before))
        if crew.random.random() < 0.4:
            take_back(sync, *done.pop(), crew)
    for step, before in reversed(done):
        take_back(sync, step, before, crew)


def take_back(sync: Send, step: Step, before: dict[str, Any], crew: Crew) -> None:
    do, undo = step
    assert undo is not None
    crew.at += timedelta(seconds=1)
    (answer,) = sync({**undo, "device_time": crew.at.isoformat()}).data["results"]
    assert answer["state"] == "stored" or record() == before, (do, answer)
    now = record()
    for table, rows in before.items():
        assert now[table] == rows, f"{table} after the undo of {do}"
    assert rebuild_encounters() == 0


def test_never_marked_and_back_knows_the_recapture_again(
    stock: None, sync: Send, called: Callable[..., dict[str, Any]], client_as: Callable[[str], APIClient]
) -> None:
    """The scenario that broke it, from the desk and with the outing closed."""
    first = called(scanned="none")
    second = called(scanned="number", scans=[{"kind": "tbar", "number": "W1001"}])
    sync(first, operation("tag.place", capture=first["id"], kind="tbar", number="W1001"), second)
    before = record()
    Outing.objects.update(state="closed")
    lead = client_as("lead")
    for meant in ("never_marked", "fish_keeps_mark"):
        for deleted in (True, False):
            body = {"id": str(new_id()), "deleted": deleted, "reason": "looked again", "meant": meant}
            assert lead.post(f"/api/v1/captures/{first['id']}/deleted", body, format="json").status_code == 200
    now = record()
    assert {name: rows for name, rows in now.items() if name != "Outing"} == {
        name: rows for name, rows in before.items() if name != "Outing"
    }
    assert Placement.present.get().capture_id == Capture.objects.get(pk=first["id"]).pk


def test_a_tag_that_went_elsewhere_meanwhile_is_not_put_back(
    stock: None, sync: Send, called: Callable[..., dict[str, Any]]
) -> None:
    fish = called(scanned="none")
    sync(fish, operation("tag.place", capture=fish["id"], kind="tbar", number="W1001"))
    sync(operation("capture.delete", capture=fish["id"]))
    tag = Tag.objects.get(number="W1001")
    assert tag.state == TagState.ISSUED
    Tag.objects.update(state=TagState.LOST)
    refused = sync(operation("capture.restore", capture=fish["id"]))
    assert refused.data["code"] == "tag_state" and Capture.present.count() == 0
