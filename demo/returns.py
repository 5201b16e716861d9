"""What anglers reported of the river's marked walleye: most of it true, some of it not, some still to be decided."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

import numpy as np

from demo.keys import Keys
from demo.truth import SEED
from nailwright.programmes.models import Membership, Person, Programme
from nailwright.programmes.record.audit import Act
from nailwright.returns.deciding import decide
from nailwright.returns.models import PublicPage, Return
from nailwright.returns.reporting import take_report
from nailwright.returns.volunteers.cards import record_card
from nailwright.tags.handing_out import To, hand_out
from nailwright.tags.models import Encounter, Placement
from nailwright.waters.models import Site

ADDRESS = "ossling"
VERIFIED, OPEN = 16, 6
#: Tags that the volunteer was handed, and how many of them are in fish.
KIT, CARDS = 50, 42
#: Of reported fish: how many were let go again, and how fast marked fish grow as anglers see it, mm a month.
LET_GO, MM_A_MONTH = 0.55, 2.4
PLACES = (
    "below the weir",
    "mouth of the side arm",
    "long pool, east bank",
    "old ferry landing",
    "by the gravel pit",
    "",
)
REMARKS = ("", "", "Nice fish.", "Tag covered with weed, scar behind it clean.", "")


def load_returns(programme: Programme, biologist: Person, now: datetime) -> None:
    """The public page, reports that were decided over the years, and those that wait."""
    rng = np.random.default_rng(SEED + 12)
    keys = Keys(np.random.default_rng(SEED + 13))
    PublicPage.objects.create(
        id=keys.at(now),
        programme=programme,
        address=ADDRESS,
        open=True,
        telephone="+00 555 0142",
        email="tags@ossling.example",
        greeting="The crews of the Ossling basin thank you.",
    )
    met = list(_reportable(rng, now.date()))
    n = max(0, min(VERIFIED, len(met) - OPEN))  # a demo of few years has few marked fish
    decided, waiting = met[:n], met[n : n + OPEN]
    for place, (_, number, told) in enumerate(decided):
        report = _take(programme, keys, number, told)
        state, reason = Return.State.VERIFIED, ""
        if place == 3:
            state, reason = Return.State.REJECTED, "the photo shows another programme's tag"
        at = report.received_at + timedelta(days=int(rng.integers(1, 9)))
        decide(Act(keys.at(at), biologist, at, reason), report, state)
    if len(waiting) < OPEN:
        return
    for number, told in _open(waiting, now.date()):
        _take(programme, keys, number, told)
    asked = _take(programme, keys, waiting[5][1], {**waiting[5][2], "found_on": None, "contact": _finder("Tove Aas")})
    decide(Act(keys.at(now), biologist, now, "On which day was it, about?"), asked, Return.State.ASKED)


def load_kit(programme: Programme, volunteer: Person, lead: Person, now: datetime) -> None:
    """What a volunteer has with them, and the fish that they tagged this summer: they like to read their board to five millimetres."""
    rng = np.random.default_rng(SEED + 14)
    keys = Keys(np.random.default_rng(SEED + 15))
    member = Membership.objects.get(programme=programme, person=volunteer)
    member.number = "17"
    member.save(update_fields=["number"])
    tags = list(programme.tags.filter(kind="tbar", state="stock").order_by("number")[:KIT])
    hand_out(
        Act(keys.at(now - timedelta(days=120)), lead, now - timedelta(days=120)), programme, tags, To(person=volunteer)
    )
    sites = [
        each
        for each in Site.objects.filter(water__programme=programme, river_km__lt=31)
        if each.position[0] is not None
    ]
    for place in range(CARDS):
        at = now - timedelta(days=110 - 2 * place, hours=float(rng.uniform(0, 6)))
        lat, lon = sites[int(rng.integers(len(sites)))].position
        assert lat is not None and lon is not None
        length = float(rng.normal(430, 70))
        length = 5 * round(length / 5) if rng.random() < 0.6 else round(length)
        row = {
            "tagger": str(member.pk), "number_text": tags[place].number, "tag_kind": "tbar", "species": "wal", "length": f"{length} mm",
            "condition": int(rng.choice([1, 1, 1, 2, 3])), "lat": round(lat + float(rng.normal(0, 0.002)), 5),
            "lon": round(lon + float(rng.normal(0, 0.002)), 5), "error_m": int(rng.integers(5, 40)),
            "fight_s": int(rng.integers(40, 200)), "hook_kind": "single", "hook_site": "lip", "bleeding_landed": "none",
        }  # fmt: skip
        if place == 7:
            row |= {"condition": None, "lat": None, "lon": None, "error_m": None}  # a card that was never finished
        record_card(Act(keys.at(at), volunteer, at), programme, row)


def _reportable(rng: np.random.Generator, today: date) -> Iterator[tuple[Encounter, str, dict[str, Any]]]:
    """Tagged fish in turn, each with what somebody may tell of meeting it after the crews last did."""
    carried = Placement.present.filter(tag__kind="tbar").exclude(living_tag=None).select_related("tag", "fish")
    rows = list(carried.order_by("device_time", "id"))
    for place in rng.permutation(len(rows)):
        row = rows[place]
        last = Encounter.objects.filter(fish=row.fish).select_related("site").order_by("at").last()
        days = int(rng.integers(35, 420))
        if last is None or last.lat is None or last.lon is None or last.length_mm is None:
            continue
        found = last.at.date() + timedelta(days=days)
        if found > today - timedelta(days=2):
            continue
        free = rng.random() < LET_GO
        yield (
            last,
            row.tag.number,
            {
                "species": row.fish.species,
                "found_on": found,
                "lat": round(last.lat + float(rng.normal(0, 0.002)), 4),
                "lon": round(last.lon + float(rng.normal(0, 0.002)), 4),
                "place_text": str(rng.choice(PLACES)),
                "length": f"{(last.length_mm + MM_A_MONTH * days / 30.4 + rng.normal(0, 6)) / 10:.0f} cm",
                "means": "rod",
                "fish_fate": "released" if free else "kept",
                "tag_fate": "left" if free else "removed",
                "remarks": str(rng.choice(REMARKS)),
            },
        )


def _open(waiting: list[tuple[Encounter, str, dict[str, Any]]], today: date) -> Iterator[tuple[str, dict[str, Any]]]:
    """Those that nobody has decided: one in order, one told twice, one of another fish, one number misread, one from far away."""
    (_, first, plain), (_, second, twice), (_, third, other), (_, fourth, misread), (_, fifth, far) = waiting[:5]
    lately = today - timedelta(days=3)
    yield first, {**plain, "found_on": lately, "language": "fr", "contact": _finder("Maud Perrin")}
    yield second, {**twice, "found_on": lately}
    yield second, {**twice, "found_on": lately - timedelta(days=1), "place_text": "near the bridge", "length": ""}
    yield third, {**other, "found_on": lately, "species": "nop", "length": "~22 cm"}
    yield f"{fourth}7", {**misread, "found_on": lately}
    yield fifth, {**far, "found_on": lately, "lat": 12.5, "lon": -60.1, "place_text": "at sea"}


def _finder(name: str) -> dict[str, Any]:
    return {"name": name, "email": f"{name.split()[0].lower()}@example.org", "consent": True}


def _take(programme: Programme, keys: Keys, number: str, told: dict[str, Any]) -> Return:
    found = told["found_on"] or datetime.now(UTC).date() - timedelta(days=4)
    received = datetime.combine(found, time(19), UTC) + timedelta(days=1)
    report, _ = take_report(programme, keys.at(received), {**told, "number": number})
    report.received_at = received
    report.save(update_fields=["received_at"])
    return report
