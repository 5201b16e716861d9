"""A backup restored into an empty database holds the same rows."""

from __future__ import annotations

import gzip
import os
import subprocess
import sys
import threading
from pathlib import Path

import MySQLdb
import pytest
from django.conf import settings
from django.db import connection, connections

from bench.size import some
from nailwright.deck.models import Capture, Run
from server.tests.databases import new_database

KEY = "of this installation"
ROOT = Path(__file__).resolve().parents[3]


def run_command(name: str, file: Path, database: str, *more: str) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, "NAILWRIGHT_DB_NAME": database, "NAILWRIGHT_SECRET_KEY": KEY}
    return subprocess.run([ROOT / "bin" / name, *more, file], env=environment, capture_output=True, text=True)


@pytest.fixture
def empty_database() -> str:
    return new_database("restored")


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
    assert "every table has the rows and the sum" in restored.stdout
    assert b"DEFINER" not in gzip.decompress(file.read_bytes())  # it can go into a database of another account's
    assert triggers_in(empty_database) == triggers_in(source) == 3
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


def triggers_in(database: str) -> int:
    with connection.cursor() as cursor:
        cursor.execute("SELECT COUNT(*) FROM information_schema.triggers WHERE trigger_schema = %s", [database])
        return int(cursor.fetchone()[0])


def tables_in(database: str) -> int:
    server = settings.DATABASES["default"]
    with MySQLdb.connect(
        host=server["HOST"], port=int(server["PORT"]), user=server["USER"], password=server["PASSWORD"]
    ) as connection:
        cursor = connection.cursor()
        return int(cursor.execute(f"SHOW TABLES IN {database}"))


@pytest.mark.django_db(transaction=True)
def test_a_backup_while_entries_come_in_restores_as_it_was(run: Run, tmp_path: Path, empty_database: str) -> None:
    source = settings.DATABASES["default"]["NAME"]
    writing, over = threading.Event(), threading.Event()

    def write() -> None:
        try:
            while not over.is_set():
                Capture.objects.create(programme=run.outing.programme, run=run, species="wal", recorder=run.recorder)
                writing.set()
        finally:
            connections.close_all()

    crew = threading.Thread(target=write)
    crew.start()
    try:
        assert writing.wait(10)
        kept = run_command("backup", tmp_path / "kept.sql.gz", source)
    finally:
        over.set()
        crew.join()
    assert kept.returncode == 0, kept.stderr
    restored = run_command("restore", tmp_path / "kept.sql.gz", empty_database)
    assert restored.returncode == 0, restored.stderr + restored.stdout


@pytest.mark.django_db(transaction=True)
def test_what_is_no_whole_backup_changes_nothing(run: Run, tmp_path: Path, empty_database: str) -> None:
    kept = tmp_path / "kept.sql.gz"
    assert run_command("backup", kept, settings.DATABASES["default"]["NAME"]).returncode == 0
    text = gzip.decompress(kept.read_bytes())
    lines = text.splitlines(keepends=True)
    touched = tmp_path / "touched"
    wrong = {
        "empty": b"",
        "no table": b"-- end of backup\n",
        "cut short": b"".join(lines[: len(lines) // 2]),
        "another row": text.replace(b"Tarn study", b"Tarn Study"),
        "a table less": b"".join(line for line in lines if b"deck_release" not in line),
    }
    for name, content in some(list(wrong.items()), 3):
        file = tmp_path / f"{name}.gz"
        file.write_bytes(gzip.compress(content))
        refused = run_command("restore", file, empty_database)
        assert refused.returncode == 1 and "Nothing was changed" in refused.stderr, name
    # a command for the client's shell, in a file whose sums are right; and one that fails half way
    strange = {
        "shell": f"\\! touch {touched}\n", "fails": "INSERT INTO no_such_table VALUES (1);\n", "use": "USE mysql;\n",
        "another": "INSERT INTO `nailwright`.`programmes_person` VALUES (1);\n", "drop": "drop  database nailwright;\n",
        "account": "CREATE USER eve IDENTIFIED BY 'x';\n", "table": "DROP TABLE IF EXISTS nailwright.deck_capture;\n",
    }  # fmt: skip
    for name, line in some(list(strange.items()), 3):
        body = b"".join(each for each in lines if not each.startswith(b"-- "))
        half = body.index(b"DROP TABLE", len(body) // 2)
        sums = ROOT / "bin" / "dump_sums.py"
        written = subprocess.run(
            [sys.executable, sums, "write"],
            input=body[:half] + line.encode() + body[half:],
            capture_output=True,
            check=True,
            env={**os.environ, "NAILWRIGHT_SIGN_KEY": KEY},
        )
        file = tmp_path / f"{name}.gz"
        file.write_bytes(gzip.compress(written.stdout))
        failed = run_command("restore", file, empty_database)
        words = {"fails": "empty again"}.get(name, "names another database, or does more")
        assert failed.returncode == 1 and words in failed.stderr, (name, failed.stderr)
        assert tables_in(empty_database) == 0 and not touched.exists()


@pytest.mark.django_db(transaction=True)
def test_sums_that_were_made_anew_are_not_this_installations(run: Run, tmp_path: Path, empty_database: str) -> None:
    """Somebody changes a row and makes the sums anew; the signature they cannot make."""
    kept = tmp_path / "kept.sql.gz"
    assert run_command("backup", kept, settings.DATABASES["default"]["NAME"]).returncode == 0
    lines = gzip.decompress(kept.read_bytes()).splitlines(keepends=True)
    body = b"".join(line for line in lines if not line.startswith(b"-- ")).replace(b"Tarn study", b"Tarn Study")
    for name, key in (("another key", "guessed"), ("none", "")):
        written = subprocess.run(
            [sys.executable, ROOT / "bin" / "dump_sums.py", "write"],
            input=body, capture_output=True, check=True, env={**os.environ, "NAILWRIGHT_SIGN_KEY": key},
        ).stdout  # fmt: skip
        if name == "none":
            written = b"".join(line for line in written.splitlines(keepends=True) if not line.startswith(b"-- signed"))
        file = tmp_path / f"{name}.gz"
        file.write_bytes(gzip.compress(written))
        refused = run_command("restore", file, empty_database)
        assert refused.returncode == 1 and "not signed by this installation" in refused.stderr, name
        assert tables_in(empty_database) == 0
    # of another installation, and known to be: by a word of one's own
    taken = run_command("restore", file, empty_database, "--unsigned")
    assert taken.returncode == 0, taken.stderr
