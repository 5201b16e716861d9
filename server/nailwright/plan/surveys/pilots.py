"""Past data that a survey starts from: those of a selection, or of its own species, water and gear."""

from __future__ import annotations

from typing import Any

from django.db.models import Q, Sum

from nailwright.deck.runs.effort import effort_of_run
from nailwright.findings.queries import lengths_of
from nailwright.findings.request_query import SelectionSerializer, read_query
from nailwright.findings.selections import runs_in
from nailwright.plan.models import Survey
from nailwright.programmes.species.known import species_of
from nailwright_core.deck.gears import GEARS, RATES
from nailwright_core.plan.effort import pilot
from nailwright_core.plan.sample_size import lengths_before


def pilot_of(survey: Survey) -> dict[str, Any]:
    """What past data say: catch per unit of the gear's effort, its spread among runs, PSD, SD of lengths; and of which selection."""
    own = {"species": survey.species[0], "water": [str(survey.water_id)], "gear": [survey.gear]}
    asked = survey.parts.get("pilot") or own
    selection = read_query(SelectionSerializer, asked).selection()
    kind = species_of(survey.programme)[selection.species]
    counted = Q(captures__deleted_at=None, captures__species=kind.code)
    if selection.sex:
        counted &= Q(captures__sex__in=selection.sex)
    # of one gear: efforts of several are not of one kind
    gear = selection.gear[0] if selection.gear else survey.gear
    divide, per = RATES[GEARS[gear].effort]
    chosen = runs_in(survey.programme, selection).filter(gear=gear).select_related("outing__water")
    fished = [
        (effort_of_run(run).value, run.n or 0) for run in chosen.annotate(n=Sum("captures__count", filter=counted))
    ]
    runs = [(effort / divide, n) for effort, n in fished if effort]
    lengths = lengths_of(survey.programme, selection).length_mm
    before = lengths_before(lengths, kind.size_categories)
    found: dict[str, Any] = {
        "selection": asked, "species": kind.common_name, "runs": len(runs), "fish": before.n, "psd": before.psd,
        "mean_mm": before.mean_mm if before.n > 1 else None, "sd_mm": before.sd_mm if before.n > 1 else None,
        "per": per, "cpue": None, "cpue_low": None, "cpue_high": None, "catch_mean": None, "catch_variance": None, "k": None,
    }  # fmt: skip
    if len(runs) >= 2:
        past = pilot([n for _, n in runs], [effort for effort, _ in runs])
        found |= {
            "cpue": past.cpue.value, "cpue_low": past.cpue.lower, "cpue_high": past.cpue.upper,
            "catch_mean": past.mean, "catch_variance": past.variance, "k": min(past.k, 1000.0),
        }  # fmt: skip
    return found
