"""The visit before this one, which the board shows behind the fish of tonight."""

from __future__ import annotations

from typing import Any

from django.db.models import Max

from nailwright.deck.models import Capture, CaptureTally, Outing, Run, VisitGroups
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.cohorts import FEW_FISH, fit_cohorts

#: Fewer measured fish of a species show no groups.
GROUPS_FROM = 4 * FEW_FISH


def visit_before(outing: Outing) -> Outing | None:
    """The outing before this one on the same water with the same gear."""
    before = Outing.objects.filter(
        programme=outing.programme, water=outing.water, gear=outing.gear, date__lt=outing.date
    )
    return before.order_by("-date").first()


def lengths_of(outing: Outing) -> dict[str, list[float]]:
    """Measured lengths by species, mm; those of another type than the species' own are no lengths for its board."""
    lengths: dict[str, list[float]] = {}
    kinds = species_of(outing.programme)
    rows = Capture.present.filter(run__outing=outing, length_basis="measured").exclude(length_mm=None)
    for code, mm, length_type in rows.values_list("species", "length_mm", "length_type"):
        assert mm is not None
        if length_type == kinds[code].length_type:
            lengths.setdefault(code, []).append(mm)
    return lengths


def groups_of(outing: Outing) -> dict[str, list[dict[str, Any]]]:
    """Groups of lengths by species, as ``find_groups`` kept them; nothing where it has not, or where its fish have changed since."""
    row = VisitGroups.objects.filter(outing=outing).first()
    return row.by_species if row and row.touch == _touch(outing) else {}


def groups_are_old(outing: Outing) -> bool:
    """Whether the groups of a visit are to be found (again)."""
    return not VisitGroups.objects.filter(outing=outing, touch=_touch(outing)).exists()


def find_groups(outing: Outing) -> None:
    """Fit groups to the lengths of each species with enough of them, and keep them; seconds for each species."""
    touch = _touch(outing)
    found: dict[str, list[dict[str, Any]]] = {}
    for code, lengths in lengths_of(outing).items():
        if len(lengths) < GROUPS_FROM:
            continue
        try:
            fit = fit_cohorts(lengths)
        except CoreError:
            continue  # all of one length: no groups to be had
        apart = [True, *map(bool, fit.separated), True]
        found[code] = [
            {
                "mean_mm": round(float(fit.means[place]), 1),
                "sd_mm": round(float(fit.sds[place]), 1),
                "n": round(float(fit.n_each[place])),
                "apart": apart[place] and apart[place + 1],
            }
            for place in range(fit.k)
        ]
    VisitGroups.objects.update_or_create(outing=outing, defaults={"touch": touch, "by_species": found})


def _touch(outing: Outing) -> int:
    runs = Run.objects.filter(outing=outing).values("pk")
    return CaptureTally.objects.filter(run_id__in=runs).aggregate(newest=Max("touch"))["newest"] or 0
