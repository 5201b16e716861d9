"""The line that a boat or a person on foot took, from positions of a receiver.

A receiver that stands still scatters by metres; a position nearer than that to the last one that counts adds nothing
(otherwise standing still would be a way). Nothing is drawn across a gap. Thresholds: common practice, no source; lengths on the
WGS84 ellipsoid; lines thinned by Douglas and Peucker (1973), The Canadian Cartographer 10, 112-122, as shapely has it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from shapely import LineString

from nailwright_core.waters.geodesics import geodesic_m, local_plane

#: Longer without a position than this is a gap, s.
GAP_S = 60.0
#: Faster than this is no boat that samples fish, m/s: such a position is left out.
FASTEST_M_S = 20.0
#: Nearer to the last one that counts, a position is scatter, m.
SCATTER_M = 5.0
#: Thinning may take this share of the length at most.
MOST_LOST = 0.005


@dataclass(frozen=True)
class Fix:
    """Where one was (degrees) at a time, s."""

    at_s: float
    lat: float
    lon: float


@dataclass(frozen=True)
class Track:
    """Pieces between gaps, each in the order of its times.

    Attributes:
        pieces: positions that count. length_m: along all pieces, gaps left out.
        left_out: positions that cannot be: no place (0, 0), off the earth, or too fast from the last one.
    """

    pieces: tuple[tuple[Fix, ...], ...]
    length_m: float
    left_out: int

    @property
    def gaps(self) -> int:
        return max(0, len(self.pieces) - 1)


def read_track(fixes: Sequence[Fix]) -> Track:
    """The track of positions in any order; of several at one time the first counts.

    Args:
        fixes: positions with their times.
    """
    pieces: list[list[Fix]] = []
    left_out = 0
    last: Fix | None = None
    for fix in sorted({each.at_s: each for each in reversed(fixes)}.values(), key=lambda each: each.at_s):
        if (fix.lat == 0 and fix.lon == 0) or not (abs(fix.lat) <= 90 and abs(fix.lon) <= 180):
            left_out += 1
            continue
        if last is None or fix.at_s - last.at_s > GAP_S:
            pieces.append([fix])
            last = fix
            continue
        before = pieces[-1][-1]
        metres = float(geodesic_m(before.lat, before.lon, fix.lat, fix.lon))
        if metres > FASTEST_M_S * (fix.at_s - before.at_s):
            left_out += 1
            continue
        last = fix  # somebody who stands still has no gap
        if metres >= SCATTER_M:
            pieces[-1].append(fix)
    return Track(tuple(map(tuple, pieces)), sum(map(_length, pieces)), left_out)


def thinned(track: Track) -> tuple[tuple[Fix, ...], ...]:
    """The pieces with as few positions as keep all but ``MOST_LOST`` of each one's length.

    Args:
        track: in pieces between gaps.
    """
    return tuple(map(_thinned, track.pieces))


def _thinned(piece: Sequence[Fix]) -> tuple[Fix, ...]:
    if len(piece) < 3:
        return tuple(piece)
    east, north = local_plane([each.lat for each in piece], [each.lon for each in piece])
    line = LineString(np.column_stack([east, north]))
    by_place = dict(zip(line.coords, piece, strict=True))
    within = 16.0
    while within > 0.1:
        thin = line.simplify(within, preserve_topology=False)
        if thin.length >= (1 - MOST_LOST) * line.length:
            return tuple(by_place[place] for place in thin.coords)
        within /= 2
    return tuple(piece)


def _length(piece: Sequence[Fix]) -> float:
    if len(piece) < 2:
        return 0.0
    ends = np.array([(a.lat, a.lon, b.lat, b.lon) for a, b in pairwise(piece)])
    return float(geodesic_m(*ends.T).sum())
