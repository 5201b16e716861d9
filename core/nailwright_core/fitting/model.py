"""A declared model: its parameters, their likelihood, and data made up by it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike
from scipy import special

from nailwright_core.common.arrays import Floats

Link = Literal["identity", "log", "logit"]

_TO_LINK: dict[Link, Callable[[Floats], Floats]] = {"identity": np.asarray, "log": np.log, "logit": special.logit}
_FROM_LINK: dict[Link, Callable[[Floats], Floats]] = {"identity": np.asarray, "log": np.exp, "logit": special.expit}


@dataclass(frozen=True)
class Parameter:
    """One parameter of a model.

    Attributes:
        name: as people are told it, for instance where it lies at its bound.
        lower, upper: bounds of its value; inside the link's own (0 for log, 0 and 1 for logit).
        link: the scale on which it is searched and its intervals are symmetric.
    """

    name: str
    lower: float = -math.inf
    upper: float = math.inf
    link: Link = "identity"

    def to_link(self, value: ArrayLike) -> Floats:
        """Values on the link's scale, of the same shape."""
        return np.asarray(_TO_LINK[self.link](np.asarray(value, float)), float)

    def from_link(self, at: ArrayLike) -> Floats:
        """Values from the link's scale, of the same shape."""
        return np.asarray(_FROM_LINK[self.link](np.asarray(at, float)), float)

    def finite_on_link(self, value: float) -> float | None:
        """A bound on the link's scale; None where it has no end there."""
        inside = {"identity": math.isfinite(value), "log": 0 < value < math.inf, "logit": 0 < value < 1}[self.link]
        return float(self.to_link(value)) if inside else None


def slope_of_link(link: Link, value: float) -> float:
    """Derivative of a value by its place on the link's scale.

    Args:
        link: "identity", "log" or "logit".
        value: of the parameter, in its own unit.
    """
    return {"identity": 1.0, "log": value, "logit": value * (1 - value)}[link]


@dataclass(frozen=True)
class Model:
    """What an estimator declares; ``fitting.maximum`` and ``fitting.profile`` do the rest.

    Attributes:
        name: in a table of models.
        parameters: in the order of every array of values.
        log_likelihood: of values of shape (parameters,); -inf where they cannot be.
        starts: one or more sets of values to climb from.
        n: observations, as AICc and BIC count them.
        gradient: of the log likelihood by the values, shape (parameters,); by differences where None.
        simulate: the same model with data made up from values by a generator; None where it cannot be simulated.
    """

    name: str
    parameters: tuple[Parameter, ...]
    log_likelihood: Callable[[Floats], float]
    starts: tuple[tuple[float, ...], ...]
    n: int
    gradient: Callable[[Floats], Floats] | None = None
    simulate: Callable[[Floats, np.random.Generator], Model] | None = None

    def to_link(self, values: ArrayLike) -> Floats:
        """Values of shape (parameters,) on the scales of their links."""
        return np.array(
            [float(each.to_link(v)) for each, v in zip(self.parameters, np.asarray(values, float), strict=True)]
        )

    def from_link(self, at: ArrayLike) -> Floats:
        """Values of shape (parameters,) from the scales of their links."""
        return np.array(
            [float(each.from_link(v)) for each, v in zip(self.parameters, np.asarray(at, float), strict=True)]
        )

    def place(self, name: str) -> int:
        """Where a parameter of this name stands; KeyError where there is none."""
        for place, each in enumerate(self.parameters):
            if each.name == name:
                return place
        raise KeyError(name)
