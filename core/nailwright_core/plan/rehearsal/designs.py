"""The designs that can be rehearsed: the population as it is believed to be, and the survey planned on it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from nailwright_core.common.errors import CoreError

#: Spread of log catchability among fish at which the most catchable tenth is about three times as likely as the median.
MAX_HETEROGENEITY = 2.0


@dataclass(frozen=True)
class MarksDesign:
    """Closed marks: ``marks`` go out, then ``occasions`` catches of ``catch`` fish in all look for them.

    Attributes:
        population: fish in the water at marking.
        marks: fish marked.
        catch: fish looked at, over all occasions together; none is looked at twice on one occasion.
        occasions: into how many the catch is split.
        heterogeneity: SD of log catchability among fish; 0 where every fish is as likely to be caught.
        tag_loss: share of marks lost before the catch.
        leaving: share of all fish, marked or not, that leave before the catch; the truth is then what stays.
        cost_mark, cost_catch: of one fish, in any one currency.
    """

    population: int
    marks: int
    catch: int
    occasions: int = 1
    heterogeneity: float = 0.0
    tag_loss: float = 0.0
    leaving: float = 0.0
    cost_mark: float = 0.0
    cost_catch: float = 0.0

    @property
    def truth(self) -> float:
        """What the estimate is held against: fish in the water at marking. Fish that leave change both counts alike."""
        return float(self.population)

    @property
    def cost(self) -> float:
        """Of the whole survey."""
        return self.marks * self.cost_mark + self.catch * self.cost_catch

    def check(self) -> None:
        """Raises CoreError ``design_out_of_range``."""
        between("population", self.population, 10, 2_000_000)
        between("marks", self.marks, 1, self.population)
        between("catch", self.catch, 1, self.population * self.occasions)
        between("occasions", self.occasions, 1, 50)
        between("heterogeneity", self.heterogeneity, 0, MAX_HETEROGENEITY)
        between("tag_loss", self.tag_loss, 0, 0.95)
        between("leaving", self.leaving, 0, 0.95)


@dataclass(frozen=True)
class RemovalDesign:
    """Removal: ``passes`` over a closed stretch.

    Attributes:
        population: fish in the stretch.
        capture: chance of capture in the first pass.
        falling: share by which that chance falls from pass to pass.
        cost_pass: of one pass.
    """

    population: int
    capture: float
    passes: int = 3
    falling: float = 0.0
    cost_pass: float = 0.0

    @property
    def truth(self) -> float:
        """Fish in the stretch."""
        return float(self.population)

    @property
    def cost(self) -> float:
        """Of the whole survey."""
        return self.passes * self.cost_pass

    def check(self) -> None:
        """Raises CoreError ``design_out_of_range``."""
        between("population", self.population, 1, 200_000)
        between("capture", self.capture, 0.01, 0.99)
        between("passes", self.passes, 2, 10)
        between("falling", self.falling, 0, 0.9)


@dataclass(frozen=True)
class TrendDesign:
    """Catch per effort over years: the yearly change, log-linear with site effects (``catch_per_effort.cpue_trend``).

    Attributes:
        sites: visited each year.
        years: visits in line.
        mean: fish a site in the first year.
        k: aggregation of catches among sites (negative binomial); small is patchy.
        change: yearly, -0.1 for a tenth fewer each year.
        site_sd: SD of log mean among sites that stays from year to year.
        year_sd: SD of log mean among years that all sites share, such as of flow and temperature.
        cost_site: of one visit to one site.
    """

    sites: int
    years: int
    mean: float
    k: float
    change: float
    site_sd: float = 0.0
    year_sd: float = 0.0
    cost_site: float = 0.0

    @property
    def truth(self) -> float:
        """The yearly change."""
        return self.change

    @property
    def cost(self) -> float:
        """Of the whole survey."""
        return self.sites * self.years * self.cost_site

    def check(self) -> None:
        """Raises CoreError ``design_out_of_range``."""
        between("sites", self.sites, 2, 2000)
        between("years", self.years, 3, 40)
        between("mean", self.mean, 0.01, 1e5)
        between("k", self.k, 0.05, 1000)
        between("change", self.change, -0.9, 2)
        between("site_sd", self.site_sd, 0, 3)
        between("year_sd", self.year_sd, 0, 3)


Design = MarksDesign | RemovalDesign | TrendDesign


def vary(design: Design, choice: str, values: Sequence[float]) -> list[Design]:
    """The design with one choice set to each value.

    Args:
        design: all other choices.
        choice: name of a field of the design.
        values: what that field is set to.

    Raises:
        CoreError: ``choice_unknown``.
    """
    if choice not in design.__dataclass_fields__:
        raise CoreError(
            "choice_unknown", f"Expected one of {', '.join(design.__dataclass_fields__)}; got '{choice}'.", "choice"
        )
    whole = isinstance(getattr(design, choice), int)
    return [replace(design, **{choice: round(value) if whole else value}) for value in values]  # type: ignore[arg-type]


def between(name: str, value: float, low: float, high: float) -> None:
    """Raises CoreError ``design_out_of_range`` where a value lies outside.

    Args:
        name: of the field, as a message calls it.
        value: what was chosen.
        low: least that is allowed.
        high: most that is allowed.
    """
    if not low <= value <= high:
        raise CoreError(
            "design_out_of_range",
            f"Expected {name.replace('_', ' ')} from {low:,g} to {high:,g}; got {value:,g}.",
            name,
        )
