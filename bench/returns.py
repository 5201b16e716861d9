"""A finder's answer while twenty tablets work, and a tag looked for by part of its number among a million."""

from __future__ import annotations

import threading
import time
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import requests
from django.utils import timezone

from bench.server import Server
from bench.size import size
from bench.timing import show
from nailwright.common.rows import new_id
from nailwright.deck.models import Outing
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.people.tokens import make_token
from nailwright.returns.models import PublicPage, PublicTry
from nailwright.tags.inventory import tags_found
from nailwright.tags.models import Tag, TagBatch, TagState

TAGS, TABLETS, REPORTS = size(1_000_000, 20_000), size(20, 3), size(60, 5)
_AT_ONCE = 10_000


def measure() -> None:
    programme = Programme.objects.get()
    _answers(programme)
    _search(programme)


def _answers(programme: Programme) -> None:
    address = PublicPage.objects.get(programme=programme).address
    placed = Tag.objects.filter(programme=programme, kind="tbar", state=TagState.PLACED).order_by("number")
    numbers = list(placed.values_list("number", flat=True)[:REPORTS])
    outing = Outing.objects.get(state=Outing.State.OPEN)
    run = str(outing.runs.get(ended_at=None).pk)
    key, _ = make_token(Person.objects.get(username="demo-lead"), "bench", "all", 1)
    server = Server(threads=32)
    server.wait()
    over = threading.Event()

    def tablet(_: int) -> None:
        """Calls a fish each second and asks what others did, as a tablet does."""
        http = requests.Session()
        http.headers["Authorization"] = f"Token {key}"
        while not over.is_set():
            row = {"run": run, "species": "wal", "length": "412", "mass": "640"}
            entry: dict[str, Any] = {
                "id": str(new_id()),
                "kind": "capture.record",
                "device_time": timezone.now().isoformat(),
                "row": row,
            }
            http.post(
                f"http://{server.address}/api/v1/programmes/{programme.pk}/sync",
                json={"operations": [entry]},
                timeout=60,
            )
            http.get(f"http://{server.address}/api/v1/outings/{outing.pk}/live", timeout=60)
            over.wait(1.0)

    def ask(number: str) -> float:
        PublicTry.objects.all().delete()  # else one sender is told twelve stories
        told: dict[str, Any] = {
            "id": str(new_id()),
            "number": number.lower(),
            "found_on": str(timezone.now().date()),
            "lat": 44.93,
            "lon": -31.5,
        }
        began = time.perf_counter()
        answer = requests.post(f"http://{server.address}/api/v1/public/pages/{address}", json=told, timeout=60)
        taken = time.perf_counter() - began
        if answer.status_code != 201 or answer.json()["story"] is None:
            raise SystemExit(f"{number} was not answered: {answer.status_code} {answer.text[:200]}")
        return taken

    try:
        alone = sorted(ask(number) for number in numbers)
        with ThreadPoolExecutor(TABLETS) as pool:
            work = [pool.submit(tablet, each) for each in range(TABLETS)]
            time.sleep(2)
            beside = sorted(ask(number) for number in numbers)
            over.set()
            for each in work:
                each.result()
    finally:
        over.set()
        server.stop()
    show("a finder's answer, nobody else there (p95)", f"{1000 * _p95(alone):,.0f} ms", "goal 1,000 ms")
    show(f"  beside {TABLETS} tablets at work (p95)", f"{1000 * _p95(beside):,.0f} ms", "goal 1,000 ms")


def _search(programme: Programme) -> None:
    batch = TagBatch.objects.create(programme=programme, kind="tbar", name="Bench")
    for start in range(0, TAGS, _AT_ONCE):
        rows = [
            Tag(programme=programme, kind="tbar", number=f"B{n:07d}", batch=batch)
            for n in range(start, start + _AT_ONCE)
        ]
        Tag.objects.bulk_create(rows, batch_size=_AT_ONCE)
    for what, parts in (
        ("by part", [f"{n:04d}" for n in range(1200, 1230)]),
        ("by what is left of a worn legend", [f"B0?{n:03d}?1" for n in range(120, 150)]),
    ):
        taken = []
        for part in parts:
            began = time.perf_counter()
            tags_found(programme, part)
            taken.append(time.perf_counter() - began)
        show(f"a tag among {TAGS:,} {what} (p95)", f"{1000 * _p95(sorted(taken)):,.0f} ms")


def _p95(ordered: list[float]) -> float:
    return ordered[min(len(ordered) - 1, int(0.95 * len(ordered)))]
