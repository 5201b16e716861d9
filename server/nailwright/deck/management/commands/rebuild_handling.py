"""``manage.py rebuild_handling``: makes the sums of what was done to each fish true again and says how many were not."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from nailwright.deck.handling.summary import rebuild_handling


class Command(BaseCommand):
    help = "Sums up anew what was done to each fish; over true rows it changes nothing."

    def handle(self, *args: Any, **options: Any) -> None:
        with transaction.atomic():
            wrong = rebuild_handling()
        self.stdout.write(f"{wrong} rows were not true, and are now." if wrong else "The sums of all fish are true.")
