"""What can be read at a site, and in which bounds.

Sea state by the code of the World Meteorological Organization (table 3700), from memory; the rest common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from nailwright_core.common.errors import CoreError


@dataclass(frozen=True)
class Reading:
    """One thing that is read: a figure from ``low`` to ``high``, one of ``choices``, or a text."""

    code: str
    title: str
    unit: str = ""
    low: float = 0
    high: float = 0
    choices: tuple[str, ...] = ()
    whole: bool = False


_SEA = (
    "calm, glassy",
    "calm, rippled",
    "smooth",
    "slight",
    "moderate",
    "rough",
    "very rough",
    "high",
    "very high",
    "phenomenal",
)
#: Every reading by its code. The ends are what no water has, not advice.
READINGS = {
    each.code: each
    for each in (
        Reading("temperature_c", "Temperature", "°C", -2, 40),
        Reading("ambient_us_cm", "Conductivity, ambient", "µS/cm", 1, 100_000),
        Reading("specific_us_cm", "Conductivity at 25 °C", "µS/cm", 1, 100_000),
        Reading("oxygen_mg_l", "Dissolved oxygen", "mg/L", 0, 30),
        Reading("secchi_m", "Secchi depth", "m", 0, 80),
        Reading("turbidity_ntu", "Turbidity", "NTU", 0, 5000),
        Reading("depth_m", "Depth", "m", 0, 1500),
        Reading("width_m", "Width", "m", 0, 50_000),
        Reading("flow_m3_s", "Flow", "m³/s", 0, 300_000),
        Reading("stage_m", "Stage", "m", -50, 100),
        Reading("gates_open", "Gates open", "", 0, 200, whole=True),
        Reading("release_m3_s", "Dam release", "m³/s", 0, 100_000),
        Reading("wind_m_s", "Wind", "m/s", 0, 80),
        Reading("wind_from_deg", "Wind from", "°", 0, 360),
        Reading("sky", "Sky", choices=("clear", "partly cloudy", "overcast", "rain", "snow", "fog")),
        Reading("sea_state", "Sea state", choices=tuple(f"{n} {word}" for n, word in enumerate(_SEA))),
        Reading("current", "Current", choices=("none", "weak", "moderate", "strong")),
        Reading("cover", "Cover", choices=("none", "weed", "wood", "boulders", "undercut bank", "dock", "several")),
        Reading("substrate", "Substrate", choices=("clay", "silt", "sand", "gravel", "cobble", "boulder", "bedrock", "several")),
        Reading("snow_cm", "Snow", "cm", 0, 500),
        Reading("ice_cm", "Ice", "cm", 0, 500),
    )
}  # fmt: skip
#: Asked for where a programme decided nothing.
USUAL = ("temperature_c", "ambient_us_cm", "specific_us_cm", "oxygen_mg_l", "secchi_m")


def read_readings(given: Mapping[str, Any]) -> dict[str, float | int | str]:
    """What was read, checked; what is empty is left out.

    Raises:
        CoreError: ``reading_unknown``, ``number_out_of_range``, ``not_a_choice``, each with the reading as field.
    """
    read: dict[str, float | int | str] = {}
    for code, value in given.items():
        kind = READINGS.get(code)
        if kind is None:
            raise CoreError("reading_unknown", f"Nothing is read as '{str(code)[:30]}' here.", str(code)[:30])
        if value is None or value == "":
            continue
        read[code] = _choice(kind, value) if kind.choices else _figure(kind, value)
    return read


def _choice(kind: Reading, value: Any) -> str:
    if value not in kind.choices:
        raise CoreError(
            "not_a_choice",
            f"{kind.title}: expected one of {', '.join(kind.choices)}; got '{str(value)[:30]}'.",
            kind.code,
        )
    return str(value)


def _figure(kind: Reading, value: Any) -> float | int:
    good = not isinstance(value, bool) and isinstance(value, int | float) and math.isfinite(value)
    if not good or not kind.low <= value <= kind.high or (kind.whole and value != int(value)):
        raise CoreError(
            "number_out_of_range",
            f"{kind.title}: expected from {kind.low:g} to {kind.high:g} {kind.unit}".rstrip()
            + f"; got {str(value)[:30]}.",
            kind.code,
        )
    return int(value) if kind.whole else float(value)
