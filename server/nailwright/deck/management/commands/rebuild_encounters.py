"""``manage.py rebuild_encounters``: makes encounters and sampling occasions true again and says how many were not."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from nailwright.deck.encounters import link_unknown_tags, rebuild_encounters


class Command(BaseCommand):
    help = "Makes encounters and sampling occasions true again; over true tables it changes nothing."

    def handle(self, *args: Any, **options: Any) -> None:
        with transaction.atomic():
            linked = link_unknown_tags()
            wrong = rebuild_encounters()
        if linked:
            self.stdout.write(f"{linked} captures with another programme's tag have their fish now.")
        self.stdout.write(
            f"{wrong} rows were not true, and are now." if wrong else "All encounters and occasions are true."
        )
