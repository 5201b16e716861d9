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
    of = settings.DATABASES["default"]
    name = str(of["NAME"])
    reach = ["--no-defaults", "-h", str(of["HOST"]), "-P", str(of["PORT"]), "-u", str(of["USER"])]
    environment = {**os.environ, "MYSQL_PWD": str(of["PASSWORD"])}
    made = f"DROP DATABASE IF EXISTS {name}; CREATE DATABASE {name} CHARACTER SET utf8mb4"
    subprocess.run(["mariadb", *reach, "-e", made], env=environment, check=True)
    dumped = subprocess.run(
        ["mariadb-dump", *reach, "--single-transaction", "--quick", "--no-tablespaces", "--hex-blob", whole],
        env=environment, check=True, stdout=subprocess.PIPE,
    ).stdout  # fmt: skip
    # whoever loads it owns its triggers, as in bin/common.sh
    ours = re.sub(rb"/\*!50017 DEFINER=[^*]*\*/ ?", b"", dumped)
    subprocess.run(["mariadb", *reach, name], env=environment, check=True, input=ours)
