"""Tablets go on sending while the server's processes, or its database, are killed: every fish is in the record once, unaltered."""

from __future__ import annotations

import os
import random
import signal
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
import requests
from uuid6 import uuid7

from bench.own_database import OwnDatabase

from .conftest import Server

pytestmark = pytest.mark.installed


TABLETS, FISH, BATCH = 6, 60, 15


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


@pytest.fixture
def own_database(demo_database: str, tmp_path: Path) -> Iterator[OwnDatabase]:
    database = OwnDatabase(tmp_path)
    database.start()
    database.copy(demo_database)
    yield database
    database.kill()


class Tonight:
    """Tonight's outing as the crew's tablets send to it."""

    def __init__(self, server: Server) -> None:
        self.server = server
        session = requests.Session()
        session.get(f"{server.address}/api/v1/session")
        headers = {"X-CSRFToken": session.cookies["csrftoken"], "Referer": server.address}
        crew = session.post(
            f"{server.address}/api/v1/session/demo", json={"username": "demo-crew"}, headers=headers
        ).json()
        self.base = f"{server.address}/api/v1/programmes/{crew['memberships'][0]['programme']}"
        headers["X-CSRFToken"] = session.cookies["csrftoken"]
        made = session.post(f"{server.address}/api/v1/tokens", json={"scope": "record"}, headers=headers).json()
        self.authorised = {"Authorization": f"Token {made['token']}"}
        outing = next(each for each in session.get(f"{self.base}/outings").json() if each["state"] == "open")
        self.deck = f"{server.address}/api/v1/outings/{outing['id']}/deck"
        self.run = session.get(self.deck).json()["runs"][-1]["id"]

    def fish(self, tablet: int, number: int) -> dict[str, Any]:
        row = {"run": self.run, "species": "wal", "length": str(300 + number), "note": f"kill test {tablet} {number}"}
        return {"id": str(uuid7()), "kind": "capture.record", "device_time": "2026-10-12T22:00:00Z", "row": row}

    def send(self, number: int) -> None:
        """Sends as a tablet does: what is not answered as stored is sent again."""
        waiting = [self.fish(number, each) for each in range(FISH)]
        end = time.monotonic() + 120
        while waiting:
            assert time.monotonic() < end, f"{len(waiting)} fish of tablet {number} did not get through"
            batch = {"operations": waiting[:BATCH]}
            try:
                answer = requests.post(f"{self.base}/sync", json=batch, headers=self.authorised, timeout=20)
                assert answer.status_code in (200, 502, 503), answer.text  # a server that is not able says so, in words
                told = answer.json()["results"] if answer.status_code == 200 else []
            except (requests.RequestException, ValueError):
                told = []
            done = {each["id"] for each in told if each["state"] in ("stored", "already")}
            waiting = [each for each in waiting if each["id"] not in done]
            time.sleep(random.uniform(0.02, 0.15))

    def send_while(self, kill: Callable[[threading.Event], int], least: int) -> None:
        """All tablets at once, while something is killed again and again, at least so often."""
        over = threading.Event()
        with ThreadPoolExecutor(TABLETS + 1) as pool:
            killer = pool.submit(kill, over)
            tablets = [pool.submit(self.send, each) for each in range(TABLETS)]
            try:
                for each in tablets:
                    each.result()
            finally:
                over.set()
            assert killer.result() >= least

    def kept(self) -> list[dict[str, Any]]:
        captures = requests.get(self.deck, headers=self.authorised, timeout=60).json()["captures"]
        return [each for each in captures if each["note"].startswith("kill test")]

    def each_is_kept_once(self) -> bool:
        wanted = {(f"kill test {tablet} {n}", 300.0 + n) for tablet in range(TABLETS) for n in range(FISH)}
        ours = self.kept()
        return len(ours) == len(wanted) and {(each["note"], each["length_mm"]) for each in ours} == wanted


def test_no_fish_is_lost_or_doubled_by_killing_the_server(server: Server) -> None:
    tonight = Tonight(server)
    tonight.send_while(lambda over: kill_again_and_again(server, over), 2)
    server.start()
    assert tonight.each_is_kept_once()
    # the tests after this one find the deck as it was
    taken_out = [
        {"id": str(uuid7()), "kind": "capture.delete", "device_time": each["device_time"], "row": {"capture": each["id"]}}
        for each in tonight.kept()
    ]  # fmt: skip
    for at in range(0, len(taken_out), 200):
        answer = requests.post(
            f"{tonight.base}/sync", json={"operations": taken_out[at : at + 200]}, headers=tonight.authorised
        )
        assert answer.status_code == 200, answer.json()


def test_no_fish_is_lost_or_doubled_by_killing_the_database(own_database: OwnDatabase) -> None:
    """MariaDB itself ends by kill -9 in the middle of their syncs and is started again: what was answered as stored is there."""
    server = Server(own_database.name, jobs=False, **own_database.environment)
    server.start()
    try:
        tonight = Tonight(server)

        def kill(over: threading.Event) -> int:
            killed = 0
            while killed < 3 and not over.wait(0.4):
                own_database.kill()
                time.sleep(0.5)
                own_database.start()
                killed += 1
            return killed

        tonight.send_while(kill, 2)
        assert tonight.each_is_kept_once()
        assert requests.get(f"{server.address}/api/v1/health", timeout=20).ok
    finally:
        server.end()
