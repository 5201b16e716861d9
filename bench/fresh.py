"""A database of its own for each part: what one leaves behind does not stand in the way of the next."""

from __future__ import annotations

import os
import re
import subprocess

from django.conf import settings
from django.db import connections


def fresh_database(whole: str) -> None:
    """Make the database that parts measure anew from ``whole``, which holds the demo and is never written to."""
    connections.close_all()
    name = str(settings.DATABASES["default"]["NAME"])
    made = f"DROP DATABASE IF EXISTS {name}; CREATE DATABASE {name} CHARACTER SET utf8mb4"
    client("mariadb", "-e", made)
    client("mariadb", name, given=dump_of(whole))


def dump_of(name: str) -> bytes:
    """All that a database of the server that is measured holds, as SQL."""
    dumped = client("mariadb-dump", "--single-transaction", "--quick", "--no-tablespaces", "--hex-blob", name)
    # whoever loads it owns its triggers, as in bin/common.sh
    return re.sub(rb"/\*!50017 DEFINER=[^*]*\*/ ?", b"", dumped)


def client(program: str, *asked: str, given: bytes | None = None) -> bytes:
    """What one of MariaDB's own programs says when asked on the server that the settings name."""
    of = settings.DATABASES["default"]
    reach = ["--no-defaults", "-h", str(of["HOST"]), "-P", str(of["PORT"]), "-u", str(of["USER"])]
    environment = {**os.environ, "MYSQL_PWD": str(of["PASSWORD"])}
    done = subprocess.run([program, *reach, *asked], env=environment, check=True, input=given, stdout=subprocess.PIPE)
    return done.stdout
