"""A finding is a sentence first: what was found, how sure, from how many fish."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from nailwright_core.common.by_site import Likeness
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.species import Species
from nailwright_core.findings.cohorts import CohortFit
from nailwright_core.findings.condition import LengthMassFit
from nailwright_core.findings.condition_comparison import ConditionComparison
from nailwright_core.findings.group_trend import GroupTrend
from nailwright_core.findings.relative_weight import RelativeWeightSummary
from nailwright_core.findings.size_structure import FEW_STOCK_FISH, SizeDistribution
from nailwright_core.plan.rehearsal import Rehearsal, TrendDesign

#: Two groups are said to differ below this p, corrected for the number of pairs.
DIFFERS_P = 0.05


def size_sentence(kind: Species, distribution: SizeDistribution | None, median: Estimate) -> str:
    """The size structure in one or two sentences.

    Args:
        kind: the species.
        distribution: its size distribution; None where it has no length categories.
        median: median length, mm.
    """
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
        f"(PSD {psd.value:.0f}, n = {distribution.n_stock:,}{_from_sites(distribution.likeness)}); {half}."
    )
    if distribution.n_stock < FEW_STOCK_FISH:
        sentence += f" With fewer than {FEW_STOCK_FISH} stock-length fish this says little."
    return sentence


def condition_sentence(
    kind: Species,
    fit: LengthMassFit,
    weight: RelativeWeightSummary | None,
    benchmark: tuple[float, float] = (95.0, 105.0),
) -> str:
    """Condition in one or two sentences; the reading of Wr against a benchmark (%) is a hint, not a verdict.

    Args:
        kind: the species.
        fit: length-mass line of these fish.
        weight: mean relative weight; None where it has no standard weight.
        benchmark: from where to where Wr (%) is read as near.
    """
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
        f"(Wr {_span(wr, 1) if math.isfinite(wr.lower) else 'of one fish'}, n = {wr.n:,}{_from_sites(weight.likeness)}): "
        f"{_reading(wr, *benchmark)}."
    )
    if weight.trend is not None and weight.trend.lower * weight.trend.upper > 0 and abs(weight.trend.value) >= 0.5:
        direction = "falls" if weight.trend.value < 0 else "rises"
        sentence += f" Wr {direction} by {abs(weight.trend.value):.1f} with every 100 mm of length"
        sentence += (
            "; prey of the wrong size for large fish is one reason to look for." if direction == "falls" else "."
        )
    return sentence


def size_comparison_sentence(
    kind: Species,
    medians: Mapping[str, float],
    p_holm: Iterable[float],
    tests: Iterable[str],
    trend: GroupTrend | None = None,
) -> str:
    """Which groups hold the longest and shortest fish, and how many pairs truly differ.

    Args:
        p_holm: of each pair; nan where nothing can be said. tests: names of the tests it comes from.
        trend: of the medians, mm, where the groups stand in an order.
    """
    p = np.array(list(p_holm))
    first = trend_words(trend, f"the median length of {kind.common_name} changes by", "mm") if trend else ""
    told = " or ".join(sorted(tests))
    if np.isnan(p).all():
        return f"{first}Too few sites to tell whether lengths of {kind.common_name} differ between the {len(medians)} groups."
    longest, shortest = max(medians, key=lambda name: medians[name]), min(medians, key=lambda name: medians[name])
    differing = int((p < DIFFERS_P).sum())
    if differing == 0:
        return (
            f"{first}No pair of the {len(medians)} groups differs by itself beyond chance in lengths of {kind.common_name} "
            f"(smallest p {_p(float(np.nanmin(p)))}; {told}, Holm)."
        )
    return (
        f"{first}{_capital(kind.common_name)} are longest in {longest} (median {medians[longest]:.0f} mm) and shortest in "
        f"{shortest} ({medians[shortest]:.0f} mm); {differing} of {p.size} pairs differ beyond chance ({told}, Holm)."
    )


def trend_words(trend: GroupTrend, what: str, unit: str) -> str:
    """A trend over groups before anything is said of pairs, with a space behind it.

    Args:
        trend: of the groups' values.
        what: changes, as "the median length of walleye changes by".
        unit: of the values.
    """
    slope, digits = trend.slope, 0 if abs(trend.slope.value) >= 10 else 1
    sentence = f"{slope.value:+.{digits}f} {unit} {trend.per} ({slope.lower:+.{digits}f} to {slope.upper:+.{digits}f})"
    shown = "" if trend.p < DIFFERS_P else ": no trend is shown yet"
    return f"{_capital(trend.along)} {what} {sentence}{shown}. "


def condition_comparison_sentence(kind: Species, found: ConditionComparison, trend: GroupTrend | None = None) -> str:
    """Which group's fish are heaviest and lightest for their length, and how many pairs differ.

    Args:
        kind: the species.
        found: the groups compared.
        trend: of the mass at the middle length, per cent, where the groups stand in an order.
    """
    name = kind.common_name
    lines = found.lines
    first = trend_words(trend, f"the mass of {name} of {lines.at_mm[1]:.0f} mm changes by", "%") if trend else ""
    p = np.concatenate([found.line_p, found.wr_p])
    if np.isnan(p).all():
        return f"{first}Too few sites to tell whether condition of {name} differs between the {len(lines.n)} groups."
    tests = int((~np.isnan(p)).sum())
    differing = int((found.line_p < DIFFERS_P).sum())
    what = "length-mass lines" + (" and relative weight" if found.wr_pairs else "")
    if not (p < DIFFERS_P).any():
        return (
            f"{first}No pair of the {len(lines.n)} groups differs by itself beyond chance in {what} of {name} "
            f"(smallest p {_p(float(np.nanmin(p)))} after Holm, {tests} {'test' if tests == 1 else 'tests'})."
        )
    masses = {group: at[1].value for group, at in lines.masses.items()}
    heavy, light = max(masses, key=lambda each: masses[each]), min(masses, key=lambda each: masses[each])
    sentence = (
        f"{first}{_capital(name)} of {lines.at_mm[1]:.0f} mm weigh most in {heavy} ({masses[heavy]:.0f} g) and least in {light} "
        f"({masses[light]:.0f} g, {100 * (masses[light] / masses[heavy] - 1):.0f} %); the lines differ in {differing} of "
        f"{len(lines.pairs)} pairs"
    )
    if found.wr_pairs:
        sentence += f", relative weight in {int((found.wr_p < DIFFERS_P).sum())} of {len(found.wr_pairs)}"
    sentence += f" (Holm, {tests} tests)."
    pair = next(each for each in lines.pairs if {each.first, each.second} == {heavy, light})
    short, _, long = pair.differences
    if short.upper < long.lower or long.upper < short.lower:
        sign = 1 if pair.second == light else -1
        # from the other side a difference is not just of the other sign
        told = [each.value if sign > 0 else 100 * (1 / (1 + each.value / 100) - 1) for each in (short, long)]
        sentence += (
            f" Between those two it depends on length: {told[0]:+.0f} % at {lines.at_mm[0]:.0f} mm, {told[1]:+.0f} % at "
            f"{lines.at_mm[2]:.0f} mm."
        )
    return sentence


def cohort_sentence(kind: Species, fit: CohortFit) -> str:
    """How many cohorts, where, and which cannot be told apart.

    Args:
        kind: the species.
        fit: its cohorts.
    """
    where = ", ".join(f"{mean:.0f} mm ({100 * share:.0f} %)" for mean, share in zip(fit.means, fit.shares, strict=True))
    many = "one cohort" if fit.k == 1 else f"{fit.k} cohorts"
    sentence = f"The lengths of {fit.n:,} {kind.common_name} are described by {many}: {where}."
    blurred = int((~fit.separated).sum())
    if blurred:
        sentence += f" {blurred} of {fit.k - 1} neighbouring pairs lie too close to be seen apart."
    return sentence


#: What a sweep may vary, in words.
_CHOICES = {
    "population": "fish there may be", "marks": "fish marked", "catch": "fish looked at", "occasions": "catches",
    "heterogeneity": "SD of log catchability", "tag_loss": "share of marks lost", "leaving": "share of fish that leave",
    "capture": "share caught in the first pass", "passes": "passes", "falling": "share by which catchability falls",
    "sites": "sites", "years": "years", "mean": "catch a site in the first year", "k": "patchiness k",
    "change": "yearly change", "site_sd": "SD of log mean among sites",
    "year_sd": "SD of log mean among years",
}  # fmt: skip
#: A bias below this is not spoken of: share of the truth, and for a trend the yearly change itself.
_SMALL_BIAS, _SMALL_TREND_BIAS = 0.02, 0.01


def rehearsal_sentence(rehearsal: Rehearsal) -> str:
    """Where the answers of a rehearsed survey lie against the truth.

    Args:
        rehearsal: answers and truth of many made-up surveys.
    """
    trend = isinstance(rehearsal.design, TrendDesign)
    low, high = rehearsal.spread
    if not math.isfinite(low):
        return "Not one such survey would give an answer. Change the design."

    def figure(value: float) -> str:
        return _share(value) if trend else f"{value:,.0f}"

    bias = rehearsal.bias
    off = f"{_share(abs(bias))} too {'low' if bias < 0 else 'high'} on average"
    if abs(bias) < (_SMALL_TREND_BIAS if trend else _SMALL_BIAS):
        off = "nearly unbiased"
    return (
        f"{100 * rehearsal.level:.0f} of 100 such surveys would answer between {figure(low)} and {figure(high)}; the truth is "
        f"{figure(rehearsal.truth)}. The estimate is {off}."
    )


def sweep_sentence(rehearsals: Sequence[Rehearsal], choice: str) -> str:
    """From which value of the choice on all designs are good enough, and what the first of them costs.

    Args:
        choice: the design's field that was varied.
    """
    ordered = sorted(rehearsals, key=lambda each: float(getattr(each.design, choice)))
    name = _CHOICES.get(choice, choice.replace("_", " "))
    first = len(ordered)
    while first and ordered[first - 1].good_enough:
        first -= 1
    if first == len(ordered):
        good = [each for each in ordered if each.good_enough]
        if not good:
            return "None of these values makes 80 of 100 surveys good enough. Change the design."
        values = ", ".join(f"{getattr(each.design, choice):,g}" for each in good)
        return f"Only with {name} {values} are more than 80 of 100 surveys good enough, and not beyond."
    enough = ordered[first]
    trend = isinstance(enough.design, TrendDesign)
    cost = f", at a cost of {enough.cost:,.0f}" if enough.cost > 0 else ""
    return (
        f"From {name} {getattr(enough.design, choice):,g} on, more than 80 of 100 surveys "
        f"{'see the direction' if trend else 'come within a quarter of the truth'} and fewer than 20 are useless{cost}."
    )


def _from_sites(likeness: Likeness | None) -> str:
    if likeness is None:
        return ""
    sites = f" from {likeness.sites} sites" if likeness.sites > 1 else " from one site"
    return f"{sites} in {likeness.years} years" if likeness.years > 1 else sites


def _share(value: float) -> str:
    return f"{100 * value:.{1 if 0 < abs(value) < 0.1 else 0}f} %"


def _p(p: float) -> str:
    return "< 0.001" if p < 0.001 else f"= {p:.3f}"


def _reading(wr: Estimate, low: float, high: float) -> str:
    """Where the interval lies against the benchmark: never more than it says."""
    about = f"the benchmark of {low:g} to {high:g}"
    if not math.isfinite(wr.lower + wr.upper):
        return f"too few to be read against {about}"
    if wr.upper < low:
        return f"{'thin, ' if wr.upper < min(80, low) else ''}below {about}"
    if wr.lower > high:
        return f"above {about}"
    if low <= wr.lower and wr.upper <= high:
        return f"within {about}"
    if wr.lower < low and wr.upper > high:
        return f"the interval is wider than {about}: it says neither below nor above"
    side, limit = ("below", low) if wr.lower < low else ("above", high)
    return f"the interval spans {limit:g}: within or {side} {about}"


def _span(estimate: Estimate, digits: int) -> str:
    return f"{estimate.lower:.{digits}f}-{estimate.upper:.{digits}f}"


def _capital(name: str) -> str:
    return name[:1].upper() + name[1:]
