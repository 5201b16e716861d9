"""How many fish are aboard, in the live well, and still to be called: on Today as it is on the Deck."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

from nailwright.deck.handling.aboard import Aboard, aboard_now
from nailwright.deck.models import Outing, Run
from nailwright.deck.outing.today import today_of
from server.tests.conftest import BEGAN, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


def at(minute: float, entry: dict[str, Any]) -> dict[str, Any]:
    return {**entry, "device_time": (BEGAN + timedelta(minutes=minute)).isoformat()}


def moved(fish: dict[str, Any], minute: float, lane: str) -> dict[str, Any]:
    return at(minute, operation("event.record", what="lane", capture=fish["id"], details={"lane": lane}))


def test_fish_are_counted_where_they_stand(sync: Send, called: Called, outing: Outing, run: Run) -> None:
    assert aboard_now([outing]) == {outing.pk: Aboard()}
    batch = at(1, operation("event.record", what="batch", run=str(run.pk), details={"n": 20, "mass_kg": 4}))
    assert sync(batch).status_code == 200
    assert aboard_now([outing])[outing.pk] == Aboard(0, 0, 20)
    in_well, on_table, gone = (at(minute, called()) for minute in (2, 3, 4))
    perch = at(5, called(species="yep", count=6, length=None, mass=None, sex=""))
    sync(in_well, on_table, gone, perch, moved(on_table, 4, "bath"), moved(on_table, 5, "table"))
    sync(at(6, operation("release.set", captures=[gone["id"]], fate="released")))
    assert aboard_now([outing])[outing.pk] == Aboard(8, 7, 11)
    # back into the well, though an earlier move arrives late
    back = moved(on_table, 9, "well")
    sync(back, moved(on_table, 8, "recovery"))
    assert aboard_now([outing])[outing.pk] == Aboard(8, 8, 11)
    sync(
        operation("event.edit", event=back["id"], deleted=True),
        operation("event.edit", event=batch["id"], deleted=True),
    )
    assert aboard_now([outing])[outing.pk] == Aboard(8, 7, 0)
    (today,) = today_of(outing.programme)["outings"]
    assert (today["aboard"], today["in_well"], today["to_call"]) == (8, 7, 0)
