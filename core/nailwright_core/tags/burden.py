"""How heavy a tag a fish may carry.

2 % of body mass in air is the classic limit (Winter 1983); up to 6-8 % was tolerated in some trials (Brown et al. 1999).
From memory of these sources; the animal-care protocol decides.
"""

from __future__ import annotations

import math

from scipy import special

from nailwright_core.common.checks import check_level, finite
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.species import LengthMassLine, Species

CLASSIC_BURDEN = 0.02
#: Length of a PIT tag, mm, and the fish from which it is placed, mm (common practice, no source).
PIT_FROM_MM = {8: 50.0, 12: 65.0, 23: 110.0}


def minimum_length_mm(
    species: Species,
    tag_air_g: float,
    burden: float = CLASSIC_BURDEN,
    line: LengthMassLine | None = None,
    level: float = 0.95,
) -> Estimate:
    """The smallest fish that may carry a tag, mm.

    Args:
        tag_air_g: mass of the tag in air, g.
        burden: tag mass over fish mass that is allowed, a share.
        line: the programme's own length-mass line; the species' general one without it.

    Returns:
        Estimate: at ``value`` half of all fish are heavy enough, at ``upper`` a share ``level`` of them (95 of 100), at
        ``lower`` the rest. The ends are one-sided prediction limits of the line, turned round; ``n`` is 0, since no count
        stands behind it.

    Raises:
        CoreError: ``tag_mass_out_of_range``, ``burden_out_of_range``.
    """
    if not 0 < tag_air_g <= 5000:
        raise CoreError(
            "tag_mass_out_of_range", f"Expected a tag of up to 5,000 g in air; got {tag_air_g:g} g.", "tag_air_g"
        )
    if not 0 < burden <= 0.12:
        raise CoreError(
            "burden_out_of_range", f"Expected a burden above 0 and up to 12 % of body mass; got {burden:.1%}.", "burden"
        )
    check_level(level)
    used = line or species.length_mass
    needed = math.log10(tag_air_g / burden)
    z = float(special.ndtri(level))
    low, value, high = ((needed + shift * used.sd - used.log10_a) / used.b for shift in (-z, 0.0, z))
    return Estimate(
        10**value, math.nan, 10**low, 10**high, level, "one-sided prediction limits of the length-mass line", 0
    )


def burden_of(tag_air_g: float, fish_g: float) -> float:
    """Tag mass over fish mass.

    Args:
        tag_air_g: mass of the tag in air, g.
        fish_g: mass of the fish in air, g.

    Raises:
        CoreError: ``mass_not_positive``.
    """
    finite(tag_air_g, "tag_air_g", 0), finite(fish_g, "fish_g")
    if not fish_g > 0:
        raise CoreError("mass_not_positive", f"Expected a fish of more than 0 g; got {fish_g:g} g.", "fish_g")
    return tag_air_g / fish_g
