"""A mail server that delivers nothing: each letter is kept as a file, to be looked at.

    python -m standins.mail 8025 var/mail

It speaks SMTP on loopback (library: aiosmtpd). A real one takes its place by NAILWRIGHT_MAIL_HOST.
"""

from __future__ import annotations

import itertools
import signal
import sys
import threading
from pathlib import Path

from aiosmtpd.controller import Controller
from aiosmtpd.smtp import SMTP, Envelope, Session


class Keep:
    """Writes each letter into a folder: 0001.eml and on."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)
        there = [int(file.stem) for file in folder.glob("*.eml") if file.stem.isdigit()]
        self.numbers = itertools.count(max(there, default=0) + 1)

    async def handle_DATA(self, server: SMTP, session: Session, envelope: Envelope) -> str:
        content = envelope.content or b""
        letter = content if isinstance(content, bytes) else content.encode()
        file = self.folder / f"{next(self.numbers):04}.eml"
        file.with_suffix(".part").write_bytes(letter)
        file.with_suffix(".part").rename(file)  # whoever looks sees whole letters only
        return "250 kept"


def run(port: int, folder: Path) -> None:
    controller = Controller(Keep(folder), hostname="127.0.0.1", port=port)
    controller.start()
    ended = threading.Event()
    for each in (signal.SIGTERM, signal.SIGINT):
        signal.signal(each, lambda *_: ended.set())
    ended.wait()
    controller.stop()


if __name__ == "__main__":
    run(int(sys.argv[1]), Path(sys.argv[2]))
