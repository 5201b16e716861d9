"""A river with its tributaries as a network of lines: how far apart two places are for a fish that keeps to the water.

Lines join where an end of one lies on another, or near it. Distances are geodesics on WGS84 along the lines' points; the
shortest way between joins is Dijkstra's (1959, Numer. Math. 1, 269-271), by SciPy.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import sparse, spatial
from scipy.sparse import csgraph

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.waters.reach import Reach, reach_from

#: An end of a line within this of another line flows into it: drawn mouths rarely meet to the metre (ours, no source).
JOIN_M = 150.0
#: Points of a line stand no farther apart than this where the nearest is looked for.
STEP_M = 250.0
#: Of a great circle of the mean Earth.
METRES_PER_DEGREE = 111_195.08
#: So many of a line's points are looked at for the nearest piece between two of them.
_NEAREST = 4
#: A place farther from every line than this is not on the river.
FAR_M = 5_000.0


@dataclass(frozen=True)
class Located:
    """Places on a network: number of the line, metres along it, and how far off it each was, m; each of shape (n,)."""

    line: NDArray[np.int64]
    along_m: Floats
    off_m: Floats

    def take(self, places: ArrayLike) -> Located:
        """Some of them, by number or by yes and no."""
        which = np.asarray(places)
        return Located(self.line[which], self.along_m[which], self.off_m[which])


class _Line:
    """A line drawn on a plane about its middle, its points so near one another that its straight pieces are its geodesics."""

    def __init__(self, reach: Reach) -> None:
        metres = np.linspace(0.0, reach.length_m, max(2, math.ceil(reach.length_m / STEP_M) + 1))
        self.metres = np.unique(np.concatenate([metres, reach.along_m]))
        lons, lats = reach.point_at(self.metres)
        self.middle = float(lons[lons.size // 2]), float(lats[lats.size // 2])
        self.wide = math.cos(math.radians(self.middle[1]))
        self.drawn = self._plane(lons, lats)
        self.tree = spatial.KDTree(self.drawn)

    def _plane(self, lon: Floats, lat: Floats) -> Floats:
        """Degrees of latitude east and north, shape (n, 2)."""
        return np.column_stack([((lon - self.middle[0] + 180) % 360 - 180) * self.wide, lat - self.middle[1]])

    def nearest(self, lon: Floats, lat: Floats) -> tuple[Floats, Floats]:
        """Metres along to the point nearest to each place, and how far off each is, m."""
        places = self._plane(lon, lat)
        # the nearest piece of the line begins or ends at one of the nearest points, which the tree finds at once
        _, near = self.tree.query(places, k=min(_NEAREST, len(self.drawn)))
        near = near.reshape(len(places), -1)
        pieces = np.clip(np.concatenate([near - 1, near], axis=1), 0, len(self.drawn) - 2)
        begin, way = self.drawn[pieces], np.diff(self.drawn, axis=0)[pieces]
        share = np.clip(((places[:, None] - begin) * way).sum(axis=2) / (way**2).sum(axis=2), 0.0, 1.0)
        apart = places[:, None] - begin - share[..., None] * way
        best = np.arange(len(places)), (apart**2).sum(axis=2).argmin(axis=1)
        # as wide as a degree is where the place lies, not in the line's middle
        east = apart[best][:, 0] / self.wide * np.cos(np.radians(lat))
        piece = pieces[best]
        return self.metres[piece] + share[best] * np.diff(self.metres)[piece], np.hypot(
            east, apart[best][:, 1]
        ) * METRES_PER_DEGREE


class Network:
    """Lines of water that join.

    Args:
        lines: each a sequence of (longitude, latitude) points, degrees.
        join_m: how near an end must lie to another line to join it.

    Raises:
        CoreError: ``network_empty`` with no line, and as ``reach_from``.
    """

    def __init__(self, lines: Sequence[ArrayLike], join_m: float = JOIN_M) -> None:
        if not lines:
            raise CoreError("network_empty", "Expected at least one line of water; got none.", "lines")
        self._reaches: tuple[Reach, ...] = tuple(reach_from(np.asarray(line, dtype=float).tolist()) for line in lines)
        self._lines = [_Line(reach) for reach in self._reaches]
        # places along each line at which it can be left or entered: its ends, and where others join it
        self._stops: list[dict[float, int]] = []
        self._n = 0
        for reach in self._reaches:
            self._stops.append({0.0: self._node(), reach.length_m: self._node()})
        joined: list[tuple[int, int, float]] = []
        for place, reach in enumerate(self._reaches):
            for end in (0.0, reach.length_m):
                joined.extend(self._joins(place, end, join_m))
        self._ways = self._shortest(joined)

    def distance_m(self, a: tuple[float, float], b: tuple[float, float], far_m: float = FAR_M) -> float:
        """Metres along the water between two places (longitude, latitude); infinite where no water joins them.

        Each place is moved to the nearest point of a line first; that step is not counted.

        Raises:
            CoreError: ``off_the_water`` where a place is farther than ``far_m`` from every line.
        """
        found = self.locate([a[0], b[0]], [a[1], b[1]])
        for off in found.off_m:
            if off > far_m:
                raise CoreError(
                    "off_the_water",
                    f"Expected a place within {far_m:,.0f} m of the water; got one {off:,.0f} m away.",
                    "position",
                )
        return float(self.distances_m(found.take([0]), found.take([1]))[0])

    def locate(self, lon: ArrayLike, lat: ArrayLike) -> Located:
        """The nearest point of a line to each place.

        Args:
            lon, lat: degrees, shape (n,).

        Raises:
            CoreError: ``position_impossible``.
        """
        x, y = np.asarray(lon, dtype=np.float64).ravel(), np.asarray(lat, dtype=np.float64).ravel()
        if not ((np.abs(y) <= 90) & (np.abs(x) <= 180)).all():
            raise CoreError(
                "position_impossible",
                "Expected latitude from -90 to 90 and longitude from -180 to 180 degrees; are the two exchanged?",
                "position",
            )
        nearest = [line.nearest(x, y) for line in self._lines]
        off = np.stack([each[1] for each in nearest])
        line = off.argmin(axis=0)
        place = np.arange(x.size)
        return Located(line, np.stack([each[0] for each in nearest])[line, place], off[line, place])

    def distances_m(self, a: Located, b: Located) -> Floats:
        """Metres along the water from each place to the one of the same number, shape (n,); infinite where no water joins them."""
        found = np.full(a.line.size, np.inf)
        for line, other in {*zip(a.line.tolist(), b.line.tolist(), strict=True)}:
            here = (a.line == line) & (b.line == other)
            leave, enter = (np.array(list(self._stops[each].items())) for each in (line, other))
            ways = self._ways[np.ix_(leave[:, 1].astype(int), enter[:, 1].astype(int))]
            to_stop = np.abs(a.along_m[here, None] - leave[:, 0])
            from_stop = np.abs(b.along_m[here, None] - enter[:, 0])
            found[here] = (to_stop[:, :, None] + ways + from_stop[:, None, :]).min(axis=(1, 2))
            if line == other:
                found[here] = np.minimum(found[here], np.abs(a.along_m[here] - b.along_m[here]))
        return found

    def _node(self) -> int:
        self._n += 1
        return self._n - 1

    def _joins(self, place: int, end: float, join_m: float) -> list[tuple[int, int, float]]:
        """Where the end of a line joins others: pairs of nodes with the step between them."""
        lon, lat = (float(each) for each in self._reaches[place].point_at(end))
        found = []
        for other, reach in enumerate(self._reaches):
            if other == place:
                continue
            along, off = reach.nearest_m(lon, lat)
            if off <= join_m:
                node = self._stops[other].setdefault(round(along, 3), self._n)
                self._n = max(self._n, node + 1)
                found.append((self._stops[place][end], node, off))
        return found

    def _shortest(self, joined: list[tuple[int, int, float]]) -> NDArray[np.float64]:
        steps = list(joined)
        for stops in self._stops:
            ordered = sorted(stops.items())
            steps += [(node, after, there - at) for (at, node), (there, after) in itertools.pairwise(ordered)]
        # the shorter of two ways between the same nodes; a join to the very metre is still a way, a sparse zero would be none
        ways: dict[tuple[int, int], float] = {}
        for node, other, length in steps:
            pair = (min(node, other), max(node, other))
            ways[pair] = min(ways.get(pair, math.inf), max(length, 1e-6))
        rows, columns = zip(*ways, strict=True)
        graph = sparse.csr_matrix((list(ways.values()), (rows, columns)), shape=(self._n, self._n))
        return np.asarray(csgraph.dijkstra(graph, directed=False), dtype=np.float64)
