"""A verified report as an encounter of its fish."""

from __future__ import annotations

from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from nailwright.returns.models import Return
from nailwright.tags.encounters import replace_encounters
from nailwright.tags.models import Encounter

_HALF_A_DAY_S = 43_200.0
_DISPOSITIONS = {
    Return.FishFate.RELEASED: Encounter.Disposition.RELEASED,
    Return.FishFate.KEPT: Encounter.Disposition.RETAINED,
    Return.FishFate.DEAD: Encounter.Disposition.DEAD,
}


def renew_return(report: Return) -> int:
    """Make the encounter of a report true: one where it is verified, none elsewhere. How many rows that took."""
    now = [encounter_of(report)] if report.state == Return.State.VERIFIED else []
    return replace_encounters(Encounter.Kind.RETURN, [report.pk], now)


def encounter_of(report: Return) -> Encounter:
    """What a report says as an encounter: at noon of its day in the programme's zone, or after the crew had it in hand that same day;
    where it was found and, alive, let go.

    A length by eye is no measurement and is not in it.
    """
    assert report.fish_id is not None and report.found_on is not None
    at = _moment(report)
    disposition = _DISPOSITIONS.get(Return.FishFate(report.fish_fate)) if report.fish_fate else None
    free = disposition == Encounter.Disposition.RELEASED
    return Encounter(
        fish_id=report.fish_id,
        kind=Encounter.Kind.RETURN,
        source_id=report.pk,
        at=at,
        at_error_s=_HALF_A_DAY_S + 86_400.0 * report.found_within_days,
        lat=report.lat,
        lon=report.lon,
        error_m=report.error_m,
        length_mm=None if report.length_estimated else report.length_mm,
        mass_g=report.mass_g,
        disposition=disposition or "",
        let_go_at=at if free else None,
        let_go_lat=report.lat if free else None,
        let_go_lon=report.lon if free else None,
        let_go_error_m=report.error_m if free else None,
    )


def _moment(report: Return) -> datetime:
    assert report.found_on is not None
    zone = ZoneInfo(report.programme.time_zone)
    noon = datetime.combine(report.found_on, time(12), zone)
    night = datetime.combine(report.found_on, time(23, 59), zone)
    that_day = Encounter.objects.filter(fish=report.fish_id, at__range=(noon - timedelta(hours=12), night))
    last = that_day.exclude(source_id=report.pk).order_by("at").last()
    return min(max(noon, last.at + timedelta(minutes=1)), night) if last else noon


def rebuild_returns() -> int:
    """Make the encounters of all reports true; 0 over true tables."""
    reports = Return.objects.exclude(fish=None).select_related("programme")
    known = sum(map(renew_return, reports.iterator()))
    told = set(Encounter.objects.filter(kind=Encounter.Kind.RETURN).values_list("source_id", flat=True))
    stray = told - set(reports.values_list("pk", flat=True))
    return known + replace_encounters(Encounter.Kind.RETURN, stray, [])
