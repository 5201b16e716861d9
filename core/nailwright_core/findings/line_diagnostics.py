"""What a straight line on logged length and mass takes for granted, checked on its residuals.

With thousands of fish any trifle is significant, so a verdict needs both a small p and an effect that matters.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from scipy import special

from nailwright_core.common.estimate import Assumption, Verdict

SMALL_P = 0.01
_ENOUGH = 20_000


def line_assumptions(
    x: NDArray[np.float64], residual: NDArray[np.float64], leverage: NDArray[np.float64], sd: float
) -> tuple[Assumption, ...]:
    """Verdicts on length span, straightness, even spread and normal residuals; ``x`` is log10 length, shape (n,).

    Args:
        x: log10 of length, shape (n,).
        residual: from the line, log10 units, shape (n,).
        leverage: of each point, shape (n,).
        sd: residual standard deviation, log10 units.
    """
    checks = [_span(x)]
    if x.size >= 8 and sd > 1e-9:
        checks += [_straightness(x, residual), _even_spread(x, residual), _normality(residual / sd)]
    checks.append(
        Assumption(
            "Each fish was weighed once and measured by board", "not checked", "Estimates are left out of the fit."
        )
    )
    return tuple(checks)


def _span(x: NDArray[np.float64]) -> Assumption:
    ratio = 10 ** float(x.max() - x.min())
    return Assumption(
        "Lengths span enough",
        "holds" if ratio >= 2 else "doubtful",
        f"Longest fish {ratio:.1f} times the shortest; below 2 the slope is poorly held.",
    )


def _straightness(x: NDArray[np.float64], residual: NDArray[np.float64]) -> Assumption:
    """Adds x^2 to the line and asks how far the curve departs from it, in per cent of mass."""
    z = (x - x.mean()) / x.std()
    # the residuals know nothing of 1 and z, so what is asked of z^2 is asked of what 1 and z leave of it
    bend = z * z
    bend -= bend.mean() + float(z @ bend) / float(z @ z) * z
    size = float(bend @ bend)
    if size <= 1e-12 * x.size:  # two lengths: no curve can be told from a line
        return Assumption("The line is straight on log axes", "not checked", "Two lengths lie on every curve.")
    slope = float(bend @ residual) / size
    degrees = x.size - 3
    left = max(float(residual @ residual) - slope * slope * size, 0.0)
    t = slope / math.sqrt(left / degrees / size) if left > 0 else math.copysign(math.inf, slope)
    p = float(2 * special.stdtr(degrees, -abs(t)))
    departure = 100 * (10 ** (abs(slope) * _quantile(np.abs(bend[:: max(1, x.size // _ENOUGH)]), 0.95)) - 1)
    verdict: Verdict = _verdict(p, departure < 3, departure < 10)
    return Assumption(
        "The line is straight on log axes",
        verdict,
        f"A curve would shift mass by {departure:.1f} % at the ends (p = {_p(p)}).",
    )


def _even_spread(x: NDArray[np.float64], residual: NDArray[np.float64]) -> Assumption:
    """Breusch and Pagan (1979), studentised form of Koenker (1981), with the ratio of spread across lengths."""
    squares = residual * residual
    dx, excess = x - x.mean(), squares - squares.mean()
    r = float(dx @ excess) / math.sqrt(max(float(dx @ dx) * float(excess @ excess), 1e-300))
    p = float(special.chdtrc(1, x.size * r * r))
    small = _spread(residual, squares, x <= _quantile(x, 1 / 3))
    large = _spread(residual, squares, x >= _quantile(x, 2 / 3))
    ratio = max(small, large) / max(min(small, large), 1e-12)
    verdict: Verdict = _verdict(p, ratio < 1.5, ratio < 2.5)
    return Assumption(
        "Spread is the same at every length",
        verdict,
        f"Spread differs {ratio:.1f}-fold between short and long fish (p = {_p(p)}).",
    )


def _normality(standardised: NDArray[np.float64]) -> Assumption:
    """Jarque and Bera (1980), with skewness and excess kurtosis as the effect."""
    n = standardised.size
    centred = standardised - standardised.mean()
    squares = centred * centred
    variance = float(squares.mean())
    skew = float(squares @ centred) / n / variance**1.5
    excess = float(squares @ squares) / n / variance**2 - 3
    p = float(special.chdtrc(2, n / 6 * (skew**2 + excess**2 / 4)))
    mild = abs(skew) < 0.5 and abs(excess) < 1.5
    verdict: Verdict = _verdict(p, mild, True)
    return Assumption(
        "Residuals are near normal",
        verdict,
        f"Skewness {skew:.2f}, excess kurtosis {excess:.2f} (p = {_p(p)}); look at flagged fish.",
    )


def _verdict(p: float, trifling: bool, bearable: bool) -> Verdict:
    """A departure that was measured to be a trifle lets an assumption hold; one that was only not seen does not refute it."""
    if trifling and p <= SMALL_P:
        return "holds"
    return "not refuted" if p > SMALL_P else "doubtful" if bearable else "fails"


def _quantile(values: NDArray[np.float64], share: float) -> float:
    """The value above a share of the others; of very many, that of every so manieth, which only sets where to look."""
    some = values[:: max(1, values.size // _ENOUGH)]
    rank = min(int(share * some.size), some.size - 1)
    return float(np.partition(some, rank)[rank])


def _spread(values: NDArray[np.float64], squares: NDArray[np.float64], chosen: NDArray[np.bool_]) -> float:
    """Standard deviation of the chosen values."""
    weight = chosen.astype(float)
    n = float(weight.sum())
    return math.sqrt(max(float(squares @ weight) / n - (float(values @ weight) / n) ** 2, 0.0))


def _p(p: float) -> str:
    return "< 0.001" if p < 0.001 else f"{p:.3f}"
