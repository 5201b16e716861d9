"""Every write about waters: making one, giving it a line, its zones."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any
from uuid import UUID

from django.db import transaction

from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change, must_say_why, note_change
from nailwright.waters.models import Site, Water, Zone
from nailwright.waters.reaches import reach_of
from nailwright.waters.sites import point_of
from nailwright.waters.zones import zone_called
from nailwright_core.common.errors import CoreError
from nailwright_core.waters.reach import looks_swapped, reach_from

_ZONE_FIELDS = ("kind", "name", "start_m", "end_m", "note")


def make_water(
    person: Person, programme: Programme, name: str, kind: str, point: tuple[float, float] | None = None
) -> Water:
    """A new water, as yet without a line; where a ``point`` (longitude, latitude) is given it is a site to work at, too."""
    require(person, programme, "plan")
    if programme.waters.filter(name__iexact=name.strip()).exists():
        raise CoreError("water_there", f"There is a water called {name.strip()} already.", "name")
    with transaction.atomic():
        water = Water.objects.create(programme=programme, name=name.strip(), kind=kind, time_zone=programme.time_zone)
        if point:
            water.geometry = point_of(point)
            water.save(update_fields=["geometry"])
            Site.objects.create(water=water, name=name.strip()[:60], geometry=water.geometry)
    return water


def add_site(
    person: Person,
    water: Water,
    name: str,
    zone: str = "",
    point: tuple[float, float] | None = None,
    key: UUID | None = None,
) -> Site:
    """A place on a water where effort is spent, by its name; with a point where one is known.

    Raises:
        CoreError: ``site_there`` where one in use has the name.
    """
    require(person, water.programme, "add_site")
    with transaction.atomic():
        Water.objects.select_for_update().get(pk=water.pk)  # one name at a time
        if key and (there := Site.objects.filter(pk=key, water=water).first()):
            return there  # a second touch
        if water.sites.filter(name__iexact=name.strip(), retired_at=None).exists():
            raise CoreError("site_there", f"{water.name} has a site called {name.strip()} already.", "name")
        told = {"name": name.strip(), "zone": zone_called(water, zone), "geometry": point_of(point) if point else None}
        return Site.objects.create(water=water, **told, **({"id": key} if key else {}))


def set_line(act: Act, water: Water, points: Sequence[tuple[float, float]], turn: bool = False) -> Water:
    """Give a water its line. ``turn`` puts its end first, so that kilometres run from the mouth.

    Raises:
        CoreError: as ``reach_from``; ``coordinates_swapped`` where the line would lie near the programme's waters if turned.
    """
    require(act.person, water.programme, "plan")
    near = _somewhere(water.programme, water)
    if near and points and looks_swapped(points, near):
        raise CoreError(
            "coordinates_swapped",
            "Latitude and longitude seem to be swapped: the other way round the line lies by the programme's other waters.",
            "file",
        )
    ordered = list(reversed(points)) if turn else list(points)
    reach = reach_from(ordered)
    shape = {"type": "LineString", "coordinates": [[round(float(x), 6), round(float(y), 6)] for x, y in zip(reach.lon, reach.lat, strict=True)]}  # fmt: skip
    with transaction.atomic():
        locked = Water.objects.select_for_update().get(pk=water.pk)
        apply_change(act, water.programme, locked, {"geometry": shape})
    return locked


def set_zones(act: Act, water: Water, zones: Sequence[Mapping[str, Any]], confirmed: bool = False) -> list[Zone]:
    """Say what zones a water has now. One that is named by its ``id`` is changed, with its history; one that is left out is
    marked as taken out and stays readable.

    Args:
        confirmed: a person has said that a stretch to keep clear of shall go or shrink, and why (the act's reason).

    Raises:
        CoreError: ``zone_out_of_reach``, ``zone_unknown``; ``keep_off_dropped`` where that was not confirmed.
    """
    require(act.person, water.programme, "plan")
    length = reach_of(water).length_m
    for zone in zones:
        if not 0 <= zone["start_m"] < zone["end_m"] <= length + 0.5:
            raise CoreError(
                "zone_out_of_reach",
                f"'{zone['name']}': expected a stretch within km 0 to {length / 1000:.2f}, its start before its end.",
                "zones",
            )
    with transaction.atomic():
        there = {each.pk: each for each in Zone.objects.select_for_update().filter(water=water, deleted_at=None)}
        only_named = {each.name.lower(): each for each in there.values() if each.start_m is None}
        there = {key: each for key, each in there.items() if each.start_m is not None}
        named = {zone["id"]: zone for zone in zones if zone.get("id")}
        if unknown := named.keys() - there.keys():
            raise CoreError("zone_unknown", f"{water.name} has no zone with the key {next(iter(unknown))}.", "zones")
        _keep_off_stays(act, there, zones, confirmed)
        for key, row in there.items():
            wanted = named.get(key)
            values = {name: wanted[name] for name in _ZONE_FIELDS} if wanted else {"deleted_at": act.device_time}
            apply_change(act.part(key), water.programme, row, values)
        for zone in zones:
            named_only = only_named.get(zone["name"].strip().lower()) if zone["kind"] == Zone.Kind.ZONE else None
            if zone.get("id"):
                continue
            if named_only:  # sites of it are there already: now it has its place along the line
                apply_change(act.part(named_only.pk), water.programme, named_only, {n: zone[n] for n in _ZONE_FIELDS})
            else:
                made = Zone.objects.create(water=water, **{name: zone[name] for name in _ZONE_FIELDS})
                note_change(act.part(made.pk), water.programme, made, {}, {name: zone[name] for name in _ZONE_FIELDS})
    return list(water.zones)


def _keep_off_stays(act: Act, there: Mapping[Any, Zone], zones: Sequence[Mapping[str, Any]], confirmed: bool) -> None:
    """A stretch to keep clear of goes or shrinks only where a person said so, and why."""
    closed = [each for each in zones if each["kind"] != Zone.Kind.ZONE]
    for old in there.values():
        if old.kind == Zone.Kind.ZONE:
            continue
        start, end = old.ends_m
        if any(each["start_m"] <= start and each["end_m"] >= end for each in closed):
            continue
        if not confirmed:
            raise CoreError(
                "keep_off_dropped",
                f"'{old.name}' is to be kept clear of from km {start / 1000:.2f} to {end / 1000:.2f}; with this "
                "change crews may go there. Say that it is meant, and why.",
                "zones",
            )
        must_say_why(act, "the weir was taken down")


def _somewhere(programme: Programme, water: Water) -> tuple[float, float] | None:
    """A place of another water of the programme, to know which part of the world it is in."""
    for other in programme.waters.exclude(pk=water.pk):
        shape = other.geometry or {}
        line = shape.get("coordinates") or []
        if shape.get("type") == "Polygon":
            line = line[0]
        if line and shape.get("type") in ("LineString", "Polygon"):
            return float(line[0][0]), float(line[0][1])
    return None
