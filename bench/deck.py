"""A deck of 12,000 fish, and of as many that are known by a mark: how long it takes and how much goes over the air."""

from __future__ import annotations

from django.utils import timezone
from rest_framework.test import APIClient

from bench.size import size
from bench.timing import seconds, show
from nailwright.common.below_orm import insert_rows
from nailwright.common.garbage import collect_seldom
from nailwright.common.rows import new_id
from nailwright.deck.encounters import renew_encounters
from nailwright.deck.models import Capture, Outing, Run
from nailwright.programmes.models import Person
from nailwright.tags.models import Fish, Placement, Tag

FISH = size(12_000, 300)


def measure() -> None:
    collect_seldom()  # as the server does
    person = Person.objects.get(username="demo-crew")
    open_now = Outing.objects.get(state=Outing.State.OPEN)
    now = timezone.now()
    outing = Outing.objects.create(
        programme=open_now.programme, water=open_now.water, date=now.date(), gear=open_now.gear, name="Twelve thousand"
    )
    run = Run.objects.create(
        outing=outing, site=open_now.water.sites.all()[0], number=1, gear=outing.gear, started_at=now, recorder=person
    )
    programme = {"programme_id": outing.programme_id}
    shared = programme | {"run_id": run.pk, "recorder_id": person.pk, "server_time": now, "device_time": now}
    keys = [(new_id(), new_id(), new_id()) for _ in range(FISH)]
    insert_rows(Fish, [programme | {"id": fish, "species": "wal", "server_time": now} for _, fish, _ in keys])
    insert_rows(Capture, [
        shared | {"id": capture, "fish_id": fish, "species": "wal", "length_mm": 300.0 + place % 400, "length_type": "TL",
                  "length_basis": "measured", "length_text": str(300 + place % 400), "length_unit": "mm", "sex": "u",
                  "mass_g": 250.0 + place % 900, "mass_basis": "measured", "mass_text": str(250 + place % 900), "mass_unit": "g"}
        for place, (capture, fish, _) in enumerate(keys)
    ])  # fmt: skip
    client = APIClient(HTTP_ACCEPT_ENCODING="gzip")
    client.force_authenticate(person)

    def show_deck(what: str) -> None:
        address = f"/api/v1/outings/{outing.pk}/deck"
        told = client.get(address)
        assert told.status_code == 200
        taken = seconds(lambda: client.get(address), 5)
        show(
            f"deck of {FISH:,} fish, {what}", f"{taken * 1000:,.0f} ms", f"{len(told.content) / 1e6:.2f} MB on the way"
        )

    show_deck("none marked")
    insert_rows(Tag, [
        programme | {"id": tag, "kind": "pit", "number": f"9990001{place:08d}", "state": "placed"}
        for place, (_, _, tag) in enumerate(keys)
    ])  # fmt: skip
    insert_rows(Placement, [
        {"id": new_id(), "tag_id": tag, "fish_id": fish, "capture_id": capture, "living_tag": tag, "tag_before": "stock",
         "recorder_id": person.pk, "server_time": now, "device_time": now}
        for capture, fish, tag in keys
    ])  # fmt: skip
    renew_encounters([capture for capture, _, _ in keys])
    show_deck("each marked")
    address = f"/api/v1/programmes/{outing.programme_id}/today"
    show("today with it", f"{seconds(lambda: client.get(address), 5) * 1000:,.0f} ms")
    Outing.objects.filter(pk=outing.pk).update(state=Outing.State.CLOSED)  # the parts after this one look for tonight's
