"""What can be read at a site, and in which bounds.

Sea state by the code of the World Meteorological Organization (table 3700), from memory; the rest common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from nailwright_core.common.errors import CoreError
from nailwright_core.common.field import choice, number, read_value, whole

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
    each.name: each
    for each in (
        number("temperature_c", "Temperature", "°C", -2, 40),
        number("ambient_us_cm", "Conductivity, ambient", "µS/cm", 1, 100_000),
        number("specific_us_cm", "Conductivity at 25 °C", "µS/cm", 1, 100_000),
        number("oxygen_mg_l", "Dissolved oxygen", "mg/L", 0, 30),
        number("secchi_m", "Secchi depth", "m", 0, 80),
        number("turbidity_ntu", "Turbidity", "NTU", 0, 5000),
        number("depth_m", "Depth", "m", 0, 1500),
        number("width_m", "Width", "m", 0, 50_000),
        number("flow_m3_s", "Flow", "m³/s", 0, 300_000),
        number("stage_m", "Stage", "m", -50, 100),
        whole("gates_open", "Gates open", "", 0, 200),
        number("release_m3_s", "Dam release", "m³/s", 0, 100_000),
        number("wind_m_s", "Wind", "m/s", 0, 80),
        number("wind_from_deg", "Wind from", "°", 0, 360),
        choice("sky", "Sky", "clear", "partly cloudy", "overcast", "rain", "snow", "fog"),
        choice("sea_state", "Sea state", *(f"{n} {word}" for n, word in enumerate(_SEA))),
        choice("current", "Current", "none", "weak", "moderate", "strong"),
        choice("cover", "Cover", "none", "weed", "wood", "boulders", "undercut bank", "dock", "several"),
        choice("substrate", "Substrate", "clay", "silt", "sand", "gravel", "cobble", "boulder", "bedrock", "several"),
        number("snow_cm", "Snow", "cm", 0, 500),
        number("ice_cm", "Ice", "cm", 0, 500),
    )
}  # fmt: skip
#: Asked for where a programme decided nothing.
USUAL = ("temperature_c", "ambient_us_cm", "specific_us_cm", "oxygen_mg_l", "secchi_m")


def read_readings(given: Mapping[str, Any]) -> dict[str, float | int | str]:
    """What was read, checked; what is empty is left out.

    Args:
        given: readings by their codes.

    Raises:
        CoreError: ``reading_unknown``, and as ``field.read_value``, each with the reading as field.
    """
    read: dict[str, float | int | str] = {}
    for code, value in given.items():
        field = READINGS.get(code)
        if field is None:
            raise CoreError("reading_unknown", f"Nothing is read as '{str(code)[:30]}' here.", str(code)[:30])
        if value is None or value == "":
            continue
        found = read_value(field, value)
        if found is not None:
            read[code] = found
    return read
