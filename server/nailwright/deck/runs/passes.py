"""Passes at one site while they are fished: the running estimate of removal, and this pass against the last visit."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from django.db.models import Sum

from nailwright.deck.models import Capture, Outing, Run
from nailwright.deck.runs.effort import effort_of_run
from nailwright.programmes.places import EVERYWHERE, Places
from nailwright.programmes.protocols import protocol_in
from nailwright.programmes.species.known import species_of
from nailwright_core.deck.gears import GEARS
from nailwright_core.findings.abundance import FALLS, passes_so_far


def passes_of(outing: Outing, places: Places = EVERYWHERE) -> list[dict[str, Any]]:
    """Each site with runs of current in this outing: fish by species and pass, what they say so far, and the last visit there.

    Args:
        places: of other species and sites nothing is told here.
    """
    electric = [code for code, gear in GEARS.items() if gear.electric]
    runs = list(
        Run.present.filter(outing=outing, gear__in=electric)
        .select_related("site", "outing__water")
        .order_by("started_at", "number")
    )
    names, hidden = species_of(outing.programme), places.hidden
    rows = protocol_in(outing.protocol).rows("removal_falls")
    falls = {float(row["fall"] or 0) / 100: float(row["weight"] or 0) for row in rows} or FALLS
    runs = [run for run in runs if places.show(run.site_id)]
    found = []
    for site in {run.site_id: run.site for run in runs}.values():
        here = [run for run in runs if run.site_id == site.pk]
        caught = _caught(here)
        species = []
        for code in sorted({code for code, _ in caught} - set(hidden)):
            catches = [caught.get((code, run.pk), 0) for run in here]
            so_far = passes_so_far(catches, falls=falls)
            species.append(
                {
                    "species": code,
                    "name": names[code].common_name,
                    "catches": catches,
                    "another": so_far.another,
                    "words": so_far.words if len(here) > 1 else "",
                }
            )
        found.append(
            {
                "site": site.pk,
                "name": site.name,
                "passes": len(here),
                "species": species,
                "before": _before(outing, here, hidden),
            }
        )
    return found


def _before(outing: Outing, here: list[Run], hidden: Collection[str]) -> str:
    """This pass against the last visit to the site with the same gear, in a sentence; empty where there was none."""
    last = (
        Run.present.filter(
            site=here[0].site_id, gear=here[0].gear, outing__programme=outing.programme, outing__date__lt=outing.date
        )
        .select_related("outing")
        .order_by("-outing__date")
        .first()
    )
    if last is None:
        return ""
    then = list(
        Run.present.filter(site=last.site_id, gear=last.gear, outing=last.outing_id).select_related("outing__water")
    )
    now_rate, then_rate = _rate(here, hidden), _rate(then, hidden)
    if now_rate is None or then_rate is None:
        return ""
    return (
        f"{now_rate[0]:,} fish in {now_rate[1]:.0f} min of current ({now_rate[0] / now_rate[1]:.1f} a minute); on "
        f"{last.outing.date:%Y-%m-%d} here {then_rate[0]:,} in {then_rate[1]:.0f} min ({then_rate[0] / then_rate[1]:.1f} a minute)."
    )


def _rate(runs: list[Run], hidden: Collection[str]) -> tuple[int, float] | None:
    """Fish and minutes of current; None where no current is written down."""
    seconds = sum(effort_of_run(run).value or 0 for run in runs)
    fish = sum(n for (species, _), n in _caught(runs).items() if species not in hidden)
    return (fish, seconds / 60) if seconds > 0 else None


def _caught(runs: list[Run]) -> dict[tuple[str, Any], int]:
    counted = Capture.present.filter(run__in=runs).values_list("species", "run").annotate(fish=Sum("count")).order_by()
    return {(species, run): fish for species, run, fish in counted}
