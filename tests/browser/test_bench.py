"""Every part of bin/bench still runs, after the ones before it: a taste of each, with no figure asserted."""

from __future__ import annotations

import os
import subprocess
import sys
from datetime import date

import pytest

from bench.size import some
from server.tests.databases import ROOT, new_database

#: Each with words that it prints.
PARTS = {
    "sync": "", "tablets": "tablets x", "crowd": "a tablet's entry, p95", "deck": "", "imports": "", "browser": "Enter to tick painted", "cold-start": "",
    "instruments": "", "rehearsal": "", "fuzz": "wild requests, answered 500", "returns": "a finder's answer", "full-disk": "the disk under MariaDB is full",
}  # fmt: skip


@pytest.fixture(scope="module")
def whole() -> str:
    return new_database("bench_whole", "migrate", "load_demo")


def test_parts_run_one_after_another(whole: str) -> None:
    """One of them, another on another day; all with --thorough."""
    parts = some(tuple(PARTS), 1, of=f"{date.today()}")
    measured = new_database("bench")
    environment = {
        **os.environ, "NAILWRIGHT_DB_NAME": measured, "NAILWRIGHT_BENCH_WHOLE": whole, "NAILWRIGHT_BENCH_SMALL": "1",
        "NAILWRIGHT_LOG": os.devnull,
    }  # fmt: skip
    done = subprocess.run(
        [sys.executable, "-m", "bench", *parts], env=environment, cwd=ROOT, capture_output=True, text=True, timeout=600
    )
    assert done.returncode == 0, f"{done.stdout[-3000:]}\n{done.stderr[-3000:]}"
    assert '"level"' not in done.stdout  # figures only
    for part in parts:
        assert PARTS[part] in done.stdout, (parts, done.stdout)
