"""Exact places of protected species: the one policy through which every read, file and PDF goes.

A site where such a fish was caught is secret as a whole to those who may not see it: its name, its position and every run there.
Hiding the fish alone is not enough: other fish of the same run, its number or its times would tell where it lay.

An app that knows such sites has a module ``protected`` with ``protected_sites(programme, species)``; nothing here has to know of it.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from uuid import UUID

from nailwright.common.discovery import in_each_app
from nailwright.common.errors import Refused
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import may
from nailwright.programmes.species.known import species_of

#: What stands where a place is not shown.
HIDDEN = "not shown"


@dataclass(frozen=True)
class Places:
    """What one person is shown of where fish were.

    Attributes:
        hidden: codes of species whose places are not shown; of zone and water they are.
        secret: keys of the sites where they were caught.
    """

    hidden: frozenset[str] = frozenset()
    secret: frozenset[UUID] = frozenset()

    def show(self, site: UUID | str | None, species: str = "") -> bool:
        """Whether a site may be shown, and of a fish of a species where it was."""
        return species not in self.hidden and (site is None or UUID(str(site)) not in self.secret)

    def name(self, site: UUID, name: str, species: str = "") -> str:
        """A site's name, or what stands in its place."""
        return name if self.show(site, species) else HIDDEN

    def check_question(self, species: str, sites: Iterable[str], by_site: bool) -> None:
        """Refuse a question whose answer would tell where protected fish are.

        Args:
            species: code; empty for every species.
            sites: keys of the sites that are chosen.
            by_site: whether the answer is told site by site.

        Raises:
            Refused: ``places_hidden``.
        """
        chosen = list(sites)
        of_hidden = species in self.hidden or (bool(self.hidden) and not species)
        if (by_site and self.secret) or ((by_site or chosen) and of_hidden) or not all(map(self.show, chosen)):
            raise Refused(
                "places_hidden",
                "Where protected species are found is shown to crew, biologists and leads only. Ask by zone or water instead.",
            )


#: For those who may see all.
EVERYWHERE = Places()


def places_of(person: Person, programme: Programme) -> Places:
    """What this person is shown."""
    return EVERYWHERE if may(person, programme, "see_places") else public_places(programme)


def public_places(programme: Programme) -> Places:
    """What everybody may be shown, who is in the programme or not."""
    hidden: Collection[str] = frozenset(code for code, kind in species_of(programme).items() if kind.places_hidden)
    if not hidden:
        return EVERYWHERE
    found = (each(programme, hidden) for each in in_each_app("protected", "protected_sites"))
    return Places(frozenset(hidden), frozenset(site for sites in found for site in sites))
