"""What is wrong with an installation, in words: each check says what it found and what to do."""

from __future__ import annotations

import shutil
import smtplib
import socket
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Literal

from django.conf import settings
from django.db import Error, connection
from django.db.migrations.executor import MigrationExecutor
from django.utils import timezone

from nailwright.config.health import WORKER_LATE
from nailwright.jobs.models import Job
from nailwright.programmes.models import Membership, Role
from nailwright.programmes.people.beginning import is_claimed

#: Less free disk than this and a backup or a large file may not fit.
LEAST_FREE = 5 * 1024**3
#: A backup that is kept every night is never older.
BACKUP_OLD = timedelta(hours=36)
#: Clocks of server and database further apart than this mix up what was first.
MOST_SKEW_S = 2.0
_TRIGGERS = {"capture_made", "capture_changed", "capture_gone"}


@dataclass(frozen=True)
class Found:
    """What a check found: ``well``, or ``look`` (it works, but), or ``wrong``; and what to do."""

    state: Literal["well", "look", "wrong"]
    what: str
    to_do: str = ""


def examine(backups: Path | None = None) -> Iterator[Found]:
    """Every check; those of the database only where it answers.

    Args:
        backups: the folder where a timer keeps the files of bin/backup, where there is one.
    """
    yield from _disk(backups)
    yield _screens()
    yield _mail()
    if backups:
        yield _backup(backups)
    answers = _database()
    yield answers
    if answers.state != "wrong":
        for check in _OF_DATABASE:
            yield check()


def _database() -> Found:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT VERSION()")
            version = cursor.fetchone()[0]
    except Error as error:
        where = f"{settings.DATABASES['default']['HOST']}:{settings.DATABASES['default']['PORT']}"
        to_do = "Does it run? Are NAILWRIGHT_DB_HOST, _PORT, _NAME, _USER and _PASSWORD those of its account?"
        return Found("wrong", f"The database at {where} does not answer: {error}.", to_do)
    return Found("well", f"The database answers: MariaDB {version}.")


def _migrations() -> Found:
    executor = MigrationExecutor(connection)
    waiting = executor.migration_plan(executor.loader.graph.leaf_nodes())
    if waiting:
        return Found(
            "wrong",
            f"{len(waiting)} changes of the tables have not been made.",
            "Run manage.py migrate; bin/backup first.",
        )
    return Found("well", "The tables are those of this version.")


def _triggers() -> Found:
    with connection.cursor() as cursor:
        cursor.execute("SELECT trigger_name FROM information_schema.triggers WHERE trigger_schema = DATABASE()")
        there = {name for (name,) in cursor.fetchall()}
    if missing := _TRIGGERS - there:
        told = f"The database does not tally captures: {', '.join(sorted(missing))} missing."
        return Found("wrong", told, "Restore with an account that may make triggers; findings would tell old numbers.")
    return Found("well", "The database tallies captures itself.")


def _clock() -> Found:
    with connection.cursor() as cursor:
        cursor.execute("SELECT UTC_TIMESTAMP(6)")
        theirs = cursor.fetchone()[0].replace(tzinfo=UTC)
    apart = abs((timezone.now() - theirs).total_seconds())
    if apart > MOST_SKEW_S:
        return Found(
            "wrong", f"The clocks of server and database are {apart:.0f} s apart.", "Let both follow a time server."
        )
    return Found("well", "The clocks of server and database agree.")


def _worker() -> Found:
    late = Job.objects.filter(state=Job.State.WAITING, made_at__lt=timezone.now() - WORKER_LATE).count()
    if late:
        return Found("wrong", f"{late} pieces of long work wait for a worker.", "Is nailwright-worker running?")
    return Found("well", "No long work waits.")


def _people() -> Found:
    if not is_claimed():
        return Found("look", "Nobody has an account yet.", "manage.py first_code prints a code for the first page.")
    open_leads = Membership.present.filter(role=Role.LEAD, person__second_step="", programme__demo=False).count()
    if open_leads:
        told = f"{open_leads} leads sign in with a password alone."
        return Found("look", told, "Under their name, My account, they can begin with codes of their phone.")
    return Found("well", "Leads sign in with a second step.")


def _disk(backups: Path | None) -> Iterator[Found]:
    for path in filter(None, (Path(settings.ROOT), backups)):
        if not path.is_dir():
            continue
        free = shutil.disk_usage(path).free
        if free < LEAST_FREE:
            yield Found(
                "wrong",
                f"{free / 1024**3:.1f} GiB are free at {path}.",
                "Make room: nothing can be kept on a full disk.",
            )
        else:
            yield Found("well", f"{free / 1024**3:.0f} GiB are free at {path}.")


def _screens() -> Found:
    if not (settings.WEB_DIST / "index.html").is_file():
        return Found("wrong", "The screens are not built.", "Run npm ci and npm run build in web.")
    return Found("well", "The screens are built.")


def _mail() -> Found:
    if not settings.EMAIL_HOST:
        return Found(
            "look", "No mail server is named: links are handed over by leads.", "NAILWRIGHT_MAIL_HOST names one."
        )
    try:
        with smtplib.SMTP(settings.EMAIL_HOST, settings.EMAIL_PORT, timeout=settings.EMAIL_TIMEOUT) as server:
            server.noop()
    except (OSError, smtplib.SMTPException, socket.gaierror) as error:
        told = f"The mail server {settings.EMAIL_HOST}:{settings.EMAIL_PORT} does not answer: {error}."
        return Found("wrong", told, "Are NAILWRIGHT_MAIL_HOST and _PORT right, and may this machine reach it?")
    return Found("well", f"The mail server {settings.EMAIL_HOST} answers.")


def _backup(folder: Path) -> Found:
    files = sorted(folder.glob("*.sql.gz"), key=lambda file: file.stat().st_mtime) if folder.is_dir() else []
    if not files:
        return Found("wrong", f"There is no backup in {folder}.", "Is nailwright-backup.timer enabled?")
    newest = datetime.fromtimestamp(files[-1].stat().st_mtime, UTC)
    if timezone.now() - newest > BACKUP_OLD:
        return Found(
            "wrong",
            f"The newest backup is of {newest:%d %b %Y %H:%M} UTC.",
            "Look at systemctl status nailwright-backup.",
        )
    return Found("well", f"The newest backup is of {newest:%d %b %Y %H:%M} UTC.")


_OF_DATABASE: tuple[Callable[[], Found], ...] = (_migrations, _triggers, _clock, _worker, _people)
