"""A line through values of which some are only known to be larger, seen in clusters that differ.

Normal values with a normal effect of each cluster; what was not reached while somebody looked counts by the chance to lie beyond
(Tobin 1958, Econometrica 26, 24-36; the cluster's effect as Laird and Ware 1982, Biometrics 38, 963-974; both from memory). Of a
cluster's reached values the effect is integrated in closed form, of the others by Gauss and Hermite's rule.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.fitting.least_squares import LeastSquares
from nailwright_core.fitting.maximum import maximise
from nailwright_core.fitting.model import Model, Parameter

_NODES, _WEIGHTS = np.polynomial.hermite_e.hermegauss(31)
_LOG_WEIGHTS = np.log(_WEIGHTS / _WEIGHTS.sum())
#: Values of a cluster that are all one would take the likelihood to infinity: an SD stays above this share of the whole.
_LEAST = 0.01


def censored_line(design: ArrayLike, y: ArrayLike, reached: ArrayLike, cluster: ArrayLike) -> LeastSquares:
    """Fit y on the columns of a design where ``reached``, and at least y where not.

    Args:
        design: shape (n, columns), a column of ones among them. y: shape (n,).
        reached: whether y was reached, shape (n,); else it is how far somebody looked.
        cluster: a number for the cluster of each, shape (n,).

    Returns:
        As ``least_squares``, with t on as many degrees of freedom as there are clusters less columns: among clusters alike in size
        of which all was reached it is least squares on their means.

    Raises:
        CoreError: ``too_few_clusters`` unless there are more clusters than columns; ``columns_alike`` where a column follows from
            others; ``none_reached``, ``no_solution``.
    """
    rows, values = np.asarray(design, float), np.asarray(y, float)
    seen = np.asarray(reached, bool)
    _, of = np.unique(np.asarray(cluster), return_inverse=True)
    clusters, columns = int(of.max(initial=-1)) + 1, rows.shape[1]
    if clusters <= columns:
        raise CoreError("too_few_clusters", f"Expected more than {columns} clusters; got {clusters}.", "cluster")
    if not seen.any():
        raise CoreError("none_reached", "Expected some values that were reached; got none.", "reached")
    first, _, rank, _ = np.linalg.lstsq(rows, values, rcond=None)
    if rank < columns:
        raise CoreError("columns_alike", "Expected figures of which none follows from the others.")
    sd = max(float(np.std(values - rows @ first)), 1e-3)
    likelihood = _Likelihood(rows, values, seen, of, clusters)
    model = Model(
        "line with censored values",
        (*(Parameter(f"column {place}") for place in range(columns)), Parameter("sd", _LEAST * sd, sd / _LEAST, "log"), Parameter("cluster sd", 0.0, sd / _LEAST)),
        likelihood,
        tuple((*map(float, first), sd, share * sd) for share in (0.3, 1.0)),
        len(values),
        likelihood.gradient,
    )  # fmt: skip
    fit = maximise(model)
    # likelihood divides by the number of clusters, t by its degrees of freedom
    covariance = fit.covariance[:columns, :columns] * clusters / (clusters - columns)
    name = f"t over {clusters} clusters, likelihood with censored values"
    return LeastSquares(fit.values[:columns], covariance, float(fit.value("sd")), clusters - columns, len(values), name)


class _Likelihood:
    """Of the columns' params, the SD within a cluster and that between them; sums that no param changes are taken once."""

    def __init__(self, rows: Floats, values: Floats, seen: np.ndarray, of: np.ndarray, clusters: int) -> None:
        self.clusters = clusters
        self.rows, self.values, self.of = rows[seen], values[seen], of[seen]
        self.n = np.bincount(self.of, minlength=clusters).astype(float)
        self.rows_beyond, self.beyond, self.of_beyond = rows[~seen], values[~seen], of[~seen]

    def __call__(self, params: Floats) -> float:
        sd, between = params[-2:]
        b = params[:-2]
        total, squares, spread = self._reached(b, sd, between)
        closed = (
            -0.5 * self.n * math.log(2 * math.pi)
            - np.where(self.n > 0, self.n - 1, 0) * math.log(sd)
            - np.where(self.n > 0, 0.5 * np.log(spread), 0.0)
            - (squares - between * between * total * total / spread) / (2 * sd * sd)
        )
        if not self.beyond.size:
            return float(closed.sum())
        _, _, chance = self._beyond(b, sd, between, total, spread)
        return float(closed.sum() + special.logsumexp(chance, axis=1).sum())

    def gradient(self, params: Floats) -> Floats:
        """By Fisher's identity: that of the likelihood with the effects known, over where they then lie."""
        sd, between = params[-2:]
        b = params[:-2]
        total, squares, spread = self._reached(b, sd, between)
        if self.beyond.size:
            effect, z, chance = self._beyond(b, sd, between, total, spread)
            weight = special.softmax(chance, axis=1)
            mean, square = (weight * effect).sum(axis=1), (weight * effect * effect).sum(axis=1)
            pull = np.exp(-0.5 * z * z - special.log_ndtr(z)) / math.sqrt(2 * math.pi)  # the mean of a normal beyond -z
            at = weight[self.of_beyond]
            by_b = self.rows_beyond.T @ (at * pull).sum(axis=1) / sd
            by_sd = -float((at * pull * z).sum()) / sd
        else:
            mean = between * between * total / spread
            square = mean * mean + between * between * sd * sd / spread
            by_b, by_sd = np.zeros(b.size), 0.0
        off = self.values - self.rows @ b
        by_b = by_b + self.rows.T @ (off - mean[self.of]) / (sd * sd)
        left = squares - 2 * mean * total + self.n * square
        by_sd += float((left / sd**3 - self.n / sd).sum())
        by_between = float((square - between * between).sum()) / between**3 if between > 1e-5 * sd else 0.0
        return np.array([*by_b, by_sd, by_between])

    def _reached(self, b: Floats, sd: float, between: float) -> tuple[Floats, Floats, Floats]:
        """Of each cluster's reached values: sum and sum of squares off the line, and the number of them by the SDs."""
        off = self.values - self.rows @ b
        total, squares = (np.bincount(self.of, each, self.clusters).astype(float) for each in (off, off * off))
        return total, squares, sd * sd + self.n * between * between

    def _beyond(
        self, b: Floats, sd: float, between: float, total: Floats, spread: Floats
    ) -> tuple[Floats, Floats, Floats]:
        """Effects at the nodes given what was reached, (clusters, nodes); of each value beyond by how many SDs the line lies above it,
        (m, nodes); log chance of all of a cluster at each node with the node's weight."""
        middle, scale = between * between * total / spread, between * sd / np.sqrt(spread)
        effect = middle[:, None] + scale[:, None] * _NODES
        z = ((self.rows_beyond @ b - self.beyond)[:, None] + effect[self.of_beyond]) / sd
        chance = np.tile(_LOG_WEIGHTS, (self.clusters, 1))
        np.add.at(chance, self.of_beyond, special.log_ndtr(z))
        return effect, z, chance
