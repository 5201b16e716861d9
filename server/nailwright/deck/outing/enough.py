"""When it is enough: the precision that an outing has reached, against what its plan wanted, by the sites that were fished to their end."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection
from typing import Any
from uuid import UUID

import numpy as np
from django.db.models import Count, Q, Sum

from nailwright.deck.models import Capture, Outing, Run
from nailwright.deck.runs.effort import effort_of_run
from nailwright.programmes.species.known import species_of
from nailwright_core.common.by_site import share_by_site
from nailwright_core.common.species import Species
from nailwright_core.deck.gears import GEARS
from nailwright_core.plan.enough import FEWEST_SITES, catch_rate_so_far, size_structure_so_far

#: Wanted where no plan says anything: PSD within so many points, CV of the catch rate.
WITHIN, CV = 8.0, 0.2


def enough_of(outing: Outing, hidden: Collection[str] = ()) -> list[dict[str, Any]]:
    """Lines on size structure and catch rate of each target's species, or of all caught ones where there is no target.

    A site at which a run goes is not looked at: whoever stops in the middle of one stops by chance.
    """
    wanted = (outing.orders or {}).get("enough") or {}
    within, cv = wanted.get("psd_half") or WITHIN, wanted.get("cv") or CV
    kinds = species_of(outing.programme)
    whole = _whole_sites(outing)
    left = (
        outing.water.sites.filter(retired_at=None)
        .exclude(pk__in=Run.present.filter(outing=outing).values("site"))
        .count()
    )
    called = Capture.present.filter(run__outing=outing, run__deleted_at=None, run__site__in=whole)
    targets = list(outing.targets.order_by("species").values_list("species", flat=True).distinct())
    caught = called.order_by("species").values_list("species", flat=True).distinct()
    found = []
    for code in dict.fromkeys(targets or caught):
        if code in hidden:
            continue
        kind = kinds[code]
        measured = called.filter(
            species=code, length_basis="measured", length_type=kind.length_type, length_mm__isnull=False
        )
        fish = list(measured.values_list("length_mm", "run__site"))
        rates = _rates(outing, code, whole)
        lines: list[tuple[str, Any]] = []
        if fish:
            lengths = np.array([mm for mm, _ in fish], dtype=np.float64)
            sites = [str(site) for _, site in fish]
            past = _past_likeness(outing, kind) if len(set(sites)) < FEWEST_SITES else None
            lines.append(("", size_structure_so_far(lengths, sites, kind.size_categories, within, past, left)))
        lines += [
            (f"{GEARS[gear].label}. " if len(rates) > 1 else "", catch_rate_so_far(n, spent, cv, laid_out=left))
            for gear, (n, spent) in rates.items()
        ]
        for by, enough in lines:
            if enough is not None:
                found.append(
                    {
                        "species": code,
                        "name": kind.common_name,
                        "reached": enough.reached,
                        "more": enough.more,
                        "words": by + enough.words,
                    }
                )
    return found


def _whole_sites(outing: Outing) -> set[UUID]:
    """Sites of which no run goes any more."""
    runs = Run.present.filter(outing=outing)
    return set(runs.values_list("site", flat=True)) - set(runs.filter(ended_at=None).values_list("site", flat=True))


def _past_likeness(outing: Outing, kind: Species) -> float | None:
    """How alike stock-length fish of one site were on earlier visits to this water; None where few sites tell of it."""
    if kind.size_categories is None:
        return None
    stock, quality = kind.size_categories.stock, kind.size_categories.quality
    before = Capture.present.filter(
        run__outing__water=outing.water_id, run__deleted_at=None, species=kind.code, length_basis="measured",
        length_type=kind.length_type, length_mm__gte=stock,
    ).exclude(run__outing=outing)  # fmt: skip
    by_site = before.values_list("run__outing", "run__site").order_by()
    visits = list(by_site.annotate(of=Count("pk"), hits=Count("pk", filter=Q(length_mm__gte=quality))))
    if len(visits) < FEWEST_SITES:
        return None
    _, likeness = share_by_site([each[3] for each in visits], [each[2] for each in visits])
    return float(likeness.icc) if np.isfinite(likeness.icc) else None


def _rates(outing: Outing, species: str, whole: Collection[UUID]) -> dict[str, tuple[list[int], list[float]]]:
    """By gear, fish of a species and the effort spent for them at each site that was fished with effort written down.

    Gears of which more than one site is known; rates of two gears, in two units, are never put together.
    """
    runs = list(Run.present.filter(outing=outing, site__in=whole).select_related("outing__water"))
    caught = dict(
        Capture.present.filter(run__in=runs, species=species).values_list("run").annotate(fish=Sum("count")).order_by()
    )
    effort: dict[tuple[str, Any], float] = defaultdict(float)
    fish: dict[tuple[str, Any], int] = defaultdict(int)
    for run in runs:
        # a run of which nothing was written down gives no fish either: they would be caught with no effort
        if spent := effort_of_run(run).value:
            effort[run.gear, run.site_id] += spent
            fish[run.gear, run.site_id] += caught.get(run.pk, 0)
    found: dict[str, tuple[list[int], list[float]]] = defaultdict(lambda: ([], []))
    for (gear, site), spent in effort.items():
        found[gear][0].append(fish[gear, site])
        found[gear][1].append(spent)
    return {gear: rates for gear, rates in found.items() if len(rates[0]) > 1}
