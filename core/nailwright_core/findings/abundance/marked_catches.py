"""How many fish, from catches of one stretch of time in which marks were let go and looked for."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.checks import check_level, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import wilson
from nailwright_core.findings.abundance.closed_models import MODELS, at_least, closed_catches, closed_models
from nailwright_core.findings.abundance.marks import petersen
from nailwright_core.findings.abundance.occasions import schnabel, schumacher_eschmeyer

#: Longer than so many days a water is hardly closed, and than a year never (common practice, no source).
DAYS_HARDLY_CLOSED, DAYS_NEVER_CLOSED = 60, 365


@dataclass(frozen=True)
class Told:
    """One estimate with what it takes chances of capture to be; ``weight`` among models that can be weighed, else nan."""

    name: str
    taken: str
    n: Estimate
    weight: float = math.nan


@dataclass(frozen=True)
class FromMarks:
    """Attributes:
    best: what is told first. others: by other ways, ``at_least`` among them last.
    assumptions: what the first takes for granted.
    """

    best: Told
    others: tuple[Told, ...]
    assumptions: tuple[Assumption, ...]


def from_marks(
    caught: ArrayLike,
    recaptured: ArrayLike,
    at_large: ArrayLike,
    days: float,
    histories: NDArray[np.int64] | None = None,
    level: float = 0.95,
) -> FromMarks:
    """Fish of a closed water: Chapman's form from two catches, Schnabel's from more.

    Args:
        caught: fish that were looked at for marks at each catch, shape (t,). recaptured: of them let go with a mark at an earlier one.
        at_large: marks at large before each. days: from the first catch to the last.
        histories: 0 and 1 of every fish caught, shape (fish, t), where each was known from the others; None where not: then no model of
            chances of capture is fitted.

    Raises:
        CoreError: ``occasions_too_few`` with fewer than two catches, ``no_recaptures``, and as the estimators.
    """
    check_level(level)
    c, r, m = (
        whole_counts(each, name)
        for each, name in ((caught, "caught"), (recaptured, "recaptured"), (at_large, "at_large"))
    )
    if c.size < 2 or not c.size == r.size == m.size:
        raise CoreError(
            "occasions_too_few", f"Expected two catches or more, each with its marks; got {c.size}.", "caught"
        )
    if not (m[1:] > 0).any():
        raise CoreError(
            "no_marks", "No fish was let go with a mark before a later catch, so nothing was looked for.", "at_large"
        )
    if not r.sum():
        raise CoreError(
            "no_recaptures",
            f"None of {int(m.max()):,} marks was met again among {int(c[1:].sum()):,} fish: there may be any number of fish. Catch more.",
            "recaptured",
        )
    others: list[Told] = []
    if c.size == 2:
        found = petersen(int(m[1]), int(c[1]), int(r[1]), level=level)
        best = Told("Chapman", "both catches are of all fish alike", found.n)
    else:
        found = schnabel(c, r, m, level)
        best = Told("Schnabel", "at each catch all fish are alike", found.n)
        used = (m > 0) & (c > 0)
        if used.sum() > 1:
            others.append(
                Told(
                    "Schumacher and Eschmeyer",
                    "marked and unmarked fish may mix badly",
                    schumacher_eschmeyer(c, r, m, level).n,
                )
            )
    if histories is not None:
        counts = closed_catches(histories)
        if counts.times[1:].sum():
            others += [Told(each.name, MODELS[each.name], each.n, each.weight) for each in closed_models(counts, level)]
            if c.size > 2:
                others.append(Told("At least (Chao)", "fish may differ in any way", at_least(counts, level)))
    closed = _closed(days)
    kept = [each for each in found.assumptions if not each.name.startswith("Closed")]
    return FromMarks(best, tuple(others), (closed, *kept))


def _closed(days: float) -> Assumption:
    told = f"From the first catch to the last are {days:.0f} days. Births, deaths, and moves in or out make the estimate too high or too low."
    name = "Nothing came or went between the catches"
    if days > DAYS_NEVER_CLOSED:
        return Assumption(name, "fails", f"{told} Choose the days of one season.")
    return Assumption(name, "doubtful" if days > DAYS_HARDLY_CLOSED else "not checked", told)


@dataclass(frozen=True)
class ShareMarked:
    """Of the fish looked at in one part of the water those that had a mark."""

    name: str
    share: Estimate
    marked: int


def shares_marked(
    looked_at: dict[str, tuple[int, int]], level: float = 0.95, part: str = "zone"
) -> tuple[tuple[ShareMarked, ...], Assumption]:
    """Share of marks in each part's catch, and whether they were as common everywhere.

    Args:
        looked_at: name of a part -> fish looked at, of them with marks.
        part: what the parts are called.

    Raises:
        CoreError: ``count_out_of_range``, ``level_out_of_range``.
    """
    told = []
    for name, (n, k) in looked_at.items():
        low, high = wilson(k, n, level)
        told.append(ShareMarked(name, Estimate(k / n if n else math.nan, math.nan, low, high, level, "Wilson", n), k))
    name = "Marks have mixed among all fish"
    table = np.array([(k, n - k) for n, k in looked_at.values() if n])
    if len(table) < 2 or not table.sum(axis=0).all():
        return tuple(told), Assumption(name, "not checked", f"It takes two {part}s, and fish with and without marks.")
    p, by = _alike(table)
    if p > 0.05:
        return tuple(told), Assumption(
            name, "not refuted", f"Marks were about as common in the catch of every {part} ({by} p = {p:.2g})."
        )
    least, most = min(told, key=lambda each: each.share.value), max(told, key=lambda each: each.share.value)
    return tuple(told), Assumption(
        name,
        "fails",
        f"{100 * most.share.value:.1f} % of the fish had a mark in {most.name}, {100 * least.share.value:.1f} % in {least.name} ({by} p = {p:.2g}): "
        f"the estimate may be far off. {'Look at the zones.' if part == 'site' else f'Estimate each {part} by itself.'}",
    )


#: A table of which a cell has fewer fish to expect is compared with random ones, since chi-square's own distribution is for many fish
#: (Cochran 1954, Biometrics 10, 417-451, from memory).
_FEWEST_EXPECTED, _RANDOM_TABLES = 5.0, 4000


def _alike(table: NDArray[np.int64]) -> tuple[float, str]:
    """How rare shares as unlike are where all are the same, and by what that was found."""
    found = scipy.stats.chi2_contingency(table, correction=False)
    if found.expected_freq.min() >= _FEWEST_EXPECTED:
        return float(found.pvalue), "chi-square"
    rows, columns = table.sum(axis=1), table.sum(axis=0)
    drawn = scipy.stats.random_table(rows, columns).rvs(_RANDOM_TABLES, random_state=0)
    unlike = ((drawn - found.expected_freq) ** 2 / found.expected_freq).sum(axis=(1, 2))
    return float(1 + (unlike >= found.statistic - 1e-9).sum()) / (1 + _RANDOM_TABLES), "random tables,"


def marks_sentence(found: FromMarks, species: str, catches: int, looked_at: int, recaptured: int) -> str:
    """How many, how sure, from what; the factor that the interval spans in words."""
    n = found.best.n
    first = f"About {_round(n.value)} {species} ({_round(n.lower)} to {'no upper limit' if math.isinf(n.upper) else _round(n.upper)})"
    told = f"{first} by {found.best.name}, from {catches} catches, {looked_at:,} fish looked at for marks and {recaptured:,} met again."
    closed = found.assumptions[0]
    if closed.verdict == "fails":
        told = f"{told} These catches are too far apart for one number: fish died and grew up between them."
    return f"{told} {_factor(n)}" if math.isfinite(n.upper) else told


def _round(fish: float) -> str:
    """To three figures."""
    if fish < 1000:
        return f"{fish:.0f}"
    return f"{round(fish, 2 - math.floor(math.log10(fish))):,.0f}"


def _factor(n: Estimate) -> str:
    more, fewer = n.upper / n.value, n.value / n.lower
    if more <= 1.15 and fewer <= 1.15:
        return "It is known to within a seventh."
    up = (
        "a quarter more"
        if more <= 1.35
        else "half as many more"
        if more <= 1.75
        else "twice as many"
        if more <= 2.5
        else f"{more:.0f} times as many"
    )
    down = (
        "a fifth fewer"
        if fewer <= 1.35
        else "a third fewer"
        if fewer <= 1.75
        else "half as many"
        if fewer <= 2.5
        else f"a {_ordinal(fewer)} of them"
    )
    return f"There could be {down} or {up}."


def _ordinal(times: float) -> str:
    whole = round(times)
    return {3: "third", 4: "quarter", 5: "fifth", 6: "sixth", 7: "seventh", 8: "eighth", 9: "ninth", 10: "tenth"}.get(
        whole, f"{whole}th"
    )


def with_shares(found: FromMarks, mixing: Assumption) -> FromMarks:
    """With what the shares of marks by zone say of mixing in place of what nothing said."""
    kept = tuple(each for each in found.assumptions if each.name != mixing.name)
    return replace(found, assumptions=(kept[0], mixing, *kept[1:]))
