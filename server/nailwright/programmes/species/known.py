"""A programme's species: those that ship, as it has changed them, and its own."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from uuid import UUID

from nailwright.programmes.models import Programme
from nailwright_core.common import species as shipped
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.common.species_values import read_species


class SpeciesTable(Mapping[str, Species]):
    """Species by their codes, as one programme knows them."""

    def __init__(self, kinds: Mapping[str, Species]) -> None:
        self._kinds = kinds

    def __getitem__(self, code: str) -> Species:
        """The species with this code.

        Raises:
            CoreError: ``species_unknown``, field ``species``.
        """
        found = self._kinds.get(code.strip().lower())
        if found is None:
            raise CoreError(
                "species_unknown", f"Expected a species code such as wal or yep; got '{code[:20]}'.", "species"
            )
        return found

    def __iter__(self) -> Iterator[str]:
        return iter(self._kinds)

    def __len__(self) -> int:
        return len(self._kinds)

    def named(self) -> dict[str, str]:
        """Codes by every way in which somebody writes a species, in small letters."""
        return {
            name.lower(): kind.code
            for kind in self._kinds.values()
            for name in (kind.scientific_name, *kind.words, kind.common_name, kind.code)
            if name
        }


_tables: dict[UUID, tuple[int, SpeciesTable]] = {}


def species_of(programme: Programme) -> SpeciesTable:
    """The programme's table; read anew when a species was changed (``species_revision``)."""
    kept = _tables.get(programme.pk)
    if kept and kept[0] == programme.species_revision:
        return kept[1]
    own = programme.species.exclude(own=None).values_list("code", "own")
    kinds = {kind.code: kind for kind in (*shipped.all_species(), shipped.OTHER)}
    kinds |= {code: read_species(code, values) for code, values in own if values}
    table = SpeciesTable(kinds)
    _tables[programme.pk] = programme.species_revision, table
    return table
