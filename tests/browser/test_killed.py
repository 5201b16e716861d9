"""Tablets go on sending while the server's processes are killed: every fish is in the record once, unaltered."""

from __future__ import annotations

import os
import random
import signal
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import requests
from uuid6 import uuid7

from .conftest import Server

TABLETS, FISH, BATCH = 6, 120, 15


def children_of(pid: int) -> list[int]:
    return [int(each) for each in Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]


def kill_again_and_again(server: Server, over: threading.Event) -> int:
    """Kills a worker three times, and in the end the whole server, which is started again."""
    killed = 0
    while not over.wait(0.7):
        if killed == 3:
            assert server.process
            for pid in [server.process.pid, *children_of(server.process.pid)]:
                os.kill(pid, signal.SIGKILL)
            server.process.wait(20)
            server.process = None
            server.start()
        elif killed < 3:
            assert server.process
            for pid in children_of(server.process.pid):
                os.kill(pid, signal.SIGKILL)
        killed += 1
    return killed


def test_no_fish_is_lost_or_doubled_by_killing_the_server(server: Server) -> None:
    session = requests.Session()
    session.get(f"{server.address}/api/v1/session")
    headers = {"X-CSRFToken": session.cookies["csrftoken"], "Referer": server.address}
    crew = session.post(f"{server.address}/api/v1/session/demo", json={"username": "demo-crew"}, headers=headers).json()
    base = f"{server.address}/api/v1/programmes/{crew['memberships'][0]['programme']}"
    headers["X-CSRFToken"] = session.cookies["csrftoken"]
    scope = {"scope": "record"}
    made = session.post(f"{server.address}/api/v1/tokens", json=scope, headers=headers).json()
    outing = next(each for each in session.get(f"{base}/outings").json() if each["state"] == "open")
    deck = session.get(f"{server.address}/api/v1/outings/{outing['id']}/deck").json()
    run = deck["runs"][-1]["id"]
    authorised = {"Authorization": f"Token {made['token']}"}

    def fish(tablet: int, number: int) -> dict[str, Any]:
        row = {"run": run, "species": "wal", "length": str(300 + number), "note": f"kill test {tablet} {number}"}
        return {"id": str(uuid7()), "kind": "capture.record", "device_time": "2026-10-12T22:00:00Z", "row": row}

    def tablet(number: int) -> None:
        """Sends as a tablet does: what is not answered as stored is sent again."""
        waiting = [fish(number, each) for each in range(FISH)]
        end = time.monotonic() + 120
        while waiting:
            assert time.monotonic() < end, f"{len(waiting)} fish of tablet {number} did not get through"
            batch = waiting[:BATCH]
            try:
                answer = requests.post(f"{base}/sync", json={"operations": batch}, headers=authorised, timeout=20)
                told = answer.json()["results"] if answer.status_code == 200 else []
            except (requests.RequestException, ValueError):
                told = []
            done = {each["id"] for each in told if each["state"] in ("stored", "already")}
            waiting = [each for each in waiting if each["id"] not in done]
            time.sleep(random.uniform(0.02, 0.15))

    over = threading.Event()
    with ThreadPoolExecutor(TABLETS + 1) as pool:
        killer = pool.submit(kill_again_and_again, server, over)
        tablets = [pool.submit(tablet, each) for each in range(TABLETS)]
        for each in tablets:
            each.result()
        over.set()
        assert killer.result() >= 2
    server.start()
    captures = requests.get(f"{server.address}/api/v1/outings/{outing['id']}/deck", headers=authorised).json()[
        "captures"
    ]
    ours = [each for each in captures if each["note"].startswith("kill test")]
    wanted = {(f"kill test {tablet} {number}", 300.0 + number) for tablet in range(TABLETS) for number in range(FISH)}
    assert len(ours) == len(wanted) and {(each["note"], each["length_mm"]) for each in ours} == wanted
    # the tests after this one find the deck as it was
    taken_out = [{"id": str(uuid7()), "kind": "capture.delete", "device_time": each["device_time"], "row": {"capture": each["id"]}} for each in ours]  # fmt: skip
    for at in range(0, len(taken_out), 200):
        answer = requests.post(f"{base}/sync", json={"operations": taken_out[at : at + 200]}, headers=authorised)
        assert answer.status_code == 200, answer.json()
