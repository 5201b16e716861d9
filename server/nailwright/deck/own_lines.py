"""The programme's own length-mass line for each species with enough weighed fish."""

from __future__ import annotations

from typing import Any

import numpy as np
from django.core.cache import cache
from numpy.typing import NDArray

from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import LengthMassLine
from nailwright_core.findings.condition import fit_length_mass

#: From this many weighed fish on, the programme's own line replaces the published one.
OWN_LINE_FROM = 30
OWN_LINE_NEWEST = 3000
OWN_LINE_SECONDS = 600


def own_lines(programme: Programme) -> dict[str, LengthMassLine]:
    """The programme's own length-mass line for each species with enough weighed fish."""
    key = f"own-lines-{programme.pk}-{programme.species_revision}"
    lines: dict[str, LengthMassLine] | None = cache.get(key)
    if lines is None:
        codes = programme.species.values_list("code", flat=True)
        lines = {code: line for code in codes if (line := _own_line(programme, code))}
        cache.set(key, lines, OWN_LINE_SECONDS)
    return lines


def fitted_line(programme: Programme, code: str) -> dict[str, Any]:
    """The length-mass line through the programme's own weighed fish of a species, to be taken over into what it knows of it.

    Raises:
        CoreError: ``too_few_fish``; as ``fit_length_mass``.
    """
    pairs = _weighed(programme, code)
    name = species_of(programme)[code].common_name
    if len(pairs) < OWN_LINE_FROM:
        raise CoreError(
            "too_few_fish",
            f"A line of one's own takes {OWN_LINE_FROM} measured and weighed {name}; there are {len(pairs)}. Weigh more, or type a "
            "published line with its source.",
            "line",
        )
    fit = fit_length_mass(pairs[:, 0], pairs[:, 1])
    low, high = pairs[:, 0].min(), pairs[:, 0].max()
    return {
        "log10_a": float(f"{fit.log10_a.value:.6g}"),
        "b": float(f"{fit.b.value:.6g}"),
        "sd": float(f"{fit.residual_sd:.4g}"),
        "source": f"fitted to {len(pairs):,} fish of {programme.name} of {low:g} to {high:g} mm"[:200],
    }


def _own_line(programme: Programme, code: str) -> LengthMassLine | None:
    pairs = _weighed(programme, code)
    if len(pairs) < OWN_LINE_FROM:
        return None
    try:
        fit = fit_length_mass(pairs[:, 0], pairs[:, 1])
    except CoreError:
        return None  # all fish of one or two lengths: no line to be had, the published one stays
    # A line from very like fish must not call every other fish unbelievable.
    floor = species_of(programme)[code].length_mass.sd / 2
    return LengthMassLine(fit.log10_a.value, fit.b.value, max(fit.residual_sd, floor))


def _weighed(programme: Programme, code: str) -> NDArray[np.float64]:
    """Lengths (mm) and masses (g) of the newest weighed fish of a species, of shape (n, 2)."""
    newest = Capture.present.filter(
        programme=programme, species=code, length_basis="measured", mass_basis="measured",
        length_type=species_of(programme)[code].length_type,
    ).order_by("-id")[:OWN_LINE_NEWEST]  # fmt: skip
    return np.array(newest.values_list("length_mm", "mass_g"), dtype=float).reshape(-1, 2)
