"""A backup restored into an empty database holds the same rows."""

from __future__ import annotations

import os
import subprocess
from collections.abc import Iterator
from pathlib import Path

import MySQLdb
import pytest
from django.conf import settings

from nailwright.deck.models import Capture, Run

ROOT = Path(__file__).resolve().parents[2]


def run_command(name: str, file: Path, database: str) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, "NAILWRIGHT_DB_NAME": database}
    return subprocess.run([ROOT / "bin" / name, file], env=environment, capture_output=True, text=True)


@pytest.fixture
def empty_database() -> Iterator[str]:
    server = settings.DATABASES["default"]
    name = "nailwright_restored"
    connection = MySQLdb.connect(
        host=server["HOST"], port=int(server["PORT"]), user=server["USER"], password=server["PASSWORD"]
    )
    connection.cursor().execute(f"DROP DATABASE IF EXISTS {name}")
    connection.cursor().execute(f"CREATE DATABASE {name} CHARACTER SET utf8mb4")
    yield name
    connection.cursor().execute(f"DROP DATABASE {name}")


@pytest.mark.django_db(transaction=True)
def test_backup_and_restore(run: Run, tmp_path: Path, empty_database: str) -> None:
    for place in range(30):
        Capture.objects.create(
            programme=run.outing.programme,
            run=run,
            species="wal",
            length_mm=300 + place,
            note="scar; ~ \u00b5",
            recorder=run.recorder,
        )
    source = settings.DATABASES["default"]["NAME"]
    file = tmp_path / "kept.sql.gz"
    kept = run_command("backup", file, source)
    assert kept.returncode == 0, kept.stderr
    assert run_command("backup", file, source).returncode == 2  # never over another backup
    restored = run_command("restore", file, empty_database)
    assert restored.returncode == 0, restored.stderr + restored.stdout
    assert "every table has the rows and the checksum" in restored.stdout
    # a second time the database is not empty: refused, and nothing changed
    again = run_command("restore", file, empty_database)
    assert again.returncode == 1 and "nothing was changed" in again.stderr


@pytest.mark.django_db
def test_a_damaged_backup_is_refused(tmp_path: Path, empty_database: str) -> None:
    file = tmp_path / "damaged.sql.gz"
    file.write_bytes(b"no backup at all")
    refused = run_command("restore", file, empty_database)
    assert refused.returncode == 1 and "nothing was changed" in refused.stderr
    assert run_command("restore", tmp_path / "absent", empty_database).returncode == 2
