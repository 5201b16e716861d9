"""Which outings a year brings, and what a run takes."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from demo.truth import LOWER_RIVER, UPPER_RIVER

BOAT, BACKPACK, ANGLING = "boat_electrofishing", "backpack_electrofishing", "angling"


@dataclass(frozen=True)
class Visit:
    """One outing of the yearly round: ``means`` is fish a run by species, ``runs`` the number of runs."""

    month: int
    day: int
    water: str
    reach: str
    gear: str
    runs: int
    means: dict[str, float]


_LOWER = {"wal": 36, "yep": 9, "nop": 3, "bur": 1.5}
_UPPER = {"wal": 27, "yep": 12, "nop": 4, "bur": 2}
_LAKE = {"wal": 25, "yep": 30, "nop": 4.5, "lwf": 4}
_BECK = {"wal": 3, "yep": 12, "nop": 2, "bur": 4}

ROUND = (
    Visit(2, 3, "Lake Ossling", "South basin", ANGLING, 3, {"bur": 14, "lwf": 5}),
    Visit(4, 24, "Ketterwick River", LOWER_RIVER, BOAT, 5, _LOWER),
    Visit(5, 2, "Ketterwick River", UPPER_RIVER, BOAT, 4, _UPPER),
    Visit(5, 9, "Lake Ossling", "North arm", BOAT, 4, _LAKE),
    Visit(5, 10, "Lake Ossling", "South basin", BOAT, 4, _LAKE),
    Visit(8, 12, "Skarn Beck", "Skarn Beck", BACKPACK, 3, _BECK),
    Visit(8, 13, "Hollin Water", "Hollin Water", BACKPACK, 3, _BECK),
    Visit(9, 28, "Lake Ossling", "North arm", BOAT, 4, _LAKE),
    Visit(9, 29, "Lake Ossling", "South basin", BOAT, 4, _LAKE),
    Visit(10, 12, "Ketterwick River", LOWER_RIVER, BOAT, 5, _LOWER),
    Visit(10, 20, "Ketterwick River", UPPER_RIVER, BOAT, 4, _UPPER),
    Visit(10, 27, "Ketterwick River", LOWER_RIVER, BOAT, 5, _LOWER),
    Visit(11, 6, "Ketterwick River", UPPER_RIVER, BOAT, 4, _UPPER),
)
#: Tonight's outing, on the day the demo is loaded: two runs worked, the third just begun, of five.
TONIGHT = Visit(0, 0, "Ketterwick River", LOWER_RIVER, BOAT, 3, _LOWER)
#: What tonight is to bring: species, measured or marked, how many, from which length (mm).
TARGETS = (("wal", "measured", 120, None), ("wal", "marked", 40, 250.0), ("nop", "measured", 10, None))


def day_of(visit: Visit, year: int, nudge: int) -> date:
    """The visit's day, a few days early or late from year to year."""
    return date.fromordinal(date(year, visit.month, visit.day).toordinal() + nudge)
