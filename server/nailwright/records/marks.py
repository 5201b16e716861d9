"""Numbers in a file: whose they are, and new marked fish where nobody carries them yet."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from nailwright.common.rows import new_id
from nailwright.deck.encounters import renew_encounters
from nailwright.deck.models import Capture
from nailwright.programmes.models import Person, Programme
from nailwright.records.models import Import
from nailwright.records.reading import FileFish
from nailwright.tags.models import Encounter, Fish, Placement, Scan, Tag, TagState
from nailwright.tags.scans import fish_by_number, scan_rows
from nailwright_core.common.errors import CoreError

Number = tuple[str, str]
_BATCH = 2000


class Marks:
    """Gives each fish of a file that carries numbers the individual that it is."""

    def __init__(self, programme: Programme, person: Person, new_marks: bool) -> None:
        self._programme, self._person, self._may_make = programme, person, new_marks
        self._carrier: dict[Number, UUID] = {}
        self._species: dict[UUID, str] = {}
        self._first: dict[Number, tuple[datetime, UUID, UUID]] = {}
        self._new_fish: list[Fish] = []
        self.n_new = 0

    def look_up(self, fish: Sequence[FileFish]) -> None:
        """Read from the record what a batch of fish needs."""
        wanted = {number for each in fish for number in _numbers(each)} - self._carrier.keys()
        self._carrier |= fish_by_number(self._programme, wanted)
        named = {each.given["fish_id"] for each in fish if "fish_id" in each.given}
        unknown = (named | set(self._carrier.values())) - set(self._species)
        for key, programme, species in Fish.objects.filter(pk__in=unknown).values_list("pk", "programme_id", "species"):
            self._species[key] = species if programme == self._programme.pk else ""

    def check(self, fish: FileFish) -> None:
        """Refuse a fish that cannot be whom its numbers say, before anything is made for it.

        Raises:
            CoreError: ``marks_disagree``, ``fish_elsewhere``, ``fish_of_other_species``.
        """
        carriers = {self._carrier[number] for number in _numbers(fish) if number in self._carrier}
        if "fish_id" in fish.given:
            carriers.add(fish.given["fish_id"])
        what = ", ".join(" ".join(number) for number in _numbers(fish)) or "This individual"
        if len(carriers) > 1:
            raise CoreError("marks_disagree", f"{what} belong to {len(carriers)} different fish.", "mark_read")
        for key in carriers:
            species = self._species.get(key)
            if species == "":
                raise CoreError(
                    "fish_elsewhere", "The individual with this key belongs to another programme.", "fish_id"
                )
            if species and species != fish.values["species"]:
                raise CoreError(
                    "fish_of_other_species",
                    f"{what} was a {species} before; here it is a {fish.values['species']}.",
                    "species",
                )

    def recognise(self, fish: FileFish) -> None:
        """Set the individual of a fish that passed ``check``."""
        numbers = _numbers(fish)
        known = next((self._carrier[number] for number in numbers if number in self._carrier), None)
        key = fish.given.get("fish_id") or known
        if key is None and (not numbers or not self._may_make):
            return
        key = key or new_id()
        if key not in self._species:
            self._species[key] = fish.values["species"]
            self._new_fish.append(Fish(id=key, programme=self._programme, species=fish.values["species"]))
            self.n_new += 1
        fish.values["fish_id"] = key
        if numbers and "scanned" not in fish.given:
            fish.values["scanned"] = Capture.Scanned.KNOWN
        for number in numbers:
            if number not in self._carrier:
                self._carrier[number] = key
                self._first[number] = (fish.at, fish.key, key)
            elif number in self._first and fish.at < self._first[number][0]:
                self._first[number] = (fish.at, fish.key, key)

    def store_fish(self) -> None:
        """Write the new individuals."""
        Fish.objects.bulk_create(self._new_fish)
        self._new_fish.clear()

    def store_scans(self, fish: Sequence[FileFish]) -> None:
        """Write what was read on captures that are stored, and where their fish were met."""
        rows = [
            row
            for each in fish
            for row in scan_rows(
                self._programme, each.reads, self._carrier, source_id=each.key, recorder=self._person, device_time=each.at
            )
        ]  # fmt: skip
        Scan.objects.bulk_create(rows, batch_size=_BATCH)
        renew_encounters([each.key for each in fish if each.values.get("fish_id")])

    def store_placements(self) -> None:
        """Write the new tags, each placed at the first capture that reads it."""
        numbers = [number for _, number in self._first]
        tags = {(tag.kind, tag.number): tag for tag in self._programme.tags.filter(number__in=numbers)}
        fresh, placed, placements = [], [], []
        for (kind, number), (at, capture, fish) in self._first.items():
            tag = tags.get((kind, number))
            before = tag.state if tag else TagState.ELSEWHERE
            if tag is None:
                tag = Tag(id=new_id(), programme=self._programme, kind=kind, number=number, state=TagState.PLACED)
                fresh.append(tag)
            elif tag.state != TagState.PLACED:
                tag.state = TagState.PLACED
                placed.append(tag)
            placements.append(
                Placement(
                    id=new_id(), tag=tag, fish_id=fish, capture_id=capture, living_tag=tag.pk, tag_before=before,
                    device_time=at, recorder=self._person,
                )
            )  # fmt: skip
        Tag.objects.bulk_create(fresh, batch_size=_BATCH)
        Tag.objects.bulk_update(placed, ["state"], batch_size=500)
        Placement.objects.bulk_create(placements, batch_size=_BATCH)

    @staticmethod
    def withdraw(row: Import, at: datetime) -> None:
        """Take the file's readings and placements back. A tag whose number was read on other captures since swims in its
        fish: its placement stays, from the first of those on. Any other goes where it was before the file."""
        keys = list(Capture.present.filter(brought_in_id=row.pk).values_list("pk", flat=True))
        for start in range(0, len(keys), _BATCH):
            batch = keys[start : start + _BATCH]
            Scan.present.filter(source_id__in=batch).update(deleted_at=at)
            Encounter.objects.filter(kind=Encounter.Kind.CAPTURE, source_id__in=batch).delete()
        for start in range(0, len(keys), _BATCH):
            _withdraw_placements(row, keys[start : start + _BATCH], at)


def _withdraw_placements(row: Import, keys: Sequence[UUID], at: datetime) -> None:
    placements = list(Placement.present.filter(capture_id__in=keys).exclude(living_tag=None).select_related("tag"))
    numbers = {each.tag.number for each in placements}
    later: dict[Number, UUID] = {}
    scans = Scan.present.filter(programme=row.programme_id, number__in=numbers).order_by("-device_time", "-id")
    for kind, number, source in scans.values_list("kind", "number", "source_id"):
        later[kind, number] = source
    back = []
    for each in placements:
        since = later.get((each.tag.kind, each.tag.number))
        if since:
            each.capture_id = since
        else:
            each.living_tag, each.deleted_at = None, at
            each.tag.state = each.tag_before
            back.append(each.tag)
    Placement.objects.bulk_update(placements, ["capture_id", "living_tag", "deleted_at"], batch_size=500)
    Tag.objects.bulk_update(back, ["state"], batch_size=500)


def _numbers(fish: FileFish) -> list[Number]:
    return [(each.kind, each.number) for each in fish.reads]
