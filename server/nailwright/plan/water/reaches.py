"""A water's line with its zones and its sites with past catch, as the map and the strip show them."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Q, Sum

from nailwright.deck.models import Capture
from nailwright.programmes.places import EVERYWHERE, Places
from nailwright.waters.models import Water
from nailwright.waters.reaches import reach_of, thin
from nailwright_core.waters.reach import Reach

#: A drawing of more points than this is no clearer on a screen.
SHOWN_POINTS = 1500


def show_reach(water: Water, places: Places = EVERYWHERE) -> dict[str, Any]:
    """The line, zones, fixed sites that are shown with past catch, as the map and the strip show them."""
    reach = reach_of(water)
    kept = thin(len(reach.lon), SHOWN_POINTS)
    return {
        "water": water.pk,
        "name": water.name,
        "kind": water.kind,
        "length_m": reach.length_m,
        "line": [[round(float(reach.lon[i]), 6), round(float(reach.lat[i]), 6)] for i in kept],
        "along_m": [round(float(reach.along_m[i]), 1) for i in kept],
        "zones": water.zones.all(),
        "sites": _sites(water, reach, places),
    }


def _sites(water: Water, reach: Reach, places: Places) -> list[dict[str, Any]]:
    caught = dict(
        Capture.present.filter(run__site__water=water, run__deleted_at=None)
        .values_list("run__site")
        .annotate(n=Sum("count"))
        .order_by()
    )
    runs = dict(water.sites.annotate(n=Count("runs", filter=Q(runs__deleted_at=None))).values_list("pk", "n"))
    found = []
    for site in water.sites.exclude(pk__in=places.secret):
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
