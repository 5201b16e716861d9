"""Profile likelihood: how far a parameter may move before the best of everything else is refuted.

Cut by chi-square on one degree of freedom (Wilks 1938, Ann. Math. Stat. 9, 60-62; Venzon and Moolgavkar 1988, Appl. Stat. 37,
87-94; both from memory).
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import TypeVar

import scipy  # its stats take a second to load: they are read where one is first used
from scipy import optimize, special

from nailwright_core.common.estimate import Estimate
from nailwright_core.fitting.maximum import Fit, maximise

State = TypeVar("State")


def cut(level: float) -> float:
    """By how much the log likelihood may fall within an interval of this level.

    Args:
        level: of the interval, between 0 and 1.
    """
    return float(scipy.stats.chi2.ppf(level, 1)) / 2


def ends_of_one(
    log_likelihood: Callable[[float], float],
    lower: float,
    upper: float,
    level: float,
    search_to: float | None = None,
    xatol: float = 1e-5,
) -> tuple[float, float | None, float | None]:
    """The likeliest value of one parameter and where its likelihood passes the cut.

    Args:
        log_likelihood: of the parameter, already the best in everything else.
        lower, upper: the parameter's range. search_to: where the likeliest is surely below; ``upper`` where None.
        xatol: how near the likeliest is found.

    Returns:
        Likeliest, lower end, upper end; an end is None where the likelihood has not fallen at the end of the range.
    """
    found = optimize.minimize_scalar(
        lambda at: -log_likelihood(at),
        bounds=(lower, upper if search_to is None else search_to),
        method="bounded",
        options={"xatol": xatol},
    )
    best, floor = float(found.x), -float(found.fun) - cut(level)

    def beyond(at: float) -> float:
        return log_likelihood(at) - floor

    low = None if beyond(lower) >= 0 else float(optimize.brentq(beyond, lower, best))
    high = None if beyond(upper) >= 0 else float(optimize.brentq(beyond, best, upper))
    return best, low, high


def profile_end(
    climb: Callable[[float, State], tuple[float, State]],
    best: float,
    log_likelihood: float,
    first: State,
    step: float,
    stop: float,
    level: float = 0.95,
    tries: int = 14,
) -> float:
    """Where the root of twice the fall of the likelihood reaches its cut; nan where it does not before ``stop``.

    That root is nearly a line in the parameter, so that each try by the last two is near.

    Args:
        climb: the best log likelihood with the parameter held at a value, and where all others then are; begun from where they
            were at the last try.
        best, log_likelihood: the parameter and the likelihood at the maximum. first: all others there.
        step: a first guess of the standard error, negative for the lower end. stop: where the search ends.
    """
    target = float(special.ndtri(0.5 + level / 2))
    state = first

    def root_at(at: float) -> float:
        nonlocal state
        found, state = climb(at, state)
        return math.sqrt(max(2 * (log_likelihood - found), 0.0))

    inside, outside, at = (best, 0.0), None, best + 1.5 * step
    for _ in range(tries):
        if (at - stop) * step >= 0:
            at = stop
        root = root_at(at)
        if abs(root - target) < 0.01:
            return at
        if root < target:
            inside = (at, root)
            if at == stop:
                return math.nan
        else:
            outside = (at, root)
        if outside is None:
            at = best + (at - best) * min(max(target / max(root, 1e-3), 1.3), 3.0)
        else:
            share = (target - inside[1]) / (outside[1] - inside[1])
            at = inside[0] + min(max(share, 0.1), 0.9) * (outside[0] - inside[0])
    return at if outside is not None else math.nan


def profile_interval(fit: Fit, name: str, level: float = 0.95) -> Estimate:
    """One parameter of a fit with the interval by profile of its likelihood; an end is the bound where it does not fall before.

    Args:
        fit: by ``fitting.maximum.maximise``.
        name: of one of the model's parameters.

    Raises:
        KeyError: where the model has no such parameter.
    """
    place = fit.model.place(name)
    parameter, value = fit.model.parameters[place], float(fit.values[place])
    at = float(parameter.to_link(value))
    variance = float(fit.covariance[place, place])
    step = math.sqrt(variance) if variance > 0 else 0.5
    far = 14.0 if parameter.link == "logit" else 40 * step

    def climb(to: float, others: tuple[float, ...]) -> tuple[float, tuple[float, ...]]:
        held = float(parameter.from_link(to))
        begun = replace(fit.model, starts=(others,))
        found = maximise(begun, held={place: held}, curvature=False)
        return found.log_likelihood, tuple(float(each) for each in found.values)

    def end(direction: int, bound: float) -> float:
        limit = at + direction * far
        if parameter.link == "logit":
            limit = direction * far
        inner = parameter.finite_on_link(bound)
        stop = limit if inner is None else (max(limit, inner) if direction < 0 else min(limit, inner))
        if (stop - at) * direction <= 1e-9:
            return bound
        found = profile_end(climb, at, fit.log_likelihood, tuple(map(float, fit.values)), direction * step, stop, level)
        return bound if math.isnan(found) else float(parameter.from_link(found))

    low, high = end(-1, parameter.lower), end(1, parameter.upper)
    if parameter.link != "identity":
        low = max(low, 0.0)
    if parameter.link == "logit":
        high = min(high, 1.0)
    return Estimate(value, fit.wald(name, level).se, low, high, level, "profile likelihood", fit.model.n)
