"""Which fish a finding is about: a new filter is one line of ``Selection``, and one of the screens' list."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from datetime import date
from functools import cache
from typing import Any

from django.db.models import Prefetch, QuerySet
from rest_framework import serializers

from nailwright.deck.models import Capture, CaptureTally, Gear, Run
from nailwright.findings.filters import Filter, Of, many, of_captures, of_runs, of_sizes
from nailwright.programmes.models import Programme
from nailwright.programmes.places import EVERYWHERE, Places
from nailwright.waters.models import Site
from nailwright_core.common.errors import CoreError


@dataclass(frozen=True)
class Selection:
    """Which fish a finding is about. Empty texts and tuples and None mean "all"; ``filters`` says what each part does."""

    species: str = field(default="", metadata=of_captures(serializers.CharField(max_length=8), "species"))
    outing: tuple[str, ...] = field(default=(), metadata=of_runs(many(serializers.UUIDField()), "outing__in"))
    water: tuple[str, ...] = field(default=(), metadata=of_runs(many(serializers.UUIDField()), "outing__water__in"))
    site: tuple[str, ...] = field(default=(), metadata=of_runs(many(serializers.UUIDField()), "site__in"))
    zone: tuple[str, ...] = field(
        default=(), metadata=of_runs(many(serializers.CharField(max_length=60)), "site__zone__name__in")
    )
    gear: tuple[str, ...] = field(default=(), metadata=of_runs(many(serializers.ChoiceField(Gear.choices)), "gear__in"))
    sex: tuple[str, ...] = field(
        default=(), metadata=of_captures(many(serializers.ChoiceField(Capture.Sex.choices)), "sex__in")
    )
    first: date | None = field(
        default=None,
        metadata=of_runs(serializers.DateField(required=False, help_text="First day, YYYY-MM-DD"), "outing__date__gte"),
    )
    last: date | None = field(
        default=None,
        metadata=of_runs(serializers.DateField(required=False, help_text="Last day, YYYY-MM-DD"), "outing__date__lte"),
    )
    estimated: bool = field(
        default=False,
        metadata=of_sizes(serializers.BooleanField(default=False, help_text="Also lengths and masses judged by eye")),
    )
    once: bool = field(
        default=False,
        metadata=of_sizes(
            serializers.BooleanField(default=False, help_text="Of a fish caught again only the last capture")
        ),
    )

    def __post_init__(self) -> None:
        if self.first and self.last:
            check_days(self.first, self.last)

    def lookups(self, of: Of) -> dict[str, Any]:
        """What is chosen of runs or of captures, as Django's ORM asks for it."""
        asked = {each.lookup: getattr(self, name) for name, each in filters().items() if each.of == of}
        return {lookup: value for lookup, value in asked.items() if value}


@cache
def filters() -> Mapping[str, Filter]:
    """Every part of a selection by its name in the address."""
    return {each.name: each.metadata["filter"] for each in fields(Selection)}


def check_days(first: date, last: date) -> None:
    """Refuse a last day before the first.

    Raises:
        CoreError: ``dates_reversed``.
    """
    if last < first:
        raise CoreError("dates_reversed", f"The last day ({last}) is before the first ({first}).", "last")


def captures_in(programme: Programme, selection: Selection, deleted: bool = False) -> QuerySet[Capture]:
    """The captures of a selection; those with no length or an estimated one are among them, deleted ones if asked for.

    The runs are found first: they are few, and then the captures come from one index alone.
    """
    captures = (Capture.objects if deleted else Capture.present).filter(
        programme=programme, **selection.lookups("captures")
    )
    if selects_runs(selection):
        runs = runs_in(programme, selection).order_by()
        captures = captures.filter(run__in=list(runs.values_list("pk", flat=True)))
    return captures.order_by()


def runs_in(programme: Programme, selection: Selection) -> QuerySet[Run]:
    """The runs of a selection, those with no catch among them."""
    return Run.present.filter(outing__programme=programme, **selection.lookups("runs"))


def tally_of(programme: Programme, selection: Selection) -> QuerySet[CaptureTally]:
    """The tallies of a selection's species and runs; of both sexes, also where it asks for one."""
    tally = CaptureTally.objects.filter(programme_id=programme.pk)
    if selection.species:
        tally = tally.filter(species=selection.species)
    if selects_runs(selection):
        tally = tally.filter(run_id__in=runs_in(programme, selection).order_by().values("pk"))
    return tally


def selects_runs(selection: Selection) -> bool:
    """Whether not every run is in it."""
    return bool(selection.lookups("runs"))


def selection_options(programme: Programme, places: Places = EVERYWHERE) -> dict[str, Any]:
    """What can be chosen: species with fish, outings, waters with zones and the sites that are shown."""
    sites = Site.objects.exclude(pk__in=places.secret).select_related("zone")
    return {
        "species": [each.code for each in programme.species.all()],
        "outings": programme.outings.select_related("water"),
        "waters": programme.waters.order_by("name").prefetch_related(Prefetch("sites", sites)),
        "gears": [{"code": code, "label": label} for code, label in Gear.choices],
    }
