"""Waters as measured lines."""

from __future__ import annotations

from typing import Any

from nailwright.programmes.models import Programme
from nailwright.waters.models import Water, Zone
from nailwright_core.common.errors import CoreError
from nailwright_core.waters.reach import Reach, reach_from

#: A drawing of more points than this is no clearer on a screen.
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
        "line_missing", f"{water.name} has no line yet. Import its centre-line or shore, or draw it.", "water"
    )


def closed_stretches(water: Water) -> tuple[tuple[float, float], ...]:
    """Stretches that no site may touch."""
    return tuple(zone.ends_m for zone in water.zones.exclude(kind=Zone.Kind.ZONE))


def layers_of(programme: Programme) -> list[dict[str, Any]]:
    """The lines of all waters of a programme that have one, thinned out: the ground of a map."""
    found = []
    for water in programme.waters.exclude(geometry=None).order_by("name"):
        shape = water.geometry or {}
        line = shape["coordinates"][0] if shape["type"] == "Polygon" else shape["coordinates"]
        if shape["type"] in ("Polygon", "LineString"):
            kept = [line[place][:2] for place in thin(len(line), LAYER_POINTS)]
            found.append({"water": water.pk, "name": water.name, "kind": water.kind, "line": kept})
    return found


def thin(n: int, most: int) -> list[int]:
    """Places of about ``most`` points of n, the first and the last among them."""
    places = [*range(0, n, max(1, n // most))]
    return places if places[-1] == n - 1 else [*places, n - 1]
