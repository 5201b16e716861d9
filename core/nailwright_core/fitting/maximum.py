"""The maximum of a model's likelihood, from several starts, and what it says of each parameter."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy import optimize, special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.fitting.model import Model, slope_of_link

#: Ends of two starts whose log likelihoods differ by less are the same.
SAME = 0.05
#: On the link's scale: as near as this to a bound is at it.
_AT_BOUND = 1e-4
#: Logits beyond this, and logs as far from the start, are as good as at their bound.
_FAR_LOGIT = 9.0
#: A direction in which the curvature is this small, each parameter in units of its own, is not told apart by the data.
_FLAT = 1e-5
#: A parameter has a part in such a direction from this share of it on.
_PART = 0.1


@dataclass(frozen=True)
class Fit:
    """A model at its maximum.

    Attributes:
        values: shape (parameters,), in the model's order.
        log_likelihood: there.
        covariance: on the links' scales, shape (parameters, parameters); nan where a parameter is at its bound or confounded.
        at_bound: names of parameters that lie at a bound of what they may be.
        confounded: names of parameters of which the data tell only something together, or one alone of which they tell nothing.
        flat: in how many directions of them the likelihood does not fall.
        agree, starts: how many of so many starts ended at this likelihood.
        converged: whether the climb ended by itself.
    """

    model: Model
    values: Floats
    log_likelihood: float
    covariance: Floats
    at_bound: tuple[str, ...]
    confounded: tuple[str, ...]
    flat: int
    agree: int
    starts: int
    converged: bool

    @property
    def parameters(self) -> int:
        """Parameters that the data tell: all, less one for each direction that is flat."""
        return len(self.values) - self.flat

    def value(self, name: str) -> float:
        """The value of one parameter by its name."""
        return float(self.values[self.model.place(name)])

    def wald(self, name: str, level: float = 0.95) -> Estimate:
        """A parameter with the interval that is symmetric on its link; nan ends where it is at its bound or confounded."""
        place = self.model.place(name)
        parameter, value = self.model.parameters[place], float(self.values[place])
        se = math.sqrt(self.covariance[place, place]) if self.covariance[place, place] > 0 else math.nan
        half = float(special.ndtri(0.5 + level / 2)) * se
        at = float(parameter.to_link(value))
        low, high = float(parameter.from_link(at - half)), float(parameter.from_link(at + half))
        return Estimate(
            value,
            slope_of_link(parameter.link, value) * se,
            low,
            high,
            level,
            f"normal on the {parameter.link} scale",
            self.model.n,
        )


def maximise(model: Model, held: dict[int, float] | None = None, curvature: bool = True) -> Fit:
    """Climb from each of the model's starts and take the highest end.

    Args:
        held: places of parameters that stay at a value.
        curvature: whether covariance, bounds and confounding are wanted; without it they are nan and empty.

    Raises:
        CoreError: ``no_solution`` where no start has a likelihood.

    Source: L-BFGS-B (Byrd, Lu, Nocedal and Zhu 1995, SIAM J. Sci. Comput. 16, 1190-1208, from memory), as SciPy has it.
    """
    held = held or {}
    free = [place for place in range(len(model.parameters)) if place not in held]
    bounds = [_bounds_on_link(model, place) for place in free]

    def whole(at: Floats) -> Floats:
        values = np.empty(len(model.parameters))
        for place, fixed in held.items():
            values[place] = fixed
        for place, each in zip(free, at, strict=True):
            values[place] = model.parameters[place].from_link(each)
        return values

    def fall(at: Floats) -> float:
        found = model.log_likelihood(whole(at))
        return -found if math.isfinite(found) else 1e300

    def slope(at: Floats) -> Floats:
        assert model.gradient is not None
        values = whole(at)
        return -np.asarray(model.gradient(values))[free] * _by_link(model, values)[free]

    ends = []
    for start in model.starts:
        first = model.to_link(start)[free]
        if not free:
            ends.append((fall(first), first, True))
            continue
        if fall(first) >= 1e300:
            continue
        found = optimize.minimize(fall, first, jac=slope if model.gradient else None, method="L-BFGS-B", bounds=bounds)
        ends.append((float(found.fun), np.asarray(found.x), bool(found.success)))
    if not ends or min(each[0] for each in ends) >= 1e300:
        raise CoreError("no_solution", f"{model.name}: no start has a likelihood; the data contradict the model.")
    best, at, converged = min(ends, key=lambda each: each[0])
    agree = sum(each[0] - best < SAME for each in ends)
    covariance = np.full((len(model.parameters),) * 2, np.nan)
    at_bound: tuple[str, ...] = ()
    confounded: tuple[str, ...] = ()
    flat = 0
    if curvature and free:
        edge = [_is_at_bound(model, place, each) for place, each in zip(free, at, strict=True)]
        at_bound = tuple(model.parameters[place].name for place, is_at in zip(free, edge, strict=True) if is_at)
        inner = [number for number, is_at in enumerate(edge) if not is_at]
        bend = _hessian(lambda moved: fall(_with(at, inner, moved)), at[inner])
        told, lost, flat = _told(bend)
        confounded = tuple(model.parameters[free[inner[each]]].name for each in lost)
        kept = [free[inner[each]] for each in range(len(inner)) if each not in lost]
        rest = [each for each in range(len(inner)) if each not in lost]
        covariance[np.ix_(kept, kept)] = told[np.ix_(rest, rest)]
    return Fit(model, whole(at), -best, covariance, at_bound, confounded, flat, agree, len(ends), converged)


def _with(at: Floats, places: list[int], moved: Floats) -> Floats:
    changed = at.copy()
    changed[places] = moved
    return changed


def _bounds_on_link(model: Model, place: int) -> tuple[float | None, float | None]:
    parameter = model.parameters[place]
    ends = [parameter.finite_on_link(end) for end in (parameter.lower, parameter.upper)]
    if parameter.link == "logit":  # beyond this a chance is 0 or 1 in floating point
        return (-14.0 if ends[0] is None else ends[0], 14.0 if ends[1] is None else ends[1])
    return (ends[0], ends[1])


def _by_link(model: Model, values: Floats) -> Floats:
    """Derivative of each value by its link."""
    return np.array([slope_of_link(each.link, float(v)) for each, v in zip(model.parameters, values, strict=True)])


def _is_at_bound(model: Model, place: int, at: float) -> bool:
    low, high = _bounds_on_link(model, place)
    if (low is not None and at - low < _AT_BOUND) or (high is not None and high - at < _AT_BOUND):
        return True
    return model.parameters[place].link == "logit" and abs(at) > _FAR_LOGIT


def _hessian(f: Callable[[Floats], float], at: Floats) -> Floats:
    """Second derivatives by central differences, shape (n, n)."""
    n = at.size
    step = 1e-4 * np.maximum(1.0, np.abs(at))
    bend = np.empty((n, n))
    for i in range(n):
        for j in range(i, n):
            total = 0.0
            for one, other, sign in ((1, 1, 1), (1, -1, -1), (-1, 1, -1), (-1, -1, 1)):
                moved = at.copy()
                moved[i] += one * step[i]
                moved[j] += other * step[j]
                total += sign * f(moved)
            bend[i, j] = bend[j, i] = total / (4 * step[i] * step[j])
    return bend


def _told(bend: Floats) -> tuple[Floats, list[int], int]:
    """Covariance from the curvature, the places of parameters that have a part in a direction without any, and how many such there are.

    Each parameter is taken in units of its own, so that one in grams is not flat for being in grams.
    """
    if not bend.size:
        return bend, [], 0
    own = np.diag(bend)
    unit = np.sqrt(np.where(own > 0, own, 1.0))
    scaled = bend / np.outer(unit, unit)
    scaled[own <= 0] = 0.0
    scaled[:, own <= 0] = 0.0
    values, vectors = np.linalg.eigh(scaled)
    flat = values < _FLAT
    lost = sorted({int(place) for place in np.nonzero((np.abs(vectors[:, flat]) > _PART).any(axis=1))[0]})
    safe = np.where(flat, np.inf, values)
    return np.asarray((vectors / safe) @ vectors.T / np.outer(unit, unit)), lost, int(flat.sum())
