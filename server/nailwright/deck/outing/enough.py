"""When it is enough: the precision that an outing has reached, against what its plan wanted."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection
from typing import Any

from django.db.models import Sum

from nailwright.deck.models import Capture, Outing, Run
from nailwright.deck.runs.effort import effort_of_run
from nailwright.programmes.species.known import species_of
from nailwright_core.deck.gears import GEARS
from nailwright_core.plan.enough import catch_rate_so_far, size_structure_so_far

#: Wanted where no plan says anything: PSD within so many points, CV of the catch rate.
WITHIN, CV = 8.0, 0.2


def enough_of(outing: Outing, hidden: Collection[str] = ()) -> list[dict[str, Any]]:
    """Lines on size structure and catch rate of each target's species, or of all caught ones where there is no target."""
    wanted = (outing.orders or {}).get("enough") or {}
    within, cv = wanted.get("psd_half") or WITHIN, wanted.get("cv") or CV
    kinds = species_of(outing.programme)
    called = Capture.present.filter(run__outing=outing, run__deleted_at=None)
    targets = list(outing.targets.order_by("species").values_list("species", flat=True).distinct())
    caught = called.order_by("species").values_list("species", flat=True).distinct()
    found = []
    for code in dict.fromkeys(targets or caught):
        if code in hidden:
            continue
        kind = kinds[code]
        measured = called.filter(species=code, length_basis="measured", length_type=kind.length_type)
        lengths = [mm for mm in measured.values_list("length_mm", flat=True) if mm is not None]
        rates = _rates(outing, code)
        lines = [("", size_structure_so_far(lengths, kind.size_categories, within))] if lengths else []
        lines += [
            (f"{GEARS[gear].label}. " if len(rates) > 1 else "", catch_rate_so_far(of, cv))
            for gear, of in rates.items()
        ]
        for by, said in lines:
            if said is not None:
                found.append(
                    {
                        "species": code,
                        "name": kind.common_name,
                        "reached": said.reached,
                        "more": said.more,
                        "words": by + said.words,
                    }
                )
    return found


def _rates(outing: Outing, species: str) -> dict[str, list[float]]:
    """By gear, fish of a species for one unit of its effort: one for each site that was fished with effort written down.

    Gears of which more than one site is known; rates of two gears, in two units, are never put together.
    """
    runs = list(Run.present.filter(outing=outing).exclude(ended_at=None).select_related("outing__water"))
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
    found: dict[str, list[float]] = defaultdict(list)
    for (gear, site), spent in effort.items():
        found[gear].append(fish[gear, site] / spent)
    return {gear: rates for gear, rates in found.items() if len(rates) > 1}
