"""A survey as the screens want it."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from nailwright.deck.outing.checklists import CHECKLISTS
from nailwright.deck.outing.signatures import unsigned_of
from nailwright.plan.models import Survey
from nailwright.plan.parts import parts_of
from nailwright.plan.progress import progress_of
from nailwright.plan.readiness import checklists_asked, kit_for, missing_for
from nailwright.plan.surveys.days import days_of
from nailwright.plan.surveys.pilots import pilot_of
from nailwright.plan.surveys.serializers import SurveySerializer
from nailwright.waters.reaches import reach_of


def show_survey(survey: Survey) -> dict[str, Any]:
    """Everything of a survey but its heavy answers, which have addresses of their own."""
    progress, asked = progress_of(survey), checklists_asked(survey)
    progress["outings"] = [
        {
            "id": outing.pk,
            "name": outing.name,
            "date": outing.date,
            "state": outing.state,
            "unsigned": len(unsigned_of(outing)),
        }
        for outing in progress["outings"]
    ]
    fields = ("pk", "name", "water_id", "water", "question", "species", "gear", "more_gears", "first", "last", "visits", "effort_s",
              "revisit_years", "programme_id", "get_question_display")  # fmt: skip
    shown = {name: getattr(survey, name) for name in fields}
    return SurveySerializer(
        {
            **shown,
            "id": survey.pk,
            "parts": _without_none(asdict(parts_of(survey.parts))),
            "answered": [name for name, kept in survey.parts.items() if kept],
            "rehearsed": survey.rehearsals.exclude(result=None).count(),
            "sites": _sites(survey),
            "days": days_of(survey),
            "against": missing_for(survey, survey.first),
            "checklists": [CHECKLISTS[code] for code in asked],
            "more_checklists": [each for code, each in CHECKLISTS.items() if code not in asked],
            "kit": kit_for(survey),
            "progress": progress,
            "pilot": pilot_of(survey),
        }
    ).data


def _sites(survey: Survey) -> list[dict[str, Any]]:
    sites = list(survey.sites.select_related("zone"))
    if not sites:
        return []
    reach = reach_of(survey.water)
    # a line that was replaced may be shorter; where such a site would lie nobody knows
    places = [reach.point_at(site.middle_m) if site.end_m <= reach.length_m + 1e-6 else None for site in sites]
    return [
        {
            "number": site.number, "start_m": site.start_m, "end_m": site.end_m, "zone": site.zone_name, "moved": site.moved,
            "lon": place and float(place[0]), "lat": place and float(place[1]),
        }
        for site, place in zip(sites, places, strict=True)
    ]  # fmt: skip


def _without_none(parts: dict[str, Any]) -> dict[str, Any]:
    """A pilot is there only where it was chosen."""
    return {name: part for name, part in parts.items() if part is not None}
