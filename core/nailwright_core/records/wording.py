"""A finding is a sentence first: what was found, how sure, from how many fish."""

from __future__ import annotations

import math

from nailwright_core.common.estimate import Estimate
from nailwright_core.common.species import Species
from nailwright_core.findings.condition import LengthMassFit, RelativeWeightSummary
from nailwright_core.findings.size_structure import FEW_STOCK_FISH, SizeDistribution


def size_sentence(kind: Species, distribution: SizeDistribution | None, median: Estimate) -> str:
    """The size structure in one or two sentences."""
    name = kind.common_name
    half = f"half of the {median.n:,} measured are longer than {median.value:.0f} mm"
    if math.isfinite(median.lower):
        half += f" ({_span(median, 0)} mm)"
    if distribution is None:
        return f"{_capital(name)} has no agreed size categories; {half}."
    if distribution.n_stock == 0:
        stock = kind.size_categories.stock if kind.size_categories else math.nan
        return (
            f"None of the {median.n:,} measured {name} reaches stock length ({stock:.0f} mm), so PSD says nothing yet."
        )
    psd = distribution.psd
    sentence = (
        f"{_span(psd, 0)} % of stock-length {name} are quality size or longer "
        f"(PSD {psd.value:.0f}, n = {distribution.n_stock:,}); {half}."
    )
    if distribution.n_stock < FEW_STOCK_FISH:
        sentence += f" With fewer than {FEW_STOCK_FISH} stock-length fish this says little."
    return sentence


def condition_sentence(kind: Species, fit: LengthMassFit, weight: RelativeWeightSummary | None) -> str:
    """Condition in one or two sentences; the reading of Wr is a hint, not a verdict."""
    if weight is None:
        at = round(math.sqrt(fit.length_range_mm[0] * fit.length_range_mm[1]), -1)
        mass = float(fit.predict(at).mass_g)
        return (
            f"{_capital(kind.common_name)} of {at:.0f} mm weigh {mass:.0f} g on average (n = {fit.n:,}); no standard-weight "
            "equation is known for the species, so condition is judged against its own line."
        )
    wr = weight.overall
    sentence = (
        f"{_capital(kind.common_name)} weigh {wr.value:.1f} % of the standard on average "
        f"(Wr {_span(wr, 1) if wr.n > 1 else 'of one fish'}, n = {wr.n:,}): {_reading(wr.value)}."
    )
    if weight.trend is not None and weight.trend.lower * weight.trend.upper > 0 and abs(weight.trend.value) >= 0.5:
        direction = "falls" if weight.trend.value < 0 else "rises"
        sentence += f" Wr {direction} by {abs(weight.trend.value):.1f} with every 100 mm of length"
        sentence += (
            "; prey of the wrong size for large fish is one reason to look for." if direction == "falls" else "."
        )
    return sentence


def _reading(wr: float) -> str:
    if wr < 80:
        return "thin"
    if wr < 95:
        return "below the benchmark of 95 to 105"
    return "near the benchmark of 95 to 105" if wr <= 105 else "above the benchmark of 95 to 105"


def _span(estimate: Estimate, digits: int) -> str:
    return f"{estimate.lower:.{digits}f}-{estimate.upper:.{digits}f}"


def _capital(name: str) -> str:
    return name[:1].upper() + name[1:]
