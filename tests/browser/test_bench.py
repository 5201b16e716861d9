"""Every part of bin/bench still runs, after the ones before it: a taste of each, with no figure asserted."""

from __future__ import annotations

import os
import subprocess
import sys

import pytest

from .databases import ROOT, new_database

PARTS = (
    "sync",
    "tablets",
    "crowd",
    "deck",
    "imports",
    "browser",
    "cold-start",
    "instruments",
    "rehearsal",
    "fuzz",
    "full-disk",
)


@pytest.fixture(scope="module")
def whole() -> str:
    return new_database("bench_whole", "migrate", "load_demo")


def test_every_part_runs_after_the_others(whole: str) -> None:
    measured = new_database("bench")
    environment = {
        **os.environ, "NAILWRIGHT_DB_NAME": measured, "NAILWRIGHT_BENCH_WHOLE": whole, "NAILWRIGHT_BENCH_SMALL": "1",
        "NAILWRIGHT_LOG": os.devnull,
    }  # fmt: skip
    done = subprocess.run(
        [sys.executable, "-m", "bench", *PARTS], env=environment, cwd=ROOT, capture_output=True, text=True, timeout=600
    )
    assert done.returncode == 0, f"{done.stdout[-3000:]}\n{done.stderr[-3000:]}"
    assert '"level"' not in done.stdout  # figures only
    for words in (
        "tablets x",
        "Enter to tick painted",
        "wild requests, answered 500",
        "a tablet's entry, p95",
        "the disk under MariaDB is full",
    ):
        assert words in done.stdout, done.stdout
