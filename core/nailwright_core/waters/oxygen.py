"""How much oxygen water can hold, and how much of that it holds.

Benson and Krause (1984), Limnol. Oceanogr. 29, 620-632; constants from memory, held against published tables in the tests.
"""

from __future__ import annotations

import math

from nailwright_core.common.checks import finite
from nailwright_core.common.errors import CoreError

STANDARD_PA = 101_325.0


def oxygen_saturation_mg_l(temperature_c: float, altitude_m: float = 0.0, salinity: float = 0.0) -> float:
    """Dissolved oxygen of water in balance with moist air, mg/L.

    Args:
        temperature_c: of the water, 0 to 40.
        altitude_m: of the water's surface, for the air pressure of the standard atmosphere; -500 to 6,000.
        salinity: practical, 0 to 40.

    Raises:
        CoreError: ``number_out_of_range``.
    """
    t = finite(temperature_c, "temperature_c", 0, 40)
    finite(altitude_m, "altitude_m", -500, 6000)
    finite(salinity, "salinity", 0, 40)
    kelvin = t + 273.15
    fresh = (
        -139.34411 + 1.575701e5 / kelvin - 6.642308e7 / kelvin**2 + 1.243800e10 / kelvin**3 - 8.621949e11 / kelvin**4
    )
    salt = salinity * (0.017674 - 10.754 / kelvin + 2140.7 / kelvin**2)
    pressure = (1 - 2.25577e-5 * altitude_m) ** 5.25588  # of the air, in atmospheres
    vapour = math.exp(11.8571 - 3840.70 / kelvin - 216961 / kelvin**2)
    theta = 0.000975 - 1.426e-5 * t + 6.436e-8 * t * t
    of_air = (pressure - vapour) * (1 - theta * pressure) / ((1 - vapour) * (1 - theta))
    return float(math.exp(fresh - salt) * of_air)


def oxygen_saturation_percent(
    oxygen_mg_l: float, temperature_c: float, altitude_m: float = 0.0, salinity: float = 0.0
) -> float:
    """A reading in per cent of saturation.

    Args:
        oxygen_mg_l: dissolved oxygen, mg/L.
        temperature_c: of the water, °C.
        altitude_m: of the surface above the sea, m.
        salinity: practical salinity.

    Raises:
        CoreError: ``number_out_of_range``.
    """
    if not 0 <= oxygen_mg_l <= 60:
        raise CoreError("number_out_of_range", f"Expected 0 to 60 mg/L of oxygen; got {oxygen_mg_l}.", "oxygen_mg_l")
    return 100 * oxygen_mg_l / oxygen_saturation_mg_l(temperature_c, altitude_m, salinity)
