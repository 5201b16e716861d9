"""The plan on paper: one or two pages that a crew can use if the tablet drowns."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.template.loader import render_to_string
from django.utils import timezone
from django.utils.safestring import mark_safe

from nailwright.common.printing import font, page_size, pdf_of
from nailwright.deck.models import Gear
from nailwright.deck.outing.checklists import CHECKLISTS
from nailwright.plan.electrofishing.settings import show_settings
from nailwright.plan.kit.baths import show_bath
from nailwright.plan.kit.tags import show_tags
from nailwright.plan.models import Survey
from nailwright.plan.outings.sheet_drawings import map_of, strip_of
from nailwright.plan.parts import parts_of
from nailwright.plan.progress import targets_of
from nailwright.plan.readiness import checklists_for, is_electric, kit_for
from nailwright.plan.surveys.days import visits_of
from nailwright.programmes.protocols import standing_protocol
from nailwright.programmes.species.known import species_of
from nailwright.waters.reaches import reach_of
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.wording import limits_lines, precision_line, stations_line


def sheet_of(survey: Survey, paper: str) -> bytes:
    """The field sheet as PDF, paper "a4" or "letter". Nothing is fetched from outside while it is made."""
    return pdf_of(sheet_html(survey, paper))


def sheet_html(survey: Survey, paper: str) -> str:
    """The field sheet before it is set."""
    parts, table = parts_of(survey.parts), species_of(survey.programme)
    decided = standing_protocol(survey.programme)
    return render_to_string(
        "plan/sheet.html",
        {
            "paper": page_size(paper),
            "font": font(),
            "survey": survey,
            "gear": ", ".join(Gear(gear).label for gear in survey.gears),
            "species": [
                {"code": code, "kind": table[code], "categories": list(table[code].size_categories or ())}
                for code in survey.species
            ],
            "sites": list(_sites(survey)),
            "own_sites": _own_sites(survey),
            **_drawings(survey),
            "closed": survey.water.zones.exclude(kind="zone"),
            "settings": _or_words(lambda: show_settings(survey, parts.electro)) if is_electric(survey) else None,
            "angling": parts.angling if Gear.ANGLING in survey.gears else None,
            "electro": parts.electro,
            "bath": _or_words(lambda: show_bath(parts.bath)) if parts.bath.agent else None,
            "bath_part": parts.bath,
            "limits": limits_lines(parts.limits.limits()),
            "tags": _or_words(lambda: show_tags(survey, parts.tags, timezone.now().date())) if parts.tags.kind else None,
            "tags_part": parts.tags,
            "targets": [{**each, "name": table[each["species"]].common_name} for each in targets_of(survey)],
            "checklists": [CHECKLISTS[code] for code in checklists_for(survey)],
            "own_lines": decided.rows("checklist_lines"),
            "kit": kit_for(survey),
            "precision": precision_line(decided),
            "crew": parts.crew,
            "stations": stations_line(parts.stations) if parts.stations else "",
            "partners": parts.partners,
            "visits": [each for each in visits_of(survey) if each.reason],
            "emergency": parts.emergency,
            "effort_min": survey.effort_s / 60,
            "rows": range(15),
        },
    )  # fmt: skip


def _or_words(show: Callable[[], dict[str, Any]]) -> dict[str, Any]:
    """What is to be printed, or why it cannot be: the sheet is made all the same."""
    try:
        return show()
    except CoreError as refused:
        return {"refused": refused.message}


def _sites(survey: Survey) -> Any:
    sites = list(survey.sites.all())
    if not sites:
        return
    reach = reach_of(survey.water)
    for site in sites:
        lon, lat = reach.point_at([site.start_m, site.end_m])
        yield {
            "number": site.number,
            "km": site.start_m / 1000,
            "to_km": site.end_m / 1000,
            "start": f"{lat[0]:.5f}, {lon[0]:.5f}",
            "end": f"{lat[1]:.5f}, {lon[1]:.5f}",
            "zone": site.zone_name,
            "moved": site.moved,
        }


def _own_sites(survey: Survey) -> list[dict[str, str]]:
    """The water's sites, for a survey that has none laid out."""
    sites = survey.water.sites.filter(retired_at=None).order_by("river_km", "name")
    places = [(site.name, *site.position) for site in sites]
    return [
        {"name": name, "at": "" if lat is None or lon is None else f"{lat:.5f}, {lon:.5f}"} for name, lat, lon in places
    ]


def _drawings(survey: Survey) -> dict[str, Any]:
    """The strip and the map, where sites are laid out on a line."""
    sites = list(survey.sites.all())
    if not sites:
        return {}
    reach = reach_of(survey.water)
    layout = parts_of(survey.parts).layout
    from_m, to_m = layout.from_km * 1000, (layout.to_km or reach.length_m / 1000) * 1000
    closed = survey.water.zones.exclude(kind="zone")
    strip = strip_of(reach, sites, closed, from_m, min(to_m, reach.length_m))
    drawn = map_of(reach, sites, from_m, min(to_m, reach.length_m))
    return {"strip": mark_safe(strip), "map": mark_safe(drawn)}
