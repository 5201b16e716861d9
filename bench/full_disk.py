"""The disk under MariaDB is full while a tablet sends: it is told to wait, nobody gets a 500, and when there is room again every
entry is in the record once and unaltered.

The disk is a file with a file system of its own, mounted: whoever runs this must be allowed to (root is). One in memory would not
do: MariaDB maps its files there, and a full one ends it with a bus error, which no disk does.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

import requests
from django.db import connections
from django.utils import timezone

from bench.own_database import OwnDatabase
from bench.server import Server
from bench.size import size
from bench.timing import show
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing
from nailwright.programmes.models import Person
from nailwright.programmes.people.tokens import make_token

DISK_MB = 500
#: Left when the tablet begins to send: room for some of its fish.
LEFT_MB = 4
BATCH = 100
#: From MariaDB's end to its next start.
AGAIN_S = 5.0
FISH = size(20_000, 6_000)
#: So long the disk stays full, and so long everything may take afterwards.
FULL_S, MOST_S = size(40, 8), 180.0


def can_mount() -> bool:
    """Whether a small disk can be had here."""
    try:
        with _small_disk(8):
            return True
    except (OSError, subprocess.CalledProcessError):
        return False


def measure() -> None:
    if not can_mount():
        show("the disk under MariaDB is full", "not tried", "a small disk has to be mounted, which only root may")
        return
    with _small_disk(DISK_MB) as disk, _mariadb_on(disk):
        server = Server()
        try:
            server.wait()
            _fill_and_free(server, disk)
        finally:
            server.stop()
            connections.close_all()


def _fill_and_free(server: Server, disk: Path) -> None:
    outing = Outing.objects.get(state=Outing.State.OPEN)
    run = str(outing.runs.get(ended_at=None).pk)
    key, _ = make_token(Person.objects.get(username="demo-lead"), "bench", "all", 1)
    http = requests.Session()
    http.headers["Authorization"] = f"Token {key}"
    address = f"http://{server.address}/api/v1/programmes/{outing.programme_id}"
    called: list[Any] = [
        {"id": str(new_id()), "kind": "capture.record", "device_time": timezone.now().isoformat(),
         "row": {"run": run, "species": "wal", "length": str(300 + place % 400), "mass": str(250 + place), "note": "full disk"}}
        for place in range(FISH)
    ]  # fmt: skip
    waiting, answers, slowest, freed_at = list(called), Counter[str](), 0.0, 0.0
    filler = disk / "filler"
    free = shutil.disk_usage(disk).free
    with filler.open("wb") as file:
        os.posix_fallocate(file.fileno(), 0, free - LEFT_MB * 2**20)
    full_since, stored_when_full, end = 0.0, 0, time.monotonic() + FULL_S + MOST_S
    while waiting:
        if time.monotonic() > end:
            raise SystemExit(f"{len(waiting)} captures did not get through; answers {dict(answers)}.")
        if full_since and not freed_at and time.monotonic() - full_since > FULL_S:
            filler.unlink()
            freed_at = time.monotonic()
        began = time.monotonic()
        answer = http.post(f"{address}/sync", json={"operations": waiting[:BATCH]}, timeout=120)
        slowest = max(slowest, time.monotonic() - began)
        results = answer.json()["results"] if answer.status_code == 200 else []
        answers[f"{answer.status_code}{'' if freed_at else ' full' if full_since else ''}"] += 1
        answers.update(each["state"] for each in results if each["state"] not in ("stored", "already"))
        done = {each["id"] for each in results if each["state"] in ("stored", "already")}
        waiting = [each for each in waiting if each["id"] not in done]
        if not done:
            if not full_since:
                full_since, stored_when_full = time.monotonic(), FISH - len(waiting)
            read = http.get(f"{address}/today", timeout=120)
            answers[f"read {read.status_code}"] += 1
            time.sleep(0.3)
    if not freed_at:
        raise SystemExit(f"The disk was never full: {shutil.disk_usage(disk)}.")
    connections.close_all()  # MariaDB may have been started anew
    wanted: dict[str, Any] = {str(each["id"]): each["row"] for each in called}
    kept = Capture.objects.filter(note="full disk").values_list("pk", "length_mm", "mass_g")
    found = [(str(pk), f"{mm:g}", f"{g:g}") for pk, mm, g in kept]
    altered = sum((mm, g) != (wanted[pk]["length"], wanted[pk]["mass"]) for pk, mm, g in found)
    lost, doubled = len(wanted.keys() - {pk for pk, _, _ in found}), len(found) - len({pk for pk, _, _ in found})
    told = f"of {FISH:,}: {lost} lost, {doubled} doubled, {altered} altered; slowest answer {slowest:.1f} s"
    failures = {each: n for each, n in answers.items() if "500" in each}
    show(
        "the disk under MariaDB is full",
        f"{stored_when_full:,} stored",
        ", ".join(f"{a}: {n}" for a, n in answers.items()),
    )
    show("... and has room again", f"{time.monotonic() - freed_at:.1f} s", told)
    if lost or doubled or altered or failures:
        raise SystemExit(f"The record is not what was called, or somebody was failed: {told}; {failures}")


@contextmanager
def _small_disk(megabytes: int) -> Iterator[Path]:
    with tempfile.TemporaryDirectory() as folder:
        image, disk = Path(folder, "image"), Path(folder, "disk")
        disk.mkdir()
        with image.open("wb") as file:
            file.truncate(megabytes * 2**20)
        subprocess.run(["mkfs.ext4", "-q", "-m", "0", image], check=True, capture_output=True)
        subprocess.run(["mount", "-o", "loop", image, disk], check=True, capture_output=True)
        try:
            yield disk
        finally:
            subprocess.run(["umount", "--lazy", disk], check=True)


@contextmanager
def _mariadb_on(disk: Path) -> Iterator[None]:
    """A MariaDB on that disk with what is in the measured database; the models and the server's processes ask it meanwhile."""
    database = OwnDatabase(disk, "--innodb-log-file-size=32M", f"--tmpdir={disk}")
    database.start()
    over = threading.Event()
    keeper = threading.Thread(target=_keep_running, args=(database, over))
    of = connections["default"].settings_dict
    before = {name: of[name] for name in ("HOST", "PORT", "USER", "PASSWORD", "NAME")}
    there = {name: os.environ[name] for name in database.environment}
    try:
        database.copy(str(of["NAME"]))
        keeper.start()
        connections.close_all()
        of.update({name: database.environment[f"NAILWRIGHT_DB_{name}"] for name in before})
        os.environ.update(database.environment)
        yield
    finally:
        connections.close_all()
        of.update(before)
        os.environ.update(there)
        over.set()
        keeper.join()
        database.kill()


def _keep_running(database: OwnDatabase, over: threading.Event) -> None:
    """Start it again where it ends by itself, as bin/start and Debian's unit do: it gives up (signal 6) where it cannot even roll back for
    want of room."""
    while not over.wait(AGAIN_S):
        if database.ended():
            with suppress(AssertionError):  # there is no room to start in either: tried again
                database.start()
