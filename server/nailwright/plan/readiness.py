"""What stands against going out, and which checklists an outing asks for."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any

from nailwright.deck.outing.checklists import needed_for
from nailwright.permits.models import Permit
from nailwright.permits.states import permit_state
from nailwright.plan.models import Season, Survey
from nailwright.plan.parts import parts_of
from nailwright.plan.surveys.days import in_season, seasons_of
from nailwright.programmes.protocols import standing_protocol
from nailwright.waters.models import Zone
from nailwright.waters.reaches import reach_of
from nailwright_core.deck.gears import GEARS
from nailwright_core.plan.tag_choice import IMPLANTED
from nailwright_core.plan.wording import (
    ALONE,
    NOBODY_AT_SWITCH,
    NOBODY_QUALIFIED,
    beyond_line,
    certificate_line,
    permit_line,
    season_line,
)


def is_electric(survey: Survey) -> bool:
    """Whether current flows with one of its gears."""
    return any(GEARS[gear].electric for gear in survey.gears)


#: A site nearer than this to a dam asks for its checklist (ours, no source).
NEAR_DAM_M = 2000


def goes_alone(survey: Survey) -> bool:
    """Whether an electrofishing survey names fewer than two different people."""
    crew = {name.strip().lower() for name in parts_of(survey.parts).crew}
    return is_electric(survey) and len(crew - {""}) < 2


def missing_for(survey: Survey, day: date) -> list[str]:
    """What stands against going out on a day, in sentences."""
    found = []
    crew = [name for name in parts_of(survey.parts).crew if name.strip()]
    if goes_alone(survey):
        found.append(ALONE)
    permits = [each for each in survey.programme.permits.all() if not each.gears or set(survey.gears) & set(each.gears)]
    for permit in permits:
        state = permit_state(permit, day)
        if permit.kind == Permit.Kind.PERMIT and state in ("expired", "not yet"):
            found.append(permit_line(permit.name, permit.first, permit.last, day))
        if permit.kind == Permit.Kind.CERTIFICATE and permit.holder in crew and state == "expired":
            found.append(certificate_line(permit.holder, permit.name, permit.last))
    if is_electric(survey) and crew:
        electric = {gear for gear in survey.gears if GEARS[gear].electric}
        led = any(
            each.kind == Permit.Kind.CERTIFICATE
            and each.holder in crew
            and electric & set(each.gears)  # one for no gear, such as first aid, makes nobody a leader
            and permit_state(each, day) in ("valid", "soon")
            for each in permits
        )
        if not led:
            found.append(NOBODY_QUALIFIED)
    stations = parts_of(survey.parts).stations
    if is_electric(survey) and stations and not any(each.station == "pedal" for each in stations):
        found.append(NOBODY_AT_SWITCH)
    sites = list(survey.sites.all())
    if sites:
        length = reach_of(survey.water).length_m
        beyond = [site.number for site in sites if site.end_m > length + 1e-6]
        if beyond:
            found.append(beyond_line(beyond))
    found += [
        season_line(season.name, season.first_day, season.last_day)
        for season in seasons_of(survey)
        if season.kind == Season.Kind.CLOSED and in_season(season, day)
    ]
    return found


def kit_for(survey: Survey) -> list[Mapping[str, Any]]:
    """What the protocol wants aboard for what this survey does."""
    parts = parts_of(survey.parts)
    does = {
        "surgery": parts.tags.kind in IMPLANTED,
        "tags": bool(parts.tags.kind),
        "bath": bool(parts.bath.agent),
        "angling": any(GEARS[gear].effort == "rod_hours" for gear in survey.gears),
    }
    return [
        each
        for each in standing_protocol(survey.programme).rows("kit")
        if does.get(str(each.get("when") or "always"), True)
    ]


def checklists_for(survey: Survey) -> tuple[str, ...]:
    """Checklists that its outings ask for, and those chosen besides."""
    return tuple(dict.fromkeys((*checklists_asked(survey), *parts_of(survey.parts).checklists)))


def checklists_asked(survey: Survey) -> tuple[str, ...]:
    """Checklists that its outings ask for by gear, by a dam near a site, by a bath, by tags that are implanted."""
    parts = parts_of(survey.parts)
    dams = survey.water.zones.filter(kind=Zone.Kind.DAM)
    near = any(
        site.start_m < end + NEAR_DAM_M and start - NEAR_DAM_M < site.end_m
        for start, end in (dam.ends_m for dam in dams)
        for site in survey.sites.all()
    )
    return needed_for(*survey.gears, near_dam=near, bath=bool(parts.bath.agent), surgery=parts.tags.kind in IMPLANTED)
