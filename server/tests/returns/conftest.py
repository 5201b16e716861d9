"""A tagged fish that swims, a page on which it can be reported, and words of a report."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Run
from nailwright.programmes.models import Programme
from nailwright.returns.models import PublicPage
from nailwright.tags.models import Tag, TagBatch
from server.tests.conftest import operation

TAGGED = timezone.now().date()
Send = Callable[..., Any]
PAGE = "/api/v1/public/pages/tarn"


@pytest.fixture
def page(programme: Programme) -> PublicPage:
    return PublicPage.objects.create(programme=programme, address="tarn", open=True, telephone="+00 555 0100")


@pytest.fixture
def stock(programme: Programme) -> TagBatch:
    batch = TagBatch.objects.create(programme=programme, kind="tbar", name="Yellow")
    Tag.objects.bulk_create(
        [Tag(programme=programme, kind="tbar", number=f"W12{n:02d}", batch=batch) for n in range(20)]
    )
    return batch


@pytest.fixture
def tagged(sync: Send, called: Send, run: Run, stock: TagBatch) -> Capture:
    """A walleye of 463 mm that carries W1207, tagged at a site with a place and let go."""
    run.site.geometry = {"type": "Point", "coordinates": [-31.6, 44.9]}
    run.site.save()
    fish = called(scanned="none")
    key = fish["id"]
    placed = operation("tag.place", capture=key, kind="tbar", number="W1207")
    gone = operation("release.set", captures=[key], fate="released")
    answer = sync(fish, placed, gone)
    assert {each["state"] for each in answer.data["results"]} == {"stored"}, answer.data
    return Capture.objects.get(pk=key)


def report(**told: Any) -> dict[str, Any]:
    return {"id": str(new_id()), "number": "W1207", "species": "wal", "found_on": str(later(0)), **told}


def later(days: int) -> date:
    return TAGGED + timedelta(days=days)


@pytest.fixture
def finder() -> APIClient:
    """Somebody without an account."""
    return APIClient()


@pytest.fixture
def send(finder: APIClient, page: PublicPage) -> Send:
    def post(client: APIClient = finder, /, address: str = "198.51.100.7", **told: Any) -> Any:
        return client.post(PAGE, report(**told), format="json", REMOTE_ADDR=address)

    return post


@pytest.fixture
def contact() -> dict[str, Any]:
    return {"name": "Orla Venn", "email": "orla@example.org", "consent": True}
