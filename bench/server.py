"""The application's server for measurements over real sockets."""

from __future__ import annotations

import os
import random
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path

import requests


def free_port() -> int:
    """A port of this machine that nobody listens at."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Server:
    """gunicorn with two workers; they may be killed, and it is reached again at the same address."""

    def __init__(self, threads: int = 8, log: str = os.devnull) -> None:
        self._log = log
        self._threads = threads
        self.address = f"127.0.0.1:{free_port()}"
        self.killed = 0
        self.start()

    def start(self) -> None:
        command = [sys.executable, "-m", "gunicorn", "nailwright.config.wsgi", "--bind", self.address, "-k", "gthread",
                   "-w", "2", "--threads", str(self._threads), "--log-level", "critical"]  # fmt: skip
        self.process = subprocess.Popen(
            command, env={**os.environ, "NAILWRIGHT_LOG": self._log, "NAILWRIGHT_THREADS": str(self._threads)}
        )

    def workers(self) -> list[int]:
        children = Path(f"/proc/{self.process.pid}/task/{self.process.pid}/children")
        return [int(each) for each in children.read_text().split()]

    def kill_one(self) -> None:
        """A worker, with whatever it is doing; each fourth time all of the server."""
        self.killed += 1
        workers = self.workers()
        if self.killed % 4 == 0:
            for pid in [self.process.pid, *workers]:
                os.kill(pid, signal.SIGKILL)
            self.process.wait()
            self.start()
        elif workers:
            os.kill(random.choice(workers), signal.SIGKILL)

    def wait(self) -> None:
        """Until it answers."""
        for _ in range(300):
            try:
                requests.get(f"http://{self.address}/api/v1/health", timeout=5)
                return
            except requests.RequestException:
                time.sleep(0.1)
        raise SystemExit("The server gave no answer in 30 s.")

    def stop(self) -> None:
        self.process.terminate()
        self.process.wait(30)
