"""``manage.py doctor``: what is wrong with this installation, in words."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from nailwright.config.doctor import examine

_SIGNS = {"well": "  well ", "look": "  look ", "wrong": "! wrong"}


class Command(BaseCommand):
    help = "Say what is wrong with this installation, and what to do."
    requires_system_checks = ()
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--backups", type=Path, help="folder where a timer keeps the files of bin/backup")

    def handle(self, *args: Any, **options: Any) -> None:
        wrong = 0
        for found in examine(options["backups"]):
            wrong += found.state == "wrong"
            self.stdout.write(f"{_SIGNS[found.state]}  {found.what} {found.to_do}".rstrip())
        if wrong:
            raise CommandError(f"{wrong} {'thing is' if wrong == 1 else 'things are'} wrong.")
