"""Laying sites out, moving one, and making them sites of the water."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from nailwright.deck.models import Outing
from nailwright.plan.models import PlannedSite, Survey
from nailwright.plan.outings.orders import renew_orders
from nailwright.plan.parts import parts_of
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change, must_say_why
from nailwright.waters.models import Site, Zone
from nailwright.waters.reaches import closed_stretches, reach_of
from nailwright.waters.sites import is_at, make_site, retire
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.effort import lay_out_sites


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
    used = [zone.ends_m for zone in zones if zone.ends_m[1] > start and zone.ends_m[0] < end]
    sites = lay_out_sites(
        end - start, layout.site_length_m, layout.gap_m, layout.seed, layout.layout, layout.n,
        zones=shifted(used),
        closed=shifted(closed_stretches(survey.water)),
    )  # fmt: skip
    with transaction.atomic():
        Survey.objects.select_for_update().get(pk=survey.pk)
        before = [each.site for each in survey.sites.select_related("site__water") if each.site]
        survey.sites.all().delete()
        made = PlannedSite.objects.bulk_create(
            PlannedSite(
                survey=survey, number=number, start_m=site.start_m + start, end_m=site.end_m + start,
                zone=zone_at(zones, (site.start_m + site.end_m) / 2 + start),
            )
            for number, site in enumerate(sites, 1)
        )  # fmt: skip
        reach_the_deck(act, survey)
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
    zone = zone_at(list(survey.water.zones.filter(kind=Zone.Kind.ZONE)), start_m + length / 2)
    moved = {"start_m": start_m, "end_m": start_m + length, "zone_id": zone and zone.pk, "moved": act.reason}
    with transaction.atomic():
        apply_change(act, survey.programme, site, moved)
        reach_the_deck(act.part("sites"), survey)
    return site


def real_sites(act: Act, survey: Survey) -> None:
    """Planned sites as sites of the water. A site never moves: where one is planned elsewhere now, it becomes a new one, and
    the old one keeps its past and is left, unless another survey goes there still."""
    laid_out = list(survey.sites.select_related("site__water", "zone"))
    if not laid_out:
        return  # the water's own are fished; it may be a point without a line
    reach = reach_of(survey.water)
    left: list[Site] = []
    for planned in laid_out:
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


def reach_the_deck(act: Act, survey: Survey) -> None:
    """A change of the sites reaches outings that are out: there they become sites of the water at once."""
    if survey.outings.filter(state=Outing.State.OPEN).exists():
        real_sites(act, survey)
    renew_orders([survey])


def zone_at(zones: Sequence[Zone], metres: float) -> Zone | None:
    return next((zone for zone in zones if zone.ends_m[0] <= metres <= zone.ends_m[1]), None)
