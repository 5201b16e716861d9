"""Twenty tablets send five hundred captures each at once, over real sockets, while the server's processes are killed.

Every capture must be in the record once and unaltered; rows a second beside the plain INSERT of as many rows.
"""

from __future__ import annotations

import threading
import time
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import requests
from django.db import connection
from django.utils import timezone

from bench.server import Server
from bench.size import size
from bench.timing import show
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing
from nailwright.programmes.models import Person
from nailwright.programmes.people.tokens import make_token

TABLETS, FISH = size(20, 3), size(500, 60)
#: As many as a tablet puts into one request (web/src/offline/sender.ts).
BATCH = 200
#: Seconds from the server's answer to its next kill.
AFTER_S = 0.3
#: A run that takes longer than this is given up.
MOST_S = 120.0


def measure() -> None:
    outing = Outing.objects.get(state=Outing.State.OPEN)
    run = str(outing.runs.get(ended_at=None).pk)
    key, _ = make_token(Person.objects.get(username="demo-lead"), "bench", "all", 1)
    server = Server()
    address = f"http://{server.address}/api/v1/programmes/{outing.programme_id}"

    def send(fish: list[dict[str, Any]]) -> None:
        """As a tablet does: what was not answered as stored is sent again, in the same order."""
        http = requests.Session()
        http.headers["Authorization"] = f"Token {key}"
        waiting, end = fish, time.monotonic() + MOST_S
        while waiting:
            if time.monotonic() > end:
                raise SystemExit(f"{len(waiting)} captures did not get through in {MOST_S:g} s.")
            try:
                answer = http.post(f"{address}/sync", json={"operations": waiting[:BATCH]}, timeout=60)
                results = answer.json()["results"] if answer.status_code == 200 else []
            except (requests.RequestException, ValueError):
                results = []
                time.sleep(0.2)
            done = {each["id"] for each in results if each["state"] in ("stored", "already")}
            waiting = [each for each in waiting if each["id"] not in done]

    def all_at_once(note: str) -> float:
        called = [
            [
                {"id": str(new_id()), "kind": "capture.record", "device_time": timezone.now().isoformat(),
                 "row": {"run": run, "species": "wal", "length": str(300 + place % 400), "mass": str(250 + place), "note": note}}
                for place in range(FISH)
            ]
            for _ in range(TABLETS)
        ]  # fmt: skip
        began = time.monotonic()
        with ThreadPoolExecutor(TABLETS) as pool:
            list(pool.map(send, called))
        taken = time.monotonic() - began
        wanted: dict[str, Any] = {str(each["id"]): each["row"] for tablet in called for each in tablet}
        # a capture has the key of the entry that made it
        kept = Capture.objects.filter(note=note).values_list("pk", "length_mm", "mass_g")
        found = [(str(pk), f"{mm:g}", f"{g:g}") for pk, mm, g in kept]
        lost = len(wanted) - len({pk for pk, _, _ in found} & set(wanted))
        altered = sum((mm, g) != (wanted[pk]["length"], wanted[pk]["mass"]) for pk, mm, g in found if pk in wanted)
        told = f"of {len(wanted):,}: {lost} lost, {len(found) - len(wanted) + lost} doubled, {altered} altered"
        if lost or altered or len(found) != len(wanted):
            raise SystemExit(f"The record is not what was called: {told}.")
        show(note, f"{len(wanted) / taken:,.0f} /s", told)
        return taken

    try:
        server.wait()
        quiet = all_at_once(f"{TABLETS} tablets x {FISH} captures at once")
        over = threading.Event()
        killer = threading.Thread(target=_again_and_again, args=(over, server))
        killer.start()
        try:
            all_at_once("... while the server is killed (kill -9)")
        finally:
            over.set()
            killer.join()
    finally:
        server.stop()
    plain = _plain_insert(TABLETS * FISH)
    show("... killed so often", str(server.killed), f"a worker, each fourth time all, {AFTER_S:g} s after it answered")
    show(
        "plain INSERT of as many rows", f"{TABLETS * FISH / plain:,.0f} /s", f"sync takes {quiet / plain:.1f} x as long"
    )


def _again_and_again(over: threading.Event, server: Server) -> None:
    while not over.wait(AFTER_S):
        server.kill_one()
        server.wait()


def _plain_insert(rows: int) -> float:
    """Seconds for the newest rows once more under other keys, many a statement, in transactions of one batch."""
    columns = [field.column for field in Capture._meta.concrete_fields]
    listed = ", ".join(f"`{column}`" for column in columns)
    marks = "(" + ", ".join(["%s"] * len(columns)) + ")"
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {listed} FROM deck_capture ORDER BY id DESC LIMIT {rows}")
        copies = [list(row) for row in cursor.fetchall()]
        for row in copies:
            row[columns.index("id")] = new_id().hex
        began = time.monotonic()
        for at in range(0, rows, BATCH):
            part = copies[at : at + BATCH]
            cursor.execute(
                f"INSERT INTO deck_capture ({listed}) VALUES {', '.join([marks] * len(part))}",
                [value for row in part for value in row],
            )
        return time.monotonic() - began
