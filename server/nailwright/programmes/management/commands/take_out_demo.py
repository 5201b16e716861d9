"""``manage.py take_out_demo``: deletes the made-up programme with all that belongs to it, and the people who were made up."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from nailwright.programmes.record.removal import take_out_demo


class Command(BaseCommand):
    help = "Delete the demo: its programme, its fish, its people. Nothing else goes."

    def handle(self, *args: Any, **options: Any) -> None:
        names = take_out_demo()
        told = f"Taken out: {', '.join(names)}, and the people who were made up." if names else "There is no demo here."
        self.stdout.write(told)
