"""Numbers in a file: whose they are, and new marked fish where nobody carries them yet."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from nailwright.deck.models import Capture
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.rows import new_id
from nailwright.records.models import Import
from nailwright.records.reading import FileFish
from nailwright.tags.models import Fish, Placement, Tag
from nailwright.tags.queries import fish_by_number
from nailwright_core.common.errors import CoreError

Number = tuple[str, str]


class Marks:
    """Gives each fish of a file that carries a number the individual that it is."""

    def __init__(self, programme: Programme, person: Person, new_marks: bool) -> None:
        self._programme, self._person, self._may_make = programme, person, new_marks
        self._carrier: dict[Number, UUID] = {}
        self._species: dict[UUID, str] = {}
        self._first: dict[Number, tuple[datetime, UUID, UUID]] = {}
        self._new_fish: list[Fish] = []
        self.n_new = 0

    def look_up(self, fish: Sequence[FileFish]) -> None:
        """Read from the record what a batch of fish needs."""
        wanted: dict[str, set[str]] = {}
        for each in fish:
            number = _number(each)
            if number and number not in self._carrier:
                wanted.setdefault(number[0], set()).add(number[1])
        for kind, numbers in wanted.items():
            for text, key in fish_by_number(self._programme, kind, numbers).items():
                self._carrier[kind, text] = key
        named = {each.given["fish_id"] for each in fish if "fish_id" in each.given}
        unknown = (named | set(self._carrier.values())) - set(self._species)
        for key, programme, species in Fish.objects.filter(pk__in=unknown).values_list("pk", "programme_id", "species"):
            self._species[key] = species if programme == self._programme.pk else ""

    def recognise(self, fish: FileFish) -> None:
        """Set the individual of a fish.

        Raises:
            CoreError: ``fish_elsewhere``, ``fish_of_other_species``.
        """
        number = _number(fish)
        key = fish.given.get("fish_id") or (self._carrier.get(number) if number else None)
        if key is None and (number is None or not self._may_make):
            return
        key = key or new_id()
        species = self._species.get(key)
        if species is None:
            species = self._species[key] = fish.values["species"]
            self._new_fish.append(Fish(id=key, programme=self._programme, species=species))
            self.n_new += 1
        if species == "":
            raise CoreError("fish_elsewhere", "The individual with this key belongs to another programme.", "fish_id")
        if species != fish.values["species"]:
            what = " ".join(number) if number else "This individual"
            raise CoreError(
                "fish_of_other_species",
                f"{what} was a {species} before; here it is a {fish.values['species']}.",
                "species",
            )
        fish.values["fish_id"] = key
        if number is None:
            return
        if "scanned" not in fish.given:
            fish.values["scanned"] = Capture.Scanned.KNOWN
        if number not in self._carrier:
            self._carrier[number] = key
            self._first[number] = (fish.at, fish.key, key)
        elif number in self._first and fish.at < self._first[number][0]:
            self._first[number] = (fish.at, fish.key, key)

    def store_fish(self) -> None:
        """Write the new individuals."""
        Fish.objects.bulk_create(self._new_fish)
        self._new_fish.clear()

    def store_placements(self) -> None:
        """Write the new tags, each placed at the first capture that reads it."""
        tags = {
            (tag.kind, tag.number): tag
            for tag in self._programme.tags.filter(number__in=[number for _, number in self._first])
        }
        fresh, placed, placements = [], [], []
        for (kind, number), (at, capture, fish) in self._first.items():
            tag = tags.get((kind, number))
            if tag is None:
                tag = Tag(id=new_id(), programme=self._programme, kind=kind, number=number, state=Tag.State.PLACED)
                fresh.append(tag)
            elif tag.state != Tag.State.PLACED:
                tag.state = Tag.State.PLACED
                placed.append(tag)
            placements.append(
                Placement(
                    id=new_id(), tag=tag, fish_id=fish, capture_id=capture, living_tag=tag.pk, device_time=at,
                    recorder=self._person,
                )
            )  # fmt: skip
        Tag.objects.bulk_create(fresh, batch_size=2000)
        Tag.objects.bulk_update(placed, ["state"], batch_size=500)
        Placement.objects.bulk_create(placements, batch_size=2000)

    @staticmethod
    def withdraw(row: Import, at: datetime) -> None:
        """Take the tags out again that came with a file."""
        placements = Placement.present.filter(capture__brought_in=row)
        Tag.objects.filter(placements__in=placements).update(state=Tag.State.STOCK)
        placements.update(living_tag=None, deleted_at=at)


def _number(fish: FileFish) -> Number | None:
    if not fish.values["scan_text"]:
        return None
    kind, number = fish.values["scan_text"].split(" ", 1)
    return kind, number
