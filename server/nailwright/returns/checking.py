"""What speaks against a report, from the record of its fish."""

from __future__ import annotations

from datetime import date

import numpy as np

from nailwright.returns.days import day_of
from nailwright.returns.models import Return
from nailwright.tags.models import Encounter, Placement
from nailwright_core.tags.plausibility import Doubt, LastKnown, Reported, doubts_of_report
from nailwright_core.waters.on_water import metres_off_water


def doubts_of(report: Return) -> tuple[Doubt, ...]:
    """The doubts of a report that was matched with a fish; none where it was not."""
    if report.fish is None:
        return ()
    return doubts_of_report(last_known(report), _reported(report))


def other_reports(report: Return) -> list[Return]:
    """Other reports of the same tag or fish, the newest first."""
    if report.fish_id is None and report.tag_id is None:
        return []
    same = {"fish": report.fish_id} if report.fish_id else {"tag": report.tag_id}
    others = Return.objects.filter(programme=report.programme_id, **same).exclude(pk=report.pk)
    return list(others.select_related("finder"))


def last_known(report: Return) -> LastKnown:
    """What the record knows of the fish of a report until the day on which it was found.

    Raises:
        ValueError: it was matched with no fish.
    """
    fish = report.fish
    if fish is None:
        raise ValueError("The report is of no known fish.")
    programme = report.programme
    met = list(Encounter.objects.filter(fish=fish).exclude(source_id=report.pk).order_by("at", "id"))
    before = [each for each in met if report.found_on is None or day_of(programme, each.at) <= report.found_on] or met[
        :1
    ]
    last = before[-1] if before else None
    measured = next((each for each in reversed(before) if each.length_mm is not None), None)
    lost = next((each for each in met if each.disposition in Encounter.LOSSES), None)
    first = _tagged(report)
    free = last is not None and last.let_go_lat is not None
    return LastKnown(
        species=fish.species,
        tagged=first,
        met=day_of(programme, last.at) if last else None,
        lat=(last.let_go_lat if free else last.lat) if last else None,
        lon=(last.let_go_lon if free else last.lon) if last else None,
        error_m=((last.let_go_error_m if free else last.error_m) or 0.0) if last else 0.0,
        length_mm=measured.length_mm if measured else None,
        measured=day_of(programme, measured.at) if measured else None,
        gone=day_of(programme, lost.at) if lost else None,
        tag_gone=_tag_gone(report),
    )


def _tagged(report: Return) -> date | None:
    placed = Placement.present.filter(fish=report.fish, tag=report.tag).order_by("device_time").first()
    return day_of(report.programme, placed.device_time) if placed else None


def _tag_gone(report: Return) -> date | None:
    """When another report removed the tag; None where it sits in the fish, or nobody reported when it went."""
    placed = Placement.present.filter(fish=report.fish, tag=report.tag, living_tag=None).exists()
    if not placed:
        return None
    removed = Return.objects.filter(
        tag=report.tag, state=Return.State.VERIFIED, tag_fate=Return.TagFate.REMOVED
    ).exclude(pk=report.pk)
    days = removed.exclude(found_on=None).order_by("found_on").values_list("found_on", flat=True)
    return days.first()


def _reported(report: Return) -> Reported:
    others = [each.found_on for each in other_reports(report) if each.found_on and each.state != Return.State.REJECTED]
    return Reported(
        species=report.species,
        found=report.found_on,
        within_days=report.found_within_days,
        lat=report.lat,
        lon=report.lon,
        error_m=report.error_m or 0.0,
        length_mm=report.length_mm,
        estimated=report.length_estimated,
        off_water_m=_off_water(report),
        other_days=tuple(others),
    )


def _off_water(report: Return) -> float | None:
    """Metres to the nearest water that is drawn."""
    if report.lat is None or report.lon is None:
        return None
    drawn = (each.geometry for each in report.programme.waters.all())
    off = [metres_off_water(each, [report.lat], [report.lon]) for each in drawn]
    metres = [float(np.min(each)) for each in off if each is not None]
    return min(metres) if metres else None
