"""A survey as the screens want it."""

from __future__ import annotations

from typing import Any

from nailwright.plan.actions import visit_days
from nailwright.plan.checklists import CHECKLISTS
from nailwright.plan.exports import next_season
from nailwright.plan.models import Survey
from nailwright.plan.parts import whole_parts
from nailwright.plan.queries import checklists_for, missing_for, pilot_of, progress_of, seasons_of
from nailwright.plan.reaches import reach_of
from nailwright.plan.serializers import SurveySerializer


def show_survey(survey: Survey) -> dict[str, Any]:
    """Everything of a survey but its heavy answers, which have addresses of their own."""
    progress = progress_of(survey)
    progress["outings"] = [
        {
            "id": outing.pk,
            "name": outing.name,
            "date": outing.date,
            "state": outing.state,
            "signed": list(outing.signatures.order_by("at").values_list("checklist", flat=True)),
        }
        for outing in progress["outings"]
    ]
    fields = ("pk", "name", "water_id", "water", "question", "species", "gear", "first", "last", "visits", "effort_s",
              "revisit_years", "programme_id", "get_question_display")  # fmt: skip
    shown = {name: getattr(survey, name) for name in fields}
    return SurveySerializer(
        {
            **shown,
            "id": survey.pk,
            "parts": whole_parts(survey.parts),
            "sites": _sites(survey),
            "days": _days(survey),
            "against": missing_for(survey, survey.first),
            "checklists": [CHECKLISTS[code] for code in checklists_for(survey)],
            "progress": progress,
            "pilot": pilot_of(survey),
        }
    ).data


def _sites(survey: Survey) -> list[dict[str, Any]]:
    sites = list(survey.sites.all())
    if not sites:
        return []
    reach = reach_of(survey.water)
    lon, lat = reach.point_at([min((site.start_m + site.end_m) / 2, reach.length_m) for site in sites])
    return [
        {
            "number": site.number, "start_m": site.start_m, "end_m": site.end_m, "zone": site.zone, "moved": site.moved,
            "lon": float(x), "lat": float(y),
        }
        for site, x, y in zip(sites, lon, lat, strict=True)
    ]  # fmt: skip


def _days(survey: Survey) -> list[dict[str, Any]]:
    days = [
        {"first": day, "last": day, "what": "visit", "words": f"Visit {number} of {survey.visits}"}
        for number, day in enumerate(visit_days(survey), 1)
    ]
    for season in seasons_of(survey):
        first, last = next_season(season, survey.first)
        days.append({"first": first, "last": last, "what": season.kind, "words": season.name})
    if survey.revisit_years:
        again = survey.first.replace(day=min(survey.first.day, 28), year=survey.first.year + survey.revisit_years)
        days.append(
            {"first": again, "last": again, "what": "revisit", "words": f"Revisit, every {survey.revisit_years} years"}
        )
    return sorted(days, key=lambda each: each["first"])
