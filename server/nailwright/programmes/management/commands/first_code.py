"""``manage.py first_code``: prints the code with which the first account of an installation is made."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from nailwright.programmes.people.beginning import new_first_code


class Command(BaseCommand):
    help = "Print a code for making the first account; prints nothing where there is one already."

    def handle(self, *args: Any, **options: Any) -> None:
        code = new_first_code()
        if code:
            self.stdout.write(
                f"No account of your own yet. To make the first one, the lead's, open the page and type: {code}"
            )
