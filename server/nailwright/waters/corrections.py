"""Waters and sites that were entered wrongly: renamed, moved, deleted, as far as what was recorded there allows."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change, must_say_why, note_change
from nailwright.waters.models import Site, Water
from nailwright.waters.reaches import reach_of
from nailwright.waters.sites import point_of
from nailwright.waters.zones import zone_called
from nailwright_core.common.errors import CoreError


def fished(water: Water) -> bool:
    """Whether anything was recorded at any of its sites, also what was deleted since."""
    return any(
        Site.objects.filter(water=water).exclude(**{each: None}).exists()
        for each in ("runs", "encounters", "occasions")
    )


def change_water(act: Act, water: Water, values: Mapping[str, Any]) -> Water:
    """Change the name or kind of a water, or move one that is a point.

    Args:
        values: any of ``name``, ``kind``, ``point`` (longitude, latitude).

    Raises:
        CoreError: ``water_there``; ``water_fished`` where it would move though fish were recorded there; ``water_has_line``;
            ``reason_missing`` for another name or kind of a water with a past.
    """
    require(act.person, water.programme, "plan")
    with transaction.atomic():
        locked = Water.objects.select_for_update().get(pk=water.pk)
        past = fished(locked)
        wanted: dict[str, Any] = {name: values[name] for name in ("name", "kind") if name in values}
        if "name" in wanted:
            wanted["name"] = wanted["name"].strip()
            others = locked.programme.waters.exclude(pk=locked.pk)
            if others.filter(name__iexact=wanted["name"]).exists():
                raise CoreError("water_there", f"There is a water called {wanted['name']} already.", "name")
        point = values.get("point")
        if point and point_of(point) != locked.geometry:
            _may_move(locked, past)
            _move_sites_along(act, locked, point)
            wanted["geometry"] = point_of(point)
        if past and any(getattr(locked, name) != value for name, value in wanted.items()):
            must_say_why(act, "its name was misspelt")
        apply_change(act, locked.programme, locked, wanted)
    return locked


def _may_move(water: Water, past: bool) -> None:
    if past:
        raise CoreError(
            "water_fished", f"Fish were recorded at {water.name}: it stays where it is. Another place is another water.", "latitude",
        )  # fmt: skip
    if (water.geometry or {}).get("type", "Point") != "Point":
        raise CoreError("water_has_line", f"{water.name} has a line: draw or import it anew to move it.", "latitude")


def _move_sites_along(act: Act, water: Water, point: tuple[float, float]) -> None:
    """The site that was made with the water lies where the water does."""
    for site in water.sites.select_for_update().filter(retired_at=None):
        if water.geometry and site.geometry == water.geometry:
            apply_change(act.part(site.pk), water.programme, site, {"geometry": point_of(point)})


def delete_water(act: Act, water: Water) -> None:
    """Delete a water at which nothing was fished and nothing is planned, with its sites and zones; the history keeps what it was.

    Raises:
        CoreError: ``water_in_use``, saying what stands there.
    """
    require(act.person, water.programme, "plan")
    with transaction.atomic():
        locked = Water.objects.select_for_update().get(pk=water.pk)
        stands = [
            words
            for there, words in (
                (fished(locked), "fish or runs"),
                (locked.outings.exists(), "outings"),
                (locked.surveys.exists(), "plans"),
                (locked.series.exists(), "series of readings"),
            )
            if there
        ]
        if stands:
            raise CoreError(
                "water_in_use",
                f"{locked.name} has {', '.join(stands)}. Only a water at which nothing was fished or planned can be deleted.",
                "water",
            )
        sites = list(locked.sites.values_list("name", flat=True))
        before = {"name": locked.name, "kind": locked.kind, "geometry": locked.geometry, "sites": sites}
        note_change(act, locked.programme, locked, before, {"deleted": True})
        locked.sites.all().delete()
        locked.delete()


def change_site(act: Act, site: Site, values: Mapping[str, Any]) -> Site:
    """Change the name or zone of a site, or move it where nothing was fished yet.

    Args:
        values: any of ``name``, ``zone`` (its name), ``point`` (longitude, latitude).

    Raises:
        CoreError: ``site_there``; ``site_fished`` where it would move; ``reason_missing`` for another name of a site with a past.
    """
    require(act.person, site.water.programme, "add_site")
    with transaction.atomic():
        water = Water.objects.select_for_update().get(pk=site.water_id)  # one name at a time
        locked = Site.objects.select_for_update().get(pk=site.pk)
        past = has_past(locked)
        wanted: dict[str, Any] = {}
        if "name" in values:
            wanted["name"] = values["name"].strip()
            _name_is_free(locked, wanted["name"])
        if "zone" in values:
            wanted["zone_id"] = getattr(zone_called(water, values["zone"]), "pk", None)
        point = values.get("point")
        if point and point_of(point) != locked.geometry:
            if past:
                raise CoreError(
                    "site_fished", f"Fish were recorded at {locked.name}: it stays where it is. Another place is another site.", "latitude",
                )  # fmt: skip
            wanted |= {"geometry": point_of(point), "river_km": _km_of(water, locked, point)}
        if past and any(getattr(locked, name) != value for name, value in wanted.items()):
            must_say_why(act, "its name was misspelt")
        apply_change(act, water.programme, locked, wanted)
    return locked


def has_past(site: Site) -> bool:
    """Whether anything was recorded at a site, also what was deleted since."""
    return site.runs.exists() or site.encounters.exists() or site.occasions.exists()


def _name_is_free(site: Site, name: str) -> None:
    if site.water.sites.exclude(pk=site.pk).filter(name__iexact=name, retired_at=None).exists():
        raise CoreError("site_there", f"{site.water.name} has a site called {name} already.", "name")


def _km_of(water: Water, site: Site, point: tuple[float, float]) -> float | None:
    """Kilometre of a point along the water's line, where the site had one."""
    if site.river_km is None:
        return None
    along_m, _ = reach_of(water).nearest_m(*point)
    return round(along_m / 1000, 3)


def delete_site(act: Act, site: Site, deleted: bool) -> Site:
    """Nobody goes to a site any more, or somebody does again; what was recorded there stays.

    Raises:
        CoreError: ``site_there`` where its name was given again meanwhile.
    """
    require(act.person, site.water.programme, "add_site")
    with transaction.atomic():
        water = Water.objects.select_for_update().get(pk=site.water_id)
        locked = Site.objects.select_for_update().get(pk=site.pk)
        if bool(locked.retired_at) == deleted:
            return locked
        if not deleted:
            _name_is_free(locked, locked.name)
        apply_change(act, water.programme, locked, {"retired_at": act.device_time if deleted else None})
    return locked
