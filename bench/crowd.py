"""A tablet's sync beside fifty people who read findings, over real sockets: the time its entries take."""

from __future__ import annotations

import random
import threading
import time
from itertools import count
from statistics import quantiles
from typing import Any

import requests
from django.utils import timezone

from bench.server import Server
from bench.size import size
from bench.timing import show
from nailwright.common.rows import new_id
from nailwright.deck.models import Outing
from nailwright.programmes.models import Person
from nailwright.programmes.people.tokens import make_token

READERS = size(50, 4)
SECONDS = size(20, 2)
#: As often as the screens ask for what the server was too busy to read out.
TRIES = 8
_FINDINGS = ("size", "condition", "size-compared", "condition-compared", "cohorts")


def measure() -> None:
    outing = Outing.objects.get(state=Outing.State.OPEN)
    run = outing.runs.get(ended_at=None)
    key, _ = make_token(Person.objects.get(username="demo-lead"), "bench", "all", 1)
    server = Server(threads=32)
    base = f"http://{server.address}/api/v1/programmes/{outing.programme_id}"
    over = threading.Event()
    read, busy = count(), count()

    def session() -> requests.Session:
        made = requests.Session()
        made.headers["Authorization"] = f"Token {key}"
        return made

    def reader(number: int) -> None:
        """Reads one finding after the other, each with a level of its own, so that none is there already."""
        http = session()
        for turn in count():
            if over.is_set():
                return
            asked: dict[str, Any] = {
                "species": "wal",
                "level": f"{0.6 + (number * 1000 + turn) % 39000 / 100_000:.5f}",
                "k": 2,
            }
            # as the screens do (web/src/api/client.ts): asked again a few times before a person is told "busy"
            for _ in range(TRIES):
                answer = http.get(f"{base}/findings/{_FINDINGS[(number + turn) % len(_FINDINGS)]}", params=asked)
                if answer.status_code != 503 or over.is_set():
                    break
                time.sleep(float(answer.headers["Retry-After"]) * random.uniform(0.5, 1.5))
            next(busy if answer.status_code == 503 else read)

    try:
        http = session()
        server.wait()
        alone = _tablet(http, base, str(run.pk), 5)
        crowd = [threading.Thread(target=reader, args=(number,), daemon=True) for number in range(READERS)]
        for each in crowd:
            each.start()
        time.sleep(3)
        beside = _tablet(http, base, str(run.pk), SECONDS)
        answered, refused = next(read), next(busy)
        over.set()
        for each in crowd:
            each.join(30)
    finally:
        server.stop()
    show("a tablet's entry, p95, alone", f"{_p95(alone) * 1000:,.0f} ms")
    told = f"{answered} findings read meanwhile, {refused / max(1, answered + refused):.1%} were told busy"
    show(
        f"... beside {READERS} readers of findings",
        f"{_p95(beside) * 1000:,.0f} ms",
        f"median {_median(beside):,.0f} ms; {told}",
    )


def _tablet(http: requests.Session, base: str, run: str, seconds: float) -> list[float]:
    """A fish every fifth of a second."""
    taken: list[float] = []
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        fish: Any = {"id": str(new_id()), "kind": "capture.record", "device_time": timezone.now().isoformat(),
                "row": {"run": run, "species": "wal", "length": "437", "mass": "890"}}  # fmt: skip
        began = time.monotonic()
        http.post(f"{base}/sync", json={"operations": [fish]}, timeout=60).raise_for_status()
        taken.append(time.monotonic() - began)
        time.sleep(0.2)
    return taken


def _p95(taken: list[float]) -> float:
    return quantiles(taken, n=20)[-1]


def _median(taken: list[float]) -> float:
    return quantiles(taken, n=2)[0] * 1000
