"""Every write of a plan."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Any
from uuid import UUID

from django.db import transaction

from nailwright.deck.actions.outings import open_outing
from nailwright.deck.models import Outing, Target
from nailwright.findings.selections import check_days
from nailwright.plan.models import Paper, PlannedSite, Season, Survey, Unit
from nailwright.plan.orders import give_orders, renew_orders
from nailwright.plan.parts import changed_parts, parts_of
from nailwright.plan.queries import goes_alone, missing_for, per_visit, targets_of
from nailwright.programmes.audit import Act, already_done, apply_change, must_say_why
from nailwright.programmes.models import Change, Person, Programme
from nailwright.programmes.policies import require
from nailwright.waters.actions import set_zones
from nailwright.waters.models import Site, Water, Zone
from nailwright.waters.reaches import closed_stretches, reach_of
from nailwright.waters.sites import is_at, make_site, retire
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.effort import lay_out_sites
from nailwright_core.plan.wording import ALONE


def plan_survey(person: Person, programme: Programme, water: Water, values: dict[str, Any]) -> Survey:
    """Begin a survey on one of the programme's waters."""
    require(person, programme, "plan")
    check_days(values["first"], values["last"])
    _check_species(programme, values["species"])
    return Survey.objects.create(programme=programme, water=water, person=person, **values)


def change_survey(act: Act, survey: Survey, values: dict[str, Any], parts: dict[str, Any]) -> Survey:
    """Set some of a survey's choices; what they were is kept, and outings that are out get the new orders."""
    require(act.person, survey.programme, "plan")
    with transaction.atomic():
        locked = Survey.objects.select_for_update().select_related("water", "programme").get(pk=survey.pk)
        check_days(values.get("first", locked.first), values.get("last", locked.last))
        if "species" in values:
            _check_species(locked.programme, values["species"])
        _check_targets(locked, parts.get("targets", []))
        if "pilot" in parts:
            _check_species(locked.programme, [parts["pilot"]["species"]])
        apply_change(act, locked.programme, locked, {**values, "parts": changed_parts(locked.parts, parts)})
        renew_orders([locked])
    return locked


def plan_again(person: Person, survey: Survey, first: date) -> Survey:
    """The same survey from another day on: its choices and its very sites, so that the years can be compared."""
    require(person, survey.programme, "plan")
    sites = list(survey.sites.all())
    with transaction.atomic():
        again = Survey.objects.create(
            programme=survey.programme, water=survey.water, person=person, name=f"{survey.name[:113]}, {first.year}",
            first=first, last=first + (survey.last - survey.first),
            **{name: getattr(survey, name) for name in
               ("question", "species", "gear", "visits", "effort_s", "revisit_years", "parts")},
        )  # fmt: skip
        PlannedSite.objects.bulk_create(
            PlannedSite(
                survey=again, number=each.number, start_m=each.start_m, end_m=each.end_m, zone=each.zone, moved=each.moved,
                site=each.site,
            )
            for each in sites
        )  # fmt: skip
    return again


def take_out(act: Act, survey: Survey, deleted: bool) -> Survey:
    """Take a survey out of the plans, or put it back; its outings and what they brought stay in the record."""
    require(act.person, survey.programme, "plan")
    with transaction.atomic():
        locked = Survey.objects.select_for_update().select_related("programme").get(pk=survey.pk)
        if not already_done(act) and bool(locked.deleted_at) != deleted:
            apply_change(act, locked.programme, locked, {"deleted_at": act.device_time if deleted else None})
    return locked


def lay_out(act: Act, survey: Survey) -> list[PlannedSite]:
    """Lay the sites of a survey out anew, as its layout says."""
    require(act.person, survey.programme, "plan")
    layout = parts_of(survey.parts).layout
    reach = reach_of(survey.water)
    start = layout.from_km * 1000
    end = reach.length_m if layout.to_km is None else layout.to_km * 1000
    if end > reach.length_m + 0.5 or start >= end:
        raise CoreError(
            "stretch_out_of_reach",
            f"Expected a stretch within km 0 to {reach.length_m / 1000:.2f}; got {start / 1000:g} to {end / 1000:g}.",
            "to_km",
        )
    end = min(end, reach.length_m)

    def shifted(stretches: Sequence[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
        cut = ((max(a, start) - start, min(b, end) - start) for a, b in stretches)
        return tuple((a, b) for a, b in cut if b > a)

    zones = list(survey.water.zones.filter(kind=Zone.Kind.ZONE))
    used = [zone for zone in zones if zone.end_m > start and zone.start_m < end]
    sites = lay_out_sites(
        end - start, layout.site_length_m, layout.gap_m, layout.seed, layout.layout, layout.n,
        zones=shifted([(zone.start_m, zone.end_m) for zone in used]),
        closed=shifted(closed_stretches(survey.water)),
    )  # fmt: skip
    with transaction.atomic():
        Survey.objects.select_for_update().get(pk=survey.pk)
        before = [each.site for each in survey.sites.select_related("site__water") if each.site]
        survey.sites.all().delete()
        made = PlannedSite.objects.bulk_create(
            PlannedSite(
                survey=survey, number=number, start_m=site.start_m + start, end_m=site.end_m + start,
                zone=_zone_at(zones, (site.start_m + site.end_m) / 2 + start),
            )
            for number, site in enumerate(sites, 1)
        )  # fmt: skip
        _reach_the_deck(act, survey)
        for site in before:
            leave_site(act, site)
    return made


def move_site(act: Act, survey: Survey, number: int, start_m: float) -> PlannedSite:
    """Move one site by hand; why is asked for and kept."""
    require(act.person, survey.programme, "plan")
    must_say_why(act, "no access from the road")
    site = survey.sites.filter(number=number).first()
    if site is None:
        raise CoreError("site_unknown", f"This survey has no site {number}.", "number")
    reach = reach_of(survey.water)
    length = site.end_m - site.start_m
    if not 0 <= start_m <= reach.length_m - length:
        raise CoreError(
            "beyond_reach",
            f"A site of {length:g} m may start from km 0 to {(reach.length_m - length) / 1000:.3f}; got {start_m / 1000:.3f}.",
            "start_m",
        )
    closed = survey.water.zones.exclude(kind=Zone.Kind.ZONE)
    shut = closed.filter(end_m__gt=start_m, start_m__lt=start_m + length).first()
    if shut:
        raise CoreError("site_closed", f"It would touch '{shut.name}', which is to be kept clear of.", "start_m")
    zone = _zone_at(list(survey.water.zones.filter(kind=Zone.Kind.ZONE)), start_m + length / 2)
    moved = {"start_m": start_m, "end_m": start_m + length, "zone": zone, "moved": act.reason}
    with transaction.atomic():
        apply_change(act, survey.programme, site, moved)
        _reach_the_deck(act.part("sites"), survey)
    return site


def change_zones(act: Act, water: Water, zones: Sequence[dict[str, Any]], confirmed: bool) -> None:
    """Say what zones a water has now; outings that are out hear of it."""
    with transaction.atomic():
        set_zones(act, water, zones, confirmed)
        renew_orders(water.surveys.filter(deleted_at=None))


def make_outing(act: Act, survey: Survey, outing_id: UUID, day: date) -> Outing:
    """Turn a plan into an outing: its sites become sites of the water, its targets the outing's. Asked twice with the same
    key, one outing is made; the act's reason says why it shall go out although something stands against it.

    Raises:
        CoreError: ``too_few_people``, for which no reason is good enough; ``plan_incomplete`` where papers or season
            stand against it and no reason was given.
    """
    require(act.person, survey.programme, "open_outing")
    if goes_alone(survey):
        raise CoreError("too_few_people", ALONE, "crew")
    against = missing_for(survey, day)
    if against and len(act.reason.strip()) < 3:
        raise CoreError(
            "plan_incomplete", f"{' '.join(against)} Put it right, or say why it shall go out all the same.", "override"
        )
    with transaction.atomic():
        Survey.objects.select_for_update().get(pk=survey.pk)  # a second touch waits here, and finds the outing made
        there = survey.outings.filter(pk=outing_id).first()
        if there:
            return there
        real_sites(act, survey)
        outing = open_outing(
            act.person, survey.programme, outing_id=outing_id, water=survey.water, day=day, gear=survey.gear,
            name=f"{survey.name}, {day:%d %b}",
        )  # fmt: skip
        survey.outings.add(outing)
        give_orders(survey, outing)
        Target.objects.bulk_create(
            Target(
                outing=outing, species=each["species"], what=each["what"], wanted=per_visit(survey, each),
                from_mm=each["from_mm"], reach=each["zone"],
            )
            for each in targets_of(survey)
            if each["month"] in (None, day.month)
        )  # fmt: skip
        if against:
            Change.objects.create(
                programme=survey.programme, table="outing", row=outing.pk, person=act.person, reason=act.reason.strip(),
                before={"against": against}, after={"opened": "all the same"},
            )  # fmt: skip
    return outing


def real_sites(act: Act, survey: Survey) -> None:
    """Planned sites as sites of the water. A site never moves: where one is planned elsewhere now, it becomes a new one, and
    the old one keeps its past and is left, unless another survey goes there still."""
    reach = reach_of(survey.water)
    left: list[Site] = []
    for planned in survey.sites.select_related("site__water"):
        lon, lat = reach.point_at(planned.middle_m)
        point = {"type": "Point", "coordinates": [round(float(lon), 6), round(float(lat), 6)]}
        km = round(planned.middle_m / 1000, 3)
        old = planned.site
        if old and is_at(old, km, point):
            continue
        planned.site = make_site(survey.water, f"{survey.name[:40]} {planned.number}", planned.zone, km, point)
        planned.save(update_fields=["site"])
        if old:
            left.append(old)
    for old in left:
        leave_site(act, old)


def leave_site(act: Act, site: Site) -> None:
    """Retire a site that no survey plans any more."""
    if not site.retired_at and not PlannedSite.objects.filter(site=site, survey__deleted_at=None).exists():
        retire(act, site)


def _reach_the_deck(act: Act, survey: Survey) -> None:
    """A change of the sites reaches outings that are out: there they become sites of the water at once."""
    if survey.outings.filter(state=Outing.State.OPEN).exists():
        real_sites(act, survey)
    renew_orders([survey])


def enter_unit(person: Person, programme: Programme, values: dict[str, Any]) -> Unit:
    """Enter a control box with the limits on its plate; a plan that had none to reckon with has one now."""
    require(person, programme, "plan")
    with transaction.atomic():
        unit = Unit.objects.create(programme=programme, **values)
        renew_orders(programme.surveys.filter(deleted_at=None))
    return unit


def enter_paper(person: Person, programme: Programme, values: dict[str, Any]) -> Paper:
    """Enter a permit or a qualification."""
    require(person, programme, "plan")
    check_days(values["first"], values["last"])
    return Paper.objects.create(programme=programme, **values)


def change_paper(act: Act, paper: Paper, values: dict[str, Any]) -> Paper:
    """Renew or correct a paper; what it said before is kept."""
    require(act.person, paper.programme, "plan")
    check_days(values["first"], values["last"])
    with transaction.atomic():
        locked = Paper.objects.select_for_update().select_related("programme").get(pk=paper.pk)
        apply_change(act, locked.programme, locked, values)
    return locked


def enter_season(person: Person, programme: Programme, water: Water | None, values: dict[str, Any]) -> Season:
    """Enter days of the year that a rule closes, or in which fish spawn.

    Raises:
        CoreError: ``day_impossible``.
    """
    require(person, programme, "plan")
    for name in ("first_day", "last_day"):
        try:
            date.fromisoformat(f"2024-{values[name]}")
        except ValueError as error:
            raise CoreError(
                "day_impossible", f"Expected a day of the year as MM-DD; got '{values[name]}'.", name
            ) from error
    return Season.objects.create(programme=programme, water=water, **values)


def _zone_at(zones: Sequence[Zone], metres: float) -> str:
    return next((zone.name for zone in zones if zone.start_m <= metres <= zone.end_m), "")


def _check_targets(survey: Survey, targets: Sequence[dict[str, Any]]) -> None:
    zones = set(survey.water.zones.filter(kind=Zone.Kind.ZONE).values_list("name", flat=True))
    wrong = next((each["zone"] for each in targets if each.get("zone") and each["zone"] not in zones), None)
    if wrong:
        raise CoreError(
            "zone_unknown", f"Expected a zone of {survey.water.name} ({', '.join(sorted(zones)) or 'it has none yet'}); got '{wrong}'.",
            "targets",
        )  # fmt: skip


def _check_species(programme: Programme, codes: Sequence[str]) -> None:
    known = set(programme.species.values_list("code", flat=True))
    wrong = next((code for code in codes if code not in known), None)
    if wrong or not codes:
        raise CoreError(
            "species_not_in_programme",
            f"Expected one or more species of {', '.join(sorted(known))}; got '{wrong or ''}'.",
            "species",
        )
