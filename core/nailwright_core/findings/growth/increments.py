"""Growth from marked fish that were measured twice.

Fabens (1965), Growth 29, 265-289; Francis (1988), N. Z. J. Mar. Freshw. Res. 22, 43-51; from memory. Growth is told at lengths, not as the curve's
parameters: those of recaptures are not those of length at age (Francis 1988, Can. J. Fish. Aquat. Sci. 45, 936-942).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.fitting.maximum import Fit, maximise
from nailwright_core.fitting.model import Model, Parameter

#: Fewer fish have no curve (ours, no source).
LEAST = 10
#: Lengths at which growth is a parameter: these quantiles of the lengths at tagging.
_ENDS = (0.1, 0.9)
#: Two lengths of one fish differ by this much at least (SD, mm; a board is read to a few millimetres: common practice, no source). With less, one
#: fish that hardly grows draws the whole curve through its dot.
LEAST_ERROR_MM = 2.0
#: Of more fish as many lots are left out one after the other.
_MOST_LOTS = 40
#: Largest share of gross slips that is looked for.
_MOST_SLIPS = 0.2


@dataclass(frozen=True)
class Increments:
    """Fish measured twice.

    Attributes:
        length_mm, grown_mm, years: length at the first, growth until the second, time between them, each of shape (n,).
    """

    length_mm: Floats
    grown_mm: Floats
    years: Floats


@dataclass(frozen=True)
class GrowthByIncrements:
    """Attributes:
    at: growth in a year at each of some lengths, mm.
    slows: how much less a fish grows in a year for each 100 mm of length, mm.
    l_infinity, k: of the curve, mm and 1/year; their interval has no upper, or lower, end where growth may not slow with length.
    variation: how much a fish's growth differs from the mean, as a share of it (nu). error_mm: of the difference of two lengths (s).
    slips: share of fish that are far from the curve for another reason. expected_mm: of each fish, shape (n,).
    assumptions: what it takes for granted.
    """

    at: tuple[tuple[float, Estimate], ...]
    slows: Estimate
    l_infinity: Estimate | None
    k: Estimate | None
    variation: float
    error_mm: float
    slips: float
    expected_mm: Floats
    assumptions: tuple[Assumption, ...]

    def in_a_year(self, length_mm: ArrayLike) -> Floats:
        """Mean growth in a year, mm, of fish of these lengths, mm: a line in length."""
        mm, growth = self.at[0]
        return np.asarray(growth.value - (np.asarray(length_mm, float) - mm) / 100 * self.slows.value)


def growth_by_increments(
    found: Increments, lengths: Sequence[float] | None = None, error_mm: float | None = None, level: float = 0.95
) -> GrowthByIncrements:
    """Von Bertalanffy's curve by Francis' likelihood, each fish growing by a share more or less than the mean.

    Args:
        found: each fish once, measured some months apart.
        lengths: at which growth is told, mm; quantiles of the lengths at tagging where None.
        error_mm: standard deviation of the difference of two lengths where repeat measurements say it; estimated where None.

    Raises:
        CoreError: ``fish_too_few`` with fewer than ten, ``lengths_alike`` where all were of one length, ``number_out_of_range``, ``lengths_differ``,
            ``level_out_of_range``.
    """
    check_level(level)
    x, grown, years = (numbers(getattr(found, name), name) for name in ("length_mm", "grown_mm", "years"))
    if not x.size == grown.size == years.size:
        raise CoreError("lengths_differ", "Expected length, growth and time of each fish.", "length_mm")
    if x.size < LEAST:
        raise CoreError(
            "fish_too_few", f"Expected {LEAST} fish or more that were measured twice; got {x.size}.", "length_mm"
        )
    if not ((x > 0).all() and (years > 0).all()):
        raise CoreError("number_out_of_range", "Expected lengths and times above 0.", "years")
    alpha, beta = (float(np.quantile(x, q)) for q in _ENDS)
    if beta - alpha < 1:
        raise CoreError(
            "lengths_alike",
            "All fish were of one length at tagging, so nothing says how growth changes with length.",
            "length_mm",
        )
    given = Increments(x, grown, years)
    fit = fit_increments(given, alpha, error_mm)
    at_alpha, slower = (float(each) for each in fit.values[:2])
    d = -slower / 100
    v, lots = _without_each_lot(given, alpha, fit, error_mm)
    n = int(x.size)
    t = float(special.stdtrit(lots - 2, 0.5 + level / 2))
    slips = fit_increments(given, alpha, error_mm, slips=True).value("p")

    def of(weights: Floats) -> Estimate:
        value, se = float(weights @ fit.values[:2]), math.sqrt(float(weights @ v @ weights))
        return Estimate(
            value, se, value - t * se, value + t * se, level, "t, leaving out one lot of fish after the other", n
        )

    if lengths is None:
        lengths = [round(float(np.quantile(x, q)), -1) for q in (0.1, 0.5, 0.9)]
    at = tuple((mm, of(np.array([1.0, -(mm - alpha) / 100]))) for mm in dict.fromkeys(lengths))
    slows = of(np.array([0.0, 1.0]))
    l_infinity, k = _curve(at_alpha, d, v * np.outer([1.0, -0.01], [1.0, -0.01]), alpha, t, level, n)
    return GrowthByIncrements(
        at, slows, l_infinity, k, fit.value("nu"), fit.value("s") if error_mm is None else error_mm, slips,
        _mean(at_alpha, d, alpha, x, years), _assumptions(fit, slips, found, error_mm),
    )  # fmt: skip


def expected(
    g_alpha: float, g_beta: float, alpha: float, beta: float, length_mm: ArrayLike, years: ArrayLike
) -> Floats:
    """Mean growth, mm, of fish of a length after so many years, from growth in a year at two lengths (Francis 1988, equation 2).

    Args:
        g_alpha, g_beta: mm a year at lengths ``alpha`` and ``beta``, mm. length_mm, years: shape (n,).
    """
    return _mean(
        g_alpha, (g_beta - g_alpha) / (beta - alpha), alpha, np.asarray(length_mm, float), np.asarray(years, float)
    )


def _mean(at_alpha: float, d: float, alpha: float, x: Floats, years: Floats) -> Floats:
    """Growth in a year is a line in length, ``d`` less for each mm (d < 0); over other times it is (1 - (1 + d)^t) / -d of it."""
    return np.asarray((at_alpha + (x - alpha) * d) * _times(d, years))


def _times(d: float, years: Floats) -> Floats:
    return years if abs(d) < 1e-9 else np.asarray(np.expm1(years * math.log1p(d)) / d)


def fit_increments(
    found: Increments,
    alpha: float,
    error_mm: float | None = None,
    slips: bool = False,
    start_at: tuple[float, ...] | None = None,
) -> Fit:
    """The likeliest g (mm a year at length ``alpha``), how much less for each 100 mm more, nu, s (mm) and p.

    Args:
        found: fish. alpha: a length among theirs, mm. error_mm: held for s where it is known.
        slips: whether a share p of gross slips is looked for; held at 0 where not: it takes fish that differ much for slips.
        start_at: values to climb from, where they are known to be near.
    """
    x, grown, years = found.length_mm, found.grown_mm, found.years
    spread = float(grown.max() - grown.min()) or 1.0
    rate = grown / years
    start = float(np.median(rate))
    width = 10 * max(abs(start), float(np.std(rate)), 1.0)

    def parts(at: Floats) -> tuple[Floats, Floats, Floats, Floats]:
        g, slower, nu, s, p = (float(each) for each in at)
        d = -slower / 100
        mu = _mean(g, d, alpha, x, years)
        variance = s * s + (nu * mu) ** 2
        normal = np.exp(-((grown - mu) ** 2) / (2 * variance)) / np.sqrt(2 * math.pi * variance)
        return mu, variance, normal, np.maximum((1 - p) * normal + p / spread, 1e-300)

    def log_likelihood(at: Floats) -> float:
        return float(np.log(parts(at)[3]).sum())

    def gradient(at: Floats) -> Floats:
        g, slower, nu, s, p = (float(each) for each in at)
        d = -slower / 100
        mu, variance, normal, whole = parts(at)
        off = grown - mu
        share = (1 - p) * normal / whole  # how sure each fish is no slip
        by_variance = share * (off**2 / variance - 1) / (2 * variance)
        by_mu = share * off / variance + by_variance * 2 * nu * nu * mu
        factor = _times(d, years)
        by_d = years * (years - 1) / 2 if abs(d) < 1e-9 else (years * (1 + d * factor) / (1 + d) - factor) / d
        return np.array(
            [
                by_mu @ factor,
                -(by_mu @ ((x - alpha) * factor + (g + (x - alpha) * d) * by_d)) / 100,
                (by_variance * 2 * nu * mu * mu).sum(),
                (by_variance * 2 * s).sum(),
                ((1 / spread - normal) / whole).sum(),
            ]
        )

    sd = float(np.std(grown)) or 1.0
    model = Model(
        "Francis 1988",
        (
            Parameter("g", start - width, start + width),
            Parameter("slower", -100.0, 99.0),
            Parameter("nu", 1e-4, 3.0),
            Parameter("s", LEAST_ERROR_MM, 10 * sd + 10, link="log"),
            Parameter("p", 0.0, _MOST_SLIPS),
        ),
        log_likelihood,
        starts=(start_at,)
        if start_at
        else ((start, 30.0, 0.3, max(sd / 4, 2.5), 0.01), (start * 1.3, 5.0, 0.6, max(sd / 10, 2.2), 0.03)),
        n=int(x.size),
        gradient=gradient,
    )
    held = ({} if error_mm is None else {3: error_mm}) | ({} if slips else {4: 0.0})
    return maximise(model, held, curvature=False)


def _without_each_lot(found: Increments, alpha: float, fit: Fit, error_mm: float | None) -> tuple[Floats, int]:
    """Variance of g and its slowing by leaving out one lot of fish after the other, and how many lots. It holds where fish differ otherwise than
    normally, which the likelihood's curvature does not."""
    n = found.length_mm.size
    lots = min(n, _MOST_LOTS)
    lot = np.empty(n, dtype=int)
    lot[np.argsort(found.length_mm, kind="stable")] = np.arange(n) % lots
    values = np.empty((lots, 2))
    for gone in range(lots):
        left = lot != gone
        rest = Increments(found.length_mm[left], found.grown_mm[left], found.years[left])
        values[gone] = fit_increments(rest, alpha, error_mm, start_at=tuple(fit.values)).values[:2]
    off = values - values.mean(axis=0)
    return (lots - 1) / lots * off.T @ off, lots


def _curve(
    g: float, d: float, v: Floats, alpha: float, t: float, level: float, n: int
) -> tuple[Estimate | None, Estimate | None]:
    """Length without end by Fieller, and K by the ends of how growth slows; None where growth does not slow with length."""
    if not -1 < d < 0:
        return None, None
    # growth in a year, g + d (L - alpha), is nought at l_infinity
    a2, a1, a0 = d * d - t * t * v[1, 1], 2 * (g * d - t * t * v[0, 1]), g * g - t * t * v[0, 0]
    root = a1 * a1 - 4 * a2 * a0
    low, high = math.nan, math.inf
    if a2 > 0 and root >= 0:
        low, high = ((-a1 - math.sqrt(root)) / (2 * a2), (-a1 + math.sqrt(root)) / (2 * a2))
    elif root >= 0:  # growth may not slow at all: no upper end
        low = max((-a1 - math.sqrt(root)) / (2 * a2), (-a1 + math.sqrt(root)) / (2 * a2))
    se = math.sqrt(v[1, 1])
    k_low, k_high = (max(-math.log1p(max(end, -0.9999)), 0.0) for end in (d + t * se, d - t * se))
    return (
        Estimate(alpha - g / d, math.nan, alpha + low, alpha + high, level, "Fieller", n),
        Estimate(-math.log1p(d), math.nan, k_low, k_high, level, "ends of how growth slows", n),
    )


def _assumptions(fit: Fit, p: float, found: Increments, error_mm: float | None) -> tuple[Assumption, ...]:
    s = fit.value("s")
    shrunk = int((found.grown_mm < -3 * max(s, 1.0)).sum())
    return (
        Assumption(
            "The same fish was measured the same way both times",
            "doubtful" if p > 0.02 or shrunk else "not refuted",
            f"{100 * p:.1f} % of the fish lie far from the curve for another reason; {shrunk} shrank by more than three times the measuring error. "
            + (
                "Look at them: another fish, another length type, a slip."
                if p > 0.02 or shrunk
                else "A wrong fish or length type would show."
            ),
        ),
        Assumption(
            "Measuring error is known",
            "not checked" if error_mm is None else "not refuted",
            f"A standard deviation of {s:.1f} mm between two measurements is estimated with the rest; repeat measurements tell it better."
            if error_mm is None
            else f"Held at {error_mm:.1f} mm, that of repeat measurements.",
        ),
        Assumption(
            "Tagged fish grow as others do",
            "not checked",
            "Handling and the tag may slow growth at first; compare tag kinds, and longer times at liberty.",
        ),
        Assumption(
            "The year's seasons are all in it",
            "not checked",
            "Fish that were out for a summer alone grew faster than a year's mean says, and for a winter alone slower.",
        ),
    )


def growth_sentence(found: GrowthByIncrements, species: str, fish: int, months: float) -> str:
    """What was found, how sure, from how many fish."""
    told = "; ".join(f"{mm:.0f} mm {each.value:.0f} ({each.lower:.0f} to {each.upper:.0f})" for mm, each in found.at)
    slows = "Growth slows with length." if found.slows.lower > 0 else "That growth slows with length is not shown."
    return f"{species[:1].upper()}{species[1:]} grow in a year, in mm, by length: {told}, from {fish:,} fish measured twice, half of them {months:.0f} months or more apart. {slows}"
