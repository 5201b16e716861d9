"""A river with its tributaries as a network of lines: how far apart two places are for a fish that keeps to the water.

Lines join where an end of one lies on another, or near it. Distances are geodesics on WGS84 along the lines' points; the
shortest way between joins is Dijkstra's (1959, Numer. Math. 1, 269-271), by SciPy.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import sparse
from scipy.sparse import csgraph

from nailwright_core.common.errors import CoreError
from nailwright_core.waters.geodesics import geodesic_m
from nailwright_core.waters.reach import Reach, reach_from

#: An end of a line within this of another line flows into it: drawn mouths rarely meet to the metre (ours, no source).
JOIN_M = 150.0
#: A place farther from every line than this is not on the river.
FAR_M = 5_000.0


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
        line_a, along_a = self._nearest(a, far_m)
        line_b, along_b = self._nearest(b, far_m)
        straight = abs(along_a - along_b) if line_a == line_b else math.inf
        by_joins = min(
            abs(along_a - at) + float(self._ways[node, other]) + abs(along_b - there)
            for at, node in self._stops[line_a].items()
            for there, other in self._stops[line_b].items()
        )
        return min(straight, by_joins)

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

    def _nearest(self, place: tuple[float, float], far_m: float) -> tuple[int, float]:
        geodesic_m(place[1], place[0], place[1], place[0])  # refuses what is no position
        found = [(reach.nearest_m(*place), line) for line, reach in enumerate(self._reaches)]
        (along, off), line = min(found, key=lambda each: each[0][1])
        if off > far_m:
            raise CoreError(
                "off_the_water",
                f"Expected a place within {far_m:,.0f} m of the water; got one {off:,.0f} m away.",
                "position",
            )
        return line, along
