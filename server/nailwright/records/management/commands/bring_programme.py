"""Brings in a programme from an archive that is too large for the screen."""

from __future__ import annotations

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from nailwright.common.errors import Refused
from nailwright.programmes.models import Person
from nailwright.records.archive import bring_programme
from nailwright_core.common.errors import CoreError


class Command(BaseCommand):
    help = "Import a programme from its archive; the person named leads it here."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--lead", required=True, help="User name of somebody who leads a programme here")

    def handle(self, *_: Any, file: Path, lead: str, **__: Any) -> None:
        person = Person.objects.filter(username=lead).first()
        if person is None:
            raise CommandError(f"Nobody here is called {lead}.")
        try:
            brought = bring_programme(person, file.read_bytes())
        except (CoreError, Refused, OSError) as refused:
            raise CommandError(str(refused)) from refused
        self.stdout.write(
            f"{brought['name']}: {brought['new']:,} rows came in, {brought['there']:,} were here already."
        )
