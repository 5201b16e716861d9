"""Which captures a finding is about."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Any

from django.db.models import Prefetch, QuerySet

from nailwright.deck.models import Capture, CaptureTally, Gear, Run
from nailwright.programmes.models import Programme
from nailwright.programmes.places import EVERYWHERE, Places
from nailwright.waters.models import Site
from nailwright_core.common.errors import CoreError


@dataclass(frozen=True)
class Selection:
    """A filter of captures. Empty texts and tuples and None mean "all".

    ``once``: of a fish that was caught again only the last capture counts; which row that is, ``queries`` finds.
    """

    species: str = ""
    outings: tuple[str, ...] = ()
    waters: tuple[str, ...] = ()
    sites: tuple[str, ...] = ()
    reaches: tuple[str, ...] = ()
    gears: tuple[str, ...] = ()
    sexes: tuple[str, ...] = ()
    first: date | None = None
    last: date | None = None
    estimated: bool = False
    once: bool = False

    def __post_init__(self) -> None:
        if self.first and self.last:
            check_days(self.first, self.last)


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
    captures = (Capture.objects if deleted else Capture.present).filter(programme=programme)
    if selection.species:
        captures = captures.filter(species=selection.species)
    if selects_runs(selection):
        runs = runs_in(programme, selection).order_by()
        captures = captures.filter(run__in=list(runs.values_list("pk", flat=True)))
    if selection.sexes:
        captures = captures.filter(sex__in=selection.sexes)
    return captures.order_by()


def runs_in(programme: Programme, selection: Selection) -> QuerySet[Run]:
    """The runs of a selection, those with no catch among them."""
    return Run.present.filter(outing__programme=programme, **_run_filter(selection))


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
    return bool(_run_filter(selection))


def _run_filter(selection: Selection) -> dict[str, Any]:
    wanted: dict[str, Any] = {
        "outing__in": selection.outings,
        "outing__water__in": selection.waters,
        "site__in": selection.sites,
        "site__reach__in": selection.reaches,
        "gear__in": selection.gears,
        "outing__date__gte": selection.first,
        "outing__date__lte": selection.last,
    }
    return {name: value for name, value in wanted.items() if value}


def selection_options(programme: Programme, places: Places = EVERYWHERE) -> dict[str, Any]:
    """What can be chosen: species with fish, outings, waters with reaches and the sites that are shown."""
    sites = Site.objects.exclude(pk__in=places.secret)
    return {
        "species": [each.code for each in programme.species.all()],
        "outings": programme.outings.select_related("water"),
        "waters": programme.waters.order_by("name").prefetch_related(Prefetch("sites", sites)),
        "gears": [{"code": code, "label": label} for code, label in Gear.choices],
    }
