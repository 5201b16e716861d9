"""``manage.py load_demo``: fills an empty database with the made-up basin."""

from __future__ import annotations

import time
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from demo.load import load
from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme


class Command(BaseCommand):
    help = "Load the made-up Ossling basin into an empty database."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--if-empty", action="store_true", help="say nothing and do nothing where there are data")

    def handle(self, *args: Any, **options: Any) -> None:
        if Programme.objects.exists():
            if options["if_empty"]:
                return
            raise CommandError("There are data already; the demo goes into an empty database only.")
        began = time.monotonic()
        load()
        self.stdout.write(f"Demo loaded: {Capture.objects.count():,} captures in {time.monotonic() - began:.1f} s.")
