"""The species of an outing's Deck, each with all that is looked up of it with no signal."""

from __future__ import annotations

from dataclasses import asdict
from functools import lru_cache
from typing import Any

import numpy as np
from django.core.cache import cache
from django.db.models import Max, Q
from numpy.typing import NDArray

from nailwright.deck.models import Capture, Outing
from nailwright.deck.outing.visits import groups_of, lengths_of, visit_before
from nailwright.deck.own_lines import own_lines
from nailwright.programmes.species.known import SpeciesTable, species_of
from nailwright.waters.models import Water
from nailwright_core.common.species import OTHER, LengthMassLine, Lookalike, Species
from nailwright_core.deck.plausibility import believability_table
from nailwright_core.findings.condition import relative_weight

#: How long the longest fish of a water is remembered, s.
LONGEST_SECONDS = 600


def deck_species(outing: Outing) -> list[dict[str, Any]]:
    """The programme's species with their tables: categories, believable ranges, lengths of the last visit and their groups.

    Those that are not called any more are among them where the outing has caught them. Plain values, as
    ``DeckSpeciesSerializer`` has them.
    """
    lines, kinds = own_lines(outing.programme), species_of(outing.programme)
    before = visit_before(outing)
    last_visit, groups = (lengths_of(before), groups_of(before)) if before else ({}, {})
    longest = longest_in(outing.water)
    rows = []
    caught = set(Capture.present.filter(run__outing=outing).order_by().values_list("species", flat=True).distinct())
    offered = outing.programme.species.filter(Q(retired_at=None) | Q(code__in=caught))
    for code in (*offered.values_list("code", flat=True), OTHER.code):
        kind = kinds[code]
        rows.append(
            {
                "code": code,
                "name": kind.common_name,
                "scientific_name": kind.scientific_name,
                "words": list(kind.words),
                "length_type": kind.length_type,
                "conversions": [
                    {"from_type": each.from_type, "intercept_mm": each.intercept_mm, "slope": each.slope}
                    for each in kind.conversions
                ],
                "legal_mm": [kind.legal.min_mm, kind.legal.max_mm] if kind.legal else [None, None],
                "legal_bag": kind.legal.bag if kind.legal else None,
                "smallest_to_tag_mm": kind.smallest_to_tag_mm,
                "lookalikes": [_lookalike(kinds, each) for each in kind.lookalikes],
                "special_interest": kind.special_interest,
                "swim_bladder": kind.swim_bladder,
                "categories": [{"name": name, "from_mm": mm} for name, mm in kind.size_categories or ()],
                "line_is_own": code in lines,
                "usual_mm": list(kind.length_range_mm),
                "bounds_mm": list(kind.length_bounds_mm),
                "mass_table": _mass_table(kind, lines.get(code)),
                "last_visit_mm": last_visit.get(code, []),
                "last_visit_groups": groups.get(code, []),
                "longest_mm": longest.get(code),
            }
        )
    return rows


@lru_cache(maxsize=128)  # of 100 kB each
def _mass_table(kind: Species, line: LengthMassLine | None) -> dict[str, list[Any]]:
    """Masses by length as the Deck believes them, g; worked out once for each line, since every tablet asks."""
    table = believability_table(kind, line)
    return {
        "length_mm": table.length_mm.round(4).tolist(),
        "expected_g": _significant(table.expected_g),
        "far_low_g": _significant(table.far_low_g),
        "low_g": _significant(table.low_g),
        "high_g": _significant(table.high_g),
        "far_high_g": _significant(table.far_high_g),
        "standard_g": _standard(kind, table.length_mm),
    }


def longest_in(water: Water) -> dict[str, float]:
    """The longest fish of each species that was measured in a water so far, in the species' own type of length, mm."""
    key = f"longest-{water.pk}"
    found: dict[str, float] | None = cache.get(key)
    if found is None:
        measured = Capture.present.filter(run__outing__water=water, run__deleted_at=None, length_basis="measured")
        rows = measured.order_by().values_list("species", "length_type").annotate(longest=Max("length_mm"))
        kinds = species_of(water.programme)
        found = {code: mm for code, kind, mm in rows if code in kinds and kind in ("", kinds[code].length_type) and mm}
        cache.set(key, found, LONGEST_SECONDS)
    return found


def _standard(kind: Species, length_mm: NDArray[np.float64]) -> list[float | None]:
    """Standard weight (g) at lengths, nothing where it is not defined: so the tablet says Wr by looking up."""
    wr = relative_weight(kind, length_mm, np.full(len(length_mm), 100.0))
    return [None if np.isnan(each) else float(f"{100 * 100 / each:.6g}") for each in wr]


def _lookalike(kinds: SpeciesTable, other: Lookalike) -> dict[str, Any]:
    """A species that this one is taken for, by its name; its bare code where it is none that is known here."""
    told = asdict(other)
    code = told.pop("code")
    return {"name": kinds[code].common_name if code in kinds else code, **told}


def _significant(values: Any) -> list[float]:
    return [float(f"{value:.6g}") for value in values]
