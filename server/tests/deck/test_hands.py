"""Who called a fish and who wrote it."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Run
from server.tests.conftest import BEGAN, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


def at(minutes: float, entry: dict[str, Any]) -> dict[str, Any]:
    return {**entry, "device_time": (BEGAN + timedelta(minutes=minutes)).isoformat()}


def hands(client: APIClient, length: float) -> tuple[str, str, str]:
    fish = client.get(f"/api/v1/captures/{Capture.objects.get(length_mm=length).pk}").data
    return fish["measured_by"], fish["tagged_by"], fish["recorder"]


def test_who_called_at_the_time_of_the_call_and_who_wrote(
    sync: Send, called: Called, crew: APIClient, run: Run
) -> None:
    def on(minutes: float, **details: str) -> dict[str, Any]:
        return at(minutes, operation("event.record", what="hands_on", details=details, run=str(run.pk)))

    sync(at(1, called(length="401")), at(7, called(length="407")), at(20, called(length="420")))
    assert hands(crew, 401) == ("", "", "Crew")  # nobody was named
    # said in the wrong order, and the first word after the first fish
    sync(on(10, measurer="Bo", surgeon="Cy"), on(5, measurer="Ada"))
    assert hands(crew, 401) == hands(crew, 407) == ("Ada", "", "Crew")
    assert hands(crew, 420) == ("Bo", "Cy", "Crew")
    fish = str(Capture.objects.get(length_mm=420).pk)
    sync(at(21, operation("event.record", what="hands", details={"tagged": "Di"}, capture=fish)))
    assert hands(crew, 420) == ("Bo", "Di", "Crew")  # of the fish itself it is said last
