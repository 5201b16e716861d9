"""Waters as measured lines, with what lies along them."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Q

from nailwright.deck.models import Capture
from nailwright.plan.models import Zone
from nailwright.programmes.models import Programme, Water
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.reach import Reach, reach_from

#: A drawing of more points than this is no clearer on a screen.
SHOWN_POINTS = 1500
LAYER_POINTS = 300


def reach_of(water: Water) -> Reach:
    """The water's line: a river's centre-line from its mouth, a lake's shore.

    Raises:
        CoreError: ``line_missing``, and as ``reach_from``.
    """
    shape = water.geometry or {}
    if shape.get("type") == "LineString":
        return reach_from(shape["coordinates"])
    if shape.get("type") == "Polygon":
        return reach_from(shape["coordinates"][0])
    raise CoreError(
        "line_missing", f"{water.name} has no line yet. Bring in its centre-line or shore, or draw it.", "water"
    )


def closed_stretches(water: Water) -> tuple[tuple[float, float], ...]:
    """Stretches that no site may touch."""
    return tuple(water.zones.exclude(kind=Zone.Kind.ZONE).values_list("start_m", "end_m"))


def show_reach(water: Water) -> dict[str, Any]:
    """The line, zones, fixed sites with past catch, as the map and the strip show them."""
    reach = reach_of(water)
    places = _thin(len(reach.lon), SHOWN_POINTS)
    return {
        "water": water.pk,
        "name": water.name,
        "kind": water.kind,
        "length_m": reach.length_m,
        "line": [[round(float(reach.lon[i]), 6), round(float(reach.lat[i]), 6)] for i in places],
        "along_m": [round(float(reach.along_m[i]), 1) for i in places],
        "zones": water.zones.all(),
        "sites": _sites(water, reach),
    }


def layers_of(programme: Programme) -> list[dict[str, Any]]:
    """The lines of all waters of a programme that have one, thinned out: the ground of a map."""
    found = []
    for water in programme.waters.exclude(geometry=None).order_by("name"):
        shape = water.geometry
        line = shape["coordinates"][0] if shape["type"] == "Polygon" else shape["coordinates"]
        if shape["type"] in ("Polygon", "LineString"):
            kept = [line[place][:2] for place in _thin(len(line), LAYER_POINTS)]
            found.append({"water": water.pk, "name": water.name, "kind": water.kind, "line": kept})
    return found


def _thin(n: int, most: int) -> list[int]:
    """Places of about ``most`` points of n, the first and the last among them."""
    places = [*range(0, n, max(1, n // most))]
    return places if places[-1] == n - 1 else [*places, n - 1]


def _sites(water: Water, reach: Reach) -> list[dict[str, Any]]:
    caught = dict(
        Capture.present.filter(run__site__water=water, run__deleted_at=None)
        .values_list("run__site")
        .annotate(n=Count("pk"))
        .order_by()
    )
    runs = dict(water.sites.annotate(n=Count("runs", filter=Q(runs__deleted_at=None))).values_list("pk", "n"))
    found = []
    for site in water.sites.all():
        if not site.geometry or site.geometry.get("type") != "Point":
            continue
        lon, lat = site.geometry["coordinates"][:2]
        along = site.river_km * 1000 if site.river_km is not None else reach.nearest_m(lon, lat)[0]
        found.append(
            {
                "id": site.pk, "name": site.name, "lon": lon, "lat": lat, "along_m": round(along, 1),
                "fish": caught.get(site.pk, 0), "runs": runs.get(site.pk, 0),
            }
        )  # fmt: skip
    return sorted(found, key=lambda each: each["along_m"])
