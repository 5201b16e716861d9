"""A MariaDB of one test's or measurement's own, which may be killed, or end by itself."""

from __future__ import annotations

import getpass
import os
import socket
import subprocess
import tempfile
import time
from pathlib import Path

from bench.fresh import dump_of
from bench.server import free_port

PATH = f"{os.environ['PATH']}:/usr/sbin:/sbin"  # where Debian keeps mariadbd


class OwnDatabase:
    """Durable as the shipped one (bin/common.sh): what it answered as stored is on the disk."""

    name = "nailwright_own"

    def __init__(self, folder: Path, *options: str) -> None:
        self.port = free_port()
        self._options = options
        self.environment = {
            "NAILWRIGHT_DB_HOST": "127.0.0.1", "NAILWRIGHT_DB_PORT": str(self.port), "NAILWRIGHT_DB_USER": "own",
            "NAILWRIGHT_DB_PASSWORD": "own", "NAILWRIGHT_DB_NAME": self.name,
        }  # fmt: skip
        self._data = folder / "data"
        self._first = folder / "first.sql"
        self._first.write_text(
            f"CREATE DATABASE IF NOT EXISTS {self.name} CHARACTER SET utf8mb4;\n"
            "CREATE USER IF NOT EXISTS own@'127.0.0.1' IDENTIFIED BY 'own';\n"
            f"GRANT ALL ON {self.name}.* TO own@'127.0.0.1';\n"
        )
        # a socket's path may have about 100 characters
        self._socket = Path(tempfile.mkdtemp()) / "s"
        self._run("mariadb-install-db", "--skip-test-db", "--auth-root-authentication-method=socket").wait(120)

    def _run(self, command: str, *more: str) -> subprocess.Popen[bytes]:
        given = ["--no-defaults", f"--user={getpass.getuser()}", f"--datadir={self._data}", *more]
        quiet = subprocess.DEVNULL
        return subprocess.Popen([command, *given], env={**os.environ, "PATH": PATH}, stdout=quiet, stderr=quiet)

    def start(self) -> None:
        self._process = self._run(
            "mariadbd", f"--socket={self._socket}", f"--port={self.port}", "--bind-address=127.0.0.1",
            f"--init-file={self._first}", "--innodb-flush-log-at-trx-commit=1", "--character-set-server=utf8mb4",
            "--max-allowed-packet=64M", *self._options,
        )  # fmt: skip
        until = time.monotonic() + 60
        while True:
            assert not self.ended(), "MariaDB did not start."
            try:
                socket.create_connection(("127.0.0.1", self.port), 1).close()
                return
            except OSError:
                assert time.monotonic() < until, "MariaDB gave no answer in 60 s."
                time.sleep(0.1)

    def ended(self) -> bool:
        """Whether it ended by itself."""
        return self._process.poll() is not None

    def kill(self) -> None:
        self._process.kill()
        self._process.wait()

    def copy(self, database: str) -> None:
        """What a database of the server that the settings name holds; quicker than to make it anew."""
        load = ["mariadb", "--no-defaults", "-h", "127.0.0.1", "-P", str(self.port), "-u", "own", self.name]
        subprocess.run(load, env={**os.environ, "MYSQL_PWD": "own"}, check=True, input=dump_of(database))
