"""What the field sheet draws of its water: the line pulled straight with the sites on it, and a small map."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from nailwright.plan.models import PlannedSite
from nailwright.waters.models import Zone
from nailwright.waters.reaches import thin
from nailwright_core.waters.reach import Reach

_STRIP = (720, 74)
_MAP = (340, 210)
_LINE_POINTS = 260


def strip_of(reach: Reach, sites: Sequence[PlannedSite], closed: Iterable[Zone], from_m: float, to_m: float) -> str:
    """The planned stretch pulled straight, from its lower end at the left: km, sites with their numbers, what to keep off."""
    width = _STRIP[0]
    span = max(to_m - from_m, 1.0)

    def x(metres: float) -> float:
        return round(14 + (width - 28) * (min(max(metres, from_m), to_m) - from_m) / span, 1)

    step = _round_step(span / 1000 / 8)
    first = math.ceil(from_m / 1000 / step) * step
    ticks = [first + at * step for at in range(int((to_m / 1000 - first) / step + 1e-9) + 1)]
    parts = [f'<line x1="{x(from_m)}" x2="{x(to_m)}" y1="40" y2="40" stroke="#000" stroke-width="1.6"/>']
    for zone in closed:
        start, end = zone.ends_m
        if end > from_m and start < to_m:
            wide = max(x(end) - x(start), 3)
            parts.append(f'<rect x="{x(start)}" y="32" width="{wide}" height="16" fill="#000" fill-opacity="0.25"/>')
            middle = x(start) + wide / 2
            anchor = "start" if middle < 90 else "end" if middle > width - 90 else "middle"
            parts.append(_text(middle, 9, f"keep off: {zone.name}", 9, anchor))
    for site in sites:
        wide = max(x(site.end_m) - x(site.start_m), 4)
        parts.append(
            f'<rect x="{x(site.start_m)}" y="34" width="{wide}" height="12" fill="#fff" stroke="#000" stroke-width="1.4"/>'
        )
        parts.append(_text(x(site.start_m) + wide / 2, 20, str(site.number), 11, bold=True))
    for km in ticks:
        parts.append(f'<line x1="{x(km * 1000)}" x2="{x(km * 1000)}" y1="46" y2="54" stroke="#000"/>')
        parts.append(_text(x(km * 1000), 66, f"{km:g}", 9))
    parts.append(_text(width - 2, 66, "km", 9, "end"))
    return _svg(_STRIP, parts, "The planned stretch pulled straight, with its sites")


def map_of(reach: Reach, sites: Sequence[PlannedSite], from_m: float, to_m: float) -> str:
    """The planned stretch true to scale, north up, with the sites' middles and numbers and a scale bar."""
    width, height = _MAP
    beyond = 0.05 * (to_m - from_m)
    near = [at for at, along in enumerate(reach.along_m) if from_m - beyond <= along <= to_m + beyond]
    near = near if len(near) > 1 else list(range(len(reach.lon)))
    places = [near[at] for at in thin(len(near), _LINE_POINTS)]
    lons, lats = [float(reach.lon[at]) for at in places], [float(reach.lat[at]) for at in places]
    squeeze = math.cos(math.radians((min(lats) + max(lats)) / 2))
    wide, tall = max((max(lons) - min(lons)) * squeeze, 1e-9), max(max(lats) - min(lats), 1e-9)
    scale = min((width - 40) / wide, (height - 44) / tall)
    left, top = (width - wide * scale) / 2, 14.0

    def at(lon: float, lat: float) -> tuple[float, float]:
        return round(left + (lon - min(lons)) * squeeze * scale, 1), round(top + (max(lats) - lat) * scale, 1)

    points = " ".join(f"{x},{y}" for x, y in (at(lon, lat) for lon, lat in zip(lons, lats, strict=True)))
    parts = [f'<polyline points="{points}" fill="none" stroke="#000" stroke-width="1.2"/>']
    for site in sites:
        if site.end_m > reach.length_m + 1e-6:
            continue
        lon, lat = reach.point_at(site.middle_m)
        x, y = at(float(lon), float(lat))
        parts.append(f'<circle cx="{x}" cy="{y}" r="3.4" fill="#fff" stroke="#000" stroke-width="1.4"/>')
        parts.append(_text(x, y - 7, str(site.number), 10, bold=True))
    metres_per_px = 111_195 / scale
    bar_km = _round_step(metres_per_px * 90 / 1000)
    long = bar_km * 1000 / metres_per_px
    parts.append(f'<path d="M10 {height - 12}h{long:.1f}m0 -4v8M10 {height - 16}v8" stroke="#000" fill="none"/>')
    parts.append(_text(14 + long, height - 8, f"{bar_km:g} km", 9, "start"))
    parts.append(f'<path d="M{width - 12} 30v-18l-4 7m4 -7l4 7" stroke="#000" fill="none" stroke-width="1.3"/>')
    parts.append(_text(width - 12, 42, "N", 10, bold=True))
    return _svg(_MAP, parts, "Map of the water with the sites")


def _round_step(about: float) -> float:
    power = 10.0 ** math.floor(math.log10(max(about, 1e-6)))
    return next(step * power for step in (1, 2, 5, 10) if step * power >= about * 0.999)


def _text(x: float, y: float, words: str, size: int, anchor: str = "middle", bold: bool = False) -> str:
    weight = ' font-weight="700"' if bold else ""
    safe = words.replace("&", "&amp;").replace("<", "&lt;")
    return f'<text x="{x:.1f}" y="{y:.1f}" font-size="{size}" text-anchor="{anchor}"{weight}>{safe}</text>'


def _svg(size: tuple[int, int], parts: list[str], label: str) -> str:
    width, height = size
    font = 'font-family="Atkinson Hyperlegible Next"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" width="100%" role="img" aria-label="{label}" '
        f"{font}>{''.join(parts)}</svg>"
    )
