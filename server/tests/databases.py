"""Databases of the tests' own. One like another is made once in a run of the tests and copied from then on: a copy takes two seconds,
migrations and the demo forty."""

from __future__ import annotations

import fcntl
import os
import subprocess
import sys
import tempfile
from pathlib import Path

from bench.fresh import client, dump_of

ROOT = Path(__file__).resolve().parents[2]
#: What was made in this run; bin/test gives all its workers one folder, and takes it away.
MADE = Path(os.environ.get("NAILWRIGHT_TEST_RUN") or tempfile.mkdtemp())


def new_database(kind: str, *commands: str) -> str:
    """An empty database, or one that these commands of the server's own filled, as bin/start uses them; its name."""
    name = f"nailwright_{kind}_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"
    _copied(name, made_once(commands))
    return name


def made_once(commands: tuple[str, ...]) -> bytes:
    """What a database holds after these commands; whoever asks for the same meanwhile waits, instead of making it a second time."""
    with (MADE / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        return _filled(commands)


def manage(database: str, *command: str) -> str:
    """What one of the server's own commands prints."""
    done = subprocess.run(
        [sys.executable, "server/manage.py", *command],
        env={**os.environ, "NAILWRIGHT_DB_NAME": database}, cwd=ROOT, check=True, stdout=subprocess.PIPE, text=True,
    )  # fmt: skip
    return done.stdout


def _filled(commands: tuple[str, ...]) -> bytes:
    """What a database holds after these commands, each on what those before it made."""
    if not commands:
        return b""
    made = MADE / f"{'-'.join(commands)}.sql"
    if not made.exists():
        name = "nailwright_template"
        _copied(name, _filled(commands[:-1]))
        manage(name, commands[-1], "--verbosity", "0")
        made.write_bytes(dump_of(name))
    return made.read_bytes()


def _copied(name: str, content: bytes) -> None:
    client("mariadb", "-e", f"DROP DATABASE IF EXISTS {name}; CREATE DATABASE {name} CHARACTER SET utf8mb4")
    if content:
        client("mariadb", name, given=content)


if (
    __name__ == "__main__"
):  # bin/test makes those that the browser's tests begin with beside the first ones, which leave a core idle
    made_once(tuple(sys.argv[1:]))
