"""Exact places of protected species: who sees them, and what is shown to others."""

from __future__ import annotations

from collections.abc import Collection

from nailwright.common.errors import Refused
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import may
from nailwright.programmes.species import species_of

#: What stands where a place is not shown.
HIDDEN = "not shown"


def hidden_species(person: Person, programme: Programme) -> frozenset[str]:
    """Codes of species whose sites this person does not see; reach and water they do."""
    if may(person, programme, "see_places"):
        return frozenset()
    return frozenset(code for code, kind in species_of(programme).items() if kind.places_hidden)


def must_see_places(person: Person, programme: Programme, species: str, by_site: bool) -> None:
    """Refuse a question that would tell where protected fish are: their sites chosen, or compared.

    Args:
        species: code; empty for every species.

    Raises:
        Refused: ``places_hidden``.
    """
    hidden: Collection[str] = hidden_species(person, programme)
    if by_site and (species in hidden or (hidden and not species)):
        raise Refused(
            "places_hidden",
            "Where protected species are found is shown to crew, biologists and leads only. Ask by reach or water instead.",
        )
