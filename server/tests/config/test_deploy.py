"""What ships for running it for real: units, image, settings and docs name the same steps, and the backup timer's work works."""

from __future__ import annotations

import configparser
import json
import os
import re
import subprocess
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import MySQLdb
import pytest
from django.conf import settings
from django.core.management import CommandError, call_command
from django.db import connection
from django.test import Client
from django.utils import timezone

from nailwright.config.doctor import BACKUP_OLD, examine
from nailwright.config.health import WORKER_LATE
from nailwright.deck.models import Run
from nailwright.jobs.models import Job

ROOT = Path(__file__).resolve().parents[3]
DEPLOY = ROOT / "deploy"
RUNNING = (ROOT / "docs" / "running.md").read_text()


def unit(name: str) -> configparser.RawConfigParser:
    read = configparser.RawConfigParser(strict=False)
    read.optionxform = str  # type: ignore[assignment,method-assign]
    read.read(DEPLOY / name)
    return read


def test_the_image_takes_the_steps_of_the_docs() -> None:
    steps = re.findall(r"^(RUN|ENV|CMD|USER|WORKDIR) (.*)$", (DEPLOY / "Containerfile").read_text(), re.MULTILINE)
    runs = [step for kind, step in steps if kind == "RUN"]
    assert [each for each in runs if each in ("bin/setup", "cd web && npm run build")] == [
        "bin/setup",
        "cd web && npm run build",
    ]
    packages = re.search(r"install -y --no-install-recommends ([\w -]+)", runs[0])
    assert packages and set(packages[1].split()) <= set(
        re.search(r"install -y --no-install-recommends ([\w -]+)", RUNNING)[1].split()  # type: ignore[index]
    )
    for each in ("bin/setup", "cd web && npm run build", "useradd --system --create-home nailwright"):
        assert each in RUNNING and any(each in run for run in runs)
    command = json.loads(next(step for kind, step in steps if kind == "CMD"))
    web = unit("nailwright-web.service")["Service"]["ExecStart"].split()
    assert [each for each in command[1:] if "8420" not in each] == [each for each in web[1:] if "8420" not in each]
    assert dict(steps)["USER"] == unit("nailwright-web.service")["Service"]["User"] == "nailwright"
    assert dict(steps)["WORKDIR"] == unit("nailwright-worker.service")["Service"]["WorkingDirectory"]


def test_units_name_what_is_there() -> None:
    for name in (
        "nailwright-web.service",
        "nailwright-worker.service",
        "nailwright-gateway.service",
        "nailwright-backup.service",
    ):
        service = unit(name)["Service"]
        assert service["EnvironmentFile"] == "/etc/nailwright/nailwright.env" and service["User"] == "nailwright"
        for word in service["ExecStart"].split():
            inside = word.removeprefix("/opt/nailwright/")
            if "/" in inside and not inside.startswith((".venv", "/")):
                assert (ROOT / inside).exists(), f"{name} names {word}"
        assert name.removesuffix(".service") in RUNNING
    for file in re.findall(r"(?<![\w./])(?:deploy|bin)/[\w.-]+\w", RUNNING):
        assert (ROOT / file).exists(), f"docs/running.md names {file}"


def test_every_setting_stands_in_the_example() -> None:
    code = "".join(file.read_text() for file in (ROOT / "server" / "nailwright").rglob("*.py"))
    read = {name for name in re.findall(r"NAILWRIGHT_[A-Z_]+", code) if f'"{name}"' in code}
    example = (DEPLOY / "nailwright.env.example").read_text()
    told = set(re.findall(r"^(NAILWRIGHT_[A-Z_]+)=", example, re.MULTILINE))
    # where the log goes is systemd's; the driver's patience is set by the server itself
    assert read - {"NAILWRIGHT_LOG", "NAILWRIGHT_DB_TIMEOUT_S"} == told


@pytest.fixture
def trial_database() -> Iterator[str]:
    server = settings.DATABASES["default"]
    name = f"nailwright_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}_trial"
    connection = MySQLdb.connect(
        host=server["HOST"], port=int(server["PORT"]), user=server["USER"], password=server["PASSWORD"]
    )
    connection.cursor().execute(f"DROP DATABASE IF EXISTS {name}")
    connection.cursor().execute(f"CREATE DATABASE {name} CHARACTER SET utf8mb4")
    yield name
    connection.cursor().execute(f"DROP DATABASE {name}")


@pytest.mark.django_db(transaction=True)
def test_the_nights_backup_is_restored_on_trial(run: Run, tmp_path: Path, trial_database: str) -> None:
    environment = {
        **os.environ, "NAILWRIGHT_DB_NAME": settings.DATABASES["default"]["NAME"], "NAILWRIGHT_TRIAL_DB": trial_database,
    }  # fmt: skip
    for day in range(1, 32):
        (tmp_path / f"nailwright-202001{day:02}-031000.sql.gz").write_bytes(b"")

    def night() -> subprocess.CompletedProcess[str]:
        return subprocess.run([DEPLOY / "backup-and-try", tmp_path], env=environment, capture_output=True, text=True)

    done = night()
    assert done.returncode == 0, done.stdout + done.stderr
    files = sorted(file.name for file in tmp_path.glob("*.sql.gz"))
    assert len(files) == 30 and files[0] == "nailwright-20200103-031000.sql.gz"
    assert (tmp_path / files[-1]).stat().st_size > 1000
    found = {each.state for each in examine(tmp_path) if "backup" in each.what}
    assert found == {"well"}
    # never any other database than one for trials
    refused = subprocess.run(
        [DEPLOY / "empty-trial"],
        env={**environment, "NAILWRIGHT_DB_NAME": "nailwright"},
        capture_output=True,
        text=True,
    )
    assert refused.returncode == 2 and "ends in _trial" in refused.stderr


@pytest.mark.django_db
def test_health_says_whether_it_works(run: Run) -> None:
    client = Client()
    told = client.get("/api/v1/health").json()
    assert (
        told["database"] == "answers" and told["worker"] == "in time" and set(told) == {"version", "database", "worker"}
    )
    Job.objects.create(
        programme=run.outing.programme, person=run.recorder, permission="plan", title="x",
        made_at=timezone.now() - WORKER_LATE - WORKER_LATE,
    )  # fmt: skip
    assert client.get("/api/v1/health").json()["worker"] == "late"
    states = {each.what: each for each in examine()}
    late = next(each for what, each in states.items() if "wait for a worker" in what)
    assert late.state == "wrong" and "nailwright-worker" in late.to_do


@pytest.mark.django_db
def test_the_doctor_says_what_is_wrong_in_words(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], settings: Any
) -> None:
    settings.EMAIL_HOST, settings.EMAIL_PORT, settings.WEB_DIST = "127.0.0.1", 9, tmp_path
    old = tmp_path / "nailwright-20200101-031000.sql.gz"
    old.write_bytes(b"x")
    os.utime(old, ((timezone.now() - 2 * BACKUP_OLD).timestamp(),) * 2)
    with (
        connection.cursor() as cursor
    ):  # the tests live on an evening of their own (tests/clock); the database does not
        cursor.execute("SET timestamp = %s", [timezone.now().timestamp()])
    with pytest.raises(CommandError, match="3 things are wrong"):
        call_command("doctor", backups=tmp_path)
    told = capsys.readouterr().out
    for words in ("The screens are not built. Run npm ci", "mail server 127.0.0.1:9 does not answer", "newest backup is of",
                  "The tables are those of this version", "tallies captures itself", "Nobody has an account yet"):  # fmt: skip
        assert words in told, told


@pytest.mark.django_db
def test_the_doctor_where_the_database_is_away(monkeypatch: pytest.MonkeyPatch) -> None:
    from django.db import OperationalError

    def away(*_: object) -> None:
        raise OperationalError(2003, "Can't connect")

    monkeypatch.setattr("nailwright.config.doctor.connection.cursor", away)
    wrong = [each for each in examine() if each.state == "wrong"]
    assert len(wrong) >= 1 and any(
        "does not answer" in each.what and "NAILWRIGHT_DB_HOST" in each.to_do for each in wrong
    )
