"""``manage.py load_demo``: brings in the made-up basin, beside a programme of one's own or alone."""

from __future__ import annotations

import time
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from demo.load import load
from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme


class Command(BaseCommand):
    help = "Load the made-up Ossling basin."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--if-empty", action="store_true", help="do nothing where there is a programme already")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["if_empty"] and Programme.objects.exists():
            return
        if Programme.objects.filter(demo=True).exists():
            raise CommandError("The demo is here already. bin/take-out-demo takes it out.")
        began = time.monotonic()
        load()
        self.stdout.write(f"Demo loaded: {Capture.objects.count():,} captures in {time.monotonic() - began:.1f} s.")
