"""Planned against done."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import asdict
from datetime import date, timedelta
from typing import Any

from django.db.models import Count

from nailwright.deck.models import Capture, Run
from nailwright.deck.outing.today import count_done
from nailwright.deck.tagging.quotas import marked
from nailwright.plan.models import Survey
from nailwright.plan.parts import parts_of
from nailwright.plan.surveys.days import visits_of
from nailwright_core.deck.gears import GEARS


def targets_of(survey: Survey) -> list[dict[str, Any]]:
    """Its targets, each with a zone and a month, or any."""
    return [asdict(each) for each in parts_of(survey.parts).targets]


def per_visit(survey: Survey, target: dict[str, Any]) -> int:
    """A visit's share of a target: of all visits, or of those in its month."""
    days = [each.day for each in visits_of(survey)]
    visits = sum(day.month == target["month"] for day in days) if target["month"] else len(days)
    return -(-int(target["wanted"]) // max(visits, 1))


def progress_of(survey: Survey) -> dict[str, Any]:
    """Planned against done: sites, effort, fish measured, marks; and by week."""
    outings = list(survey.outings.all())
    runs = Run.present.filter(outing__in=outings)
    fish = Capture.present.filter(run__outing__in=outings, run__deleted_at=None)
    planned = survey.sites.count() * survey.visits
    weeks: dict[date, dict[str, float]] = defaultdict(lambda: {"fish": 0, "marks": 0, "effort_s": 0.0, "sites": 0})
    for day, n in fish.filter(length_basis="measured").values_list("run__outing__date").annotate(n=Count("pk")):
        weeks[_monday(day)]["fish"] += n
    for day, n in fish.filter(marked()).values_list("run__outing__date").annotate(n=Count("pk")):
        weeks[_monday(day)]["marks"] += n
    for day, sites in runs.values_list("outing__date").annotate(sites=Count("site", distinct=True)):
        weeks[_monday(day)]["sites"] += sites
    fished_s = 0.0
    for run in runs.select_related("outing"):
        seconds = _fished_s(run, GEARS[survey.gear].electric)
        weeks[_monday(run.outing.date)]["effort_s"] += seconds
        fished_s += seconds
    targets = []
    for each in targets_of(survey):
        caught = fish.filter(run__outing__date__month=each["month"]) if each["month"] else fish
        done = count_done(caught, each["species"], each["what"], each["from_mm"], each["zone"])
        targets.append({**each, "per_visit": per_visit(survey, each), "done": done})
    return {
        "outings": outings,
        "sites_planned": planned,
        "sites_done": runs.values("outing", "site").distinct().count(),
        "effort_planned_s": planned * survey.effort_s,
        "effort_done_s": fished_s,
        "targets": targets,
        "weeks": [{"week": week, **numbers} for week, numbers in sorted(weeks.items())],
    }


def _fished_s(run: Run, electric: bool) -> float:
    """Seconds that count towards the plan: with current on, or, where no current flows, from a run's start to its end."""
    if electric or GEARS[run.gear].electric:
        return (run.current_on_s or 0.0) if electric else 0.0
    return (run.ended_at - run.started_at).total_seconds() if run.ended_at else 0.0


def _monday(day: date) -> date:
    return day - timedelta(days=day.weekday())
