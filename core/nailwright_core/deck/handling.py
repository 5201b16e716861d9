"""Limits for fish in hand, tanks and baths.

Doses and stages: Summerfelt and Smith (1990), Methods for Fish Biology, ch. 8, and labels, from memory; limits for well and
air: common practice, no source. Local code, permit, the animal-care protocol and the licensed person decide.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any, ClassVar, Literal

from nailwright_core.common.checks import check_level, finite, whole_counts
from nailwright_core.common.errors import CoreError

PURPOSES = ("calm", "measure", "surgery")


@dataclass(frozen=True)
class Agent:
    """An anaesthetic: stock as commonly mixed, mg of agent in a mL of it; target ranges by purpose, mg/L; legal note."""

    code: str
    name: str
    stock_mg_ml: float
    ranges_mg_l: dict[str, tuple[float, float]]
    note: str


AGENTS = {
    each.code: each
    for each in (
        Agent(
            "clove-oil",
            "Clove oil, 1:9 in ethanol",
            105.0,  # 1.05 g/mL of oil, one part in ten
            {"calm": (10.0, 20.0), "measure": (20.0, 60.0), "surgery": (40.0, 100.0)},
            "About 85 % eugenol. Mix 1:9 in ethanol before it goes into water. Not approved for food fish in some countries.",
        ),
        Agent(
            "tricaine",
            "Tricaine methanesulfonate, 100 g/L",
            100.0,
            {"calm": (25.0, 50.0), "measure": (50.0, 100.0), "surgery": (75.0, 150.0)},
            "Buffer 1:1 by mass with sodium bicarbonate. 21 days before a fish may be eaten (United States label).",
        ),
    )
}
CAUTION = (
    "The lowest dose that holds the fish still. Local code, permit, animal-care protocol and the licensed person decide. "
    "Gloves and eye protection; no stock solution in drains or open water."
)


def box_l(length_cm: float, width_cm: float, fill_cm: float) -> float:
    """Litres in a box filled to a depth.

    Args:
        length_cm: length inside, cm.
        width_cm: width inside, cm.
        fill_cm: depth of the water, cm.

    Raises:
        CoreError: ``tank_out_of_range``.
    """
    _sizes(length_cm=length_cm, width_cm=width_cm, fill_cm=fill_cm)
    return length_cm * width_cm * fill_cm / 1000


def cylinder_l(diameter_cm: float, fill_cm: float) -> float:
    """Litres in an upright round tank filled to a depth.

    Args:
        diameter_cm: diameter inside, cm.
        fill_cm: depth of the water, cm.

    Raises:
        CoreError: ``tank_out_of_range``.
    """
    _sizes(diameter_cm=diameter_cm, fill_cm=fill_cm)
    return math.pi * diameter_cm**2 / 4 * fill_cm / 1000


def half_barrel_l(diameter_cm: float, length_cm: float, fill_cm: float) -> float:
    """Litres in a lying half barrel (a half cylinder) filled to a depth, at most its radius.

    Args:
        diameter_cm: diameter inside, cm.
        length_cm: length inside, cm.
        fill_cm: depth of the water, cm.

    Raises:
        CoreError: ``tank_out_of_range``.
    """
    _sizes(diameter_cm=diameter_cm, length_cm=length_cm, fill_cm=fill_cm)
    radius = diameter_cm / 2
    if fill_cm > radius:
        raise CoreError(
            "tank_out_of_range",
            f"A half barrel of {diameter_cm:g} cm holds at most {radius:g} cm of water; got {fill_cm:g}.",
            "fill_cm",
        )
    angle = 2 * math.acos((radius - fill_cm) / radius)
    return radius**2 / 2 * (angle - math.sin(angle)) * length_cm / 1000


def tank_l(shape: str, a_cm: float, b_cm: float, fill_cm: float) -> float:
    """Litres in a tank of a shape: "litres" (then ``a_cm`` holds them), "box", "cylinder" or "half_barrel".

    Args:
        shape: "litres", "box", "cylinder" or "half_barrel".
        a_cm: length or diameter, cm; litres where the shape is "litres".
        b_cm: width, or length of a half barrel, cm.
        fill_cm: depth of the water, cm.

    Raises:
        CoreError: ``shape_unknown``, and as the shape's own function.
    """
    if shape == "litres":
        return a_cm
    if shape == "box":
        return box_l(a_cm, b_cm, fill_cm)
    if shape == "cylinder":
        return cylinder_l(a_cm, fill_cm)
    if shape == "half_barrel":
        return half_barrel_l(a_cm, b_cm, fill_cm)
    raise CoreError("shape_unknown", f"Expected litres, box, cylinder or half_barrel; got '{shape[:20]}'.", "shape")


def dose_volume_ml(bath_l: float, target_mg_l: float, stock_mg_ml: float, present_mg_l: float = 0) -> float:
    """Stock to add, mL, to bring a bath to a target strength.

    Args:
        present_mg_l: what the bath has already, carried over or left.

    Raises:
        CoreError: ``bath_out_of_range``, ``dose_out_of_range``, ``bath_too_strong`` (dilute it instead).
    """
    if not 0 < bath_l <= 5000:
        raise CoreError(
            "bath_out_of_range", f"Expected a bath of more than 0 and up to 5,000 L; got {bath_l:g} L.", "bath_l"
        )
    finite(target_mg_l, "target_mg_l"), finite(stock_mg_ml, "stock_mg_ml"), finite(present_mg_l, "present_mg_l")
    if not target_mg_l > 0 or not stock_mg_ml > 0 or present_mg_l < 0:
        raise CoreError(
            "dose_out_of_range", "Expected a target and a stock above 0, and what is present 0 or more.", "target_mg_l"
        )
    if present_mg_l > target_mg_l:
        share = 1 - target_mg_l / present_mg_l
        raise CoreError(
            "bath_too_strong",
            f"The bath has {present_mg_l:.3g} mg/L, more than the {target_mg_l:.3g} wanted. Exchange {share:.0%} of it "
            f"({bath_l * share:.3g} L) for fresh water.",
            "present_mg_l",
        )
    return bath_l * (target_mg_l - present_mg_l) / stock_mg_ml


def check_target(agent: Agent, purpose: str, target_mg_l: float) -> None:
    """Refuse a strength beyond the agent's range for the purpose.

    Args:
        agent: of the bath.
        purpose: what the bath is for, a key of ``PURPOSES``.
        target_mg_l: strength that is wanted, mg/L.

    Raises:
        CoreError: ``target_out_of_range`` with the range, ``purpose_unknown``.
    """
    if purpose not in agent.ranges_mg_l:
        raise CoreError("purpose_unknown", f"Expected a purpose of {', '.join(PURPOSES)}; got '{purpose}'.", "purpose")
    low, high = agent.ranges_mg_l[purpose]
    if not low <= target_mg_l <= high:
        raise CoreError(
            "target_out_of_range",
            f"{agent.name} to {purpose}: {low:g} to {high:g} mg/L; got {target_mg_l:g} mg/L. Take the lowest that holds "
            "the fish still.",
            "target_mg_l",
        )


@dataclass(frozen=True)
class BathState:
    """A bath as it stands: its litres and its strength. Each step gives the bath after it."""

    litres: float
    mg_l: float = 0.0

    def fill(self, litres: float, kept_l: float = 0.0) -> BathState:
        """Filled anew to ``litres``, of which ``kept_l`` are left from before."""
        if not 0 < litres <= 5000 or not 0 <= kept_l <= min(litres, self.litres):
            raise CoreError("bath_out_of_range", "Expected litres above 0, and no more kept than there were.", "litres")
        return BathState(litres, self.mg_l * kept_l / litres)

    def exchange(self, litres: float) -> BathState:
        """So many litres let out and replaced by fresh water."""
        if not 0 <= litres <= self.litres:
            raise CoreError(
                "bath_out_of_range", f"Expected to exchange 0 to {self.litres:g} L; got {litres:g}.", "litres"
            )
        return replace(self, mg_l=self.mg_l * (1 - litres / self.litres))

    def top_up(self, litres: float) -> BathState:
        """So many litres of fresh water added."""
        if litres < 0:
            raise CoreError("bath_out_of_range", f"Expected 0 L or more; got {litres:g}.", "litres")
        return BathState(self.litres + litres, self.mg_l * self.litres / (self.litres + litres))

    def add(self, stock_ml: float, stock_mg_ml: float) -> BathState:
        """Stock added; its own volume is left out."""
        return replace(self, mg_l=self.mg_l + stock_ml * stock_mg_ml / self.litres)


@dataclass(frozen=True)
class Limits:
    """A programme's limits for fish in hand; defaults are common practice, no source."""

    well_fish: int = 12
    well_g_l: float = 60.0
    well_minutes: float = 30.0
    well_oxygen_mg_l: float = 6.0
    well_degrees: float = 3.0
    air_goal_s: float = 60.0
    air_warn_s: float = 90.0
    air_alarm_s: float = 120.0
    induction_goal_s: float = 180.0
    induction_warn_s: float = 300.0
    induction_alarm_s: float = 600.0
    recovery_goal_s: float = 300.0
    recovery_warn_s: float = 600.0

    #: Fields that belong together: a goal, its warning and its alarm, each not below the one before.
    STEPS: ClassVar[tuple[tuple[str, ...], ...]] = (
        ("air_goal_s", "air_warn_s", "air_alarm_s"),
        ("induction_goal_s", "induction_warn_s", "induction_alarm_s"),
        ("recovery_goal_s", "recovery_warn_s"),
    )

    def with_cells(self, cells: Mapping[str, Any]) -> Limits:
        """Them with what a row of the protocol says; its columns that are no limit of these are left out."""
        names = {each.name for each in fields(self)}
        return replace(self, **{name: cell for name, cell in cells.items() if name in names})

    def most_load_g(self, well_l: float) -> float:
        """Mass of fish that a live well of so many litres may hold, g."""
        return well_l * self.well_g_l

    def check(self) -> None:
        """Raises CoreError ``limits_out_of_order`` where a goal lies beyond its warning, or a warning beyond its alarm."""
        for names in self.STEPS:
            steps = [getattr(self, name) for name in names]
            if steps != sorted(steps):
                raise CoreError(
                    "limits_out_of_order",
                    f"Expected the goal for {names[0].removesuffix('_goal_s')} before its warning, and that before its alarm; got "
                    f"{', '.join(f'{step:g} s' for step in steps)}.",
                    names[0],
                )


Status = Literal["good", "soon", "over"]


def lane_status(waited_s: float, warn_s: float, alarm_s: float) -> Status:
    """Whether a fish may stay where it is: good, soon to move on, or over its time.

    Args:
        waited_s: time there, s.
        warn_s: from when it is to move on soon, s.
        alarm_s: from when it is over its time, s.
    """
    return "over" if waited_s >= alarm_s else "soon" if waited_s >= warn_s else "good"


def reflex_score(tried: Sequence[str], impaired: Sequence[str]) -> float:
    """Share of the reflexes tried that are impaired, 0 to 1 (Davis 2010, from memory).

    Args:
        tried: codes of the reflexes that were tried.
        impaired: codes of those that are impaired.

    Raises:
        CoreError: ``reflex_not_tried``; ``count_out_of_range`` where none was tried.
    """
    if not tried:
        raise CoreError("count_out_of_range", "Expected at least one reflex that was tried.", "tried")
    if extra := [each for each in impaired if each not in tried]:
        raise CoreError("reflex_not_tried", f"'{extra[0]}' is said to be impaired and was not tried.", "impaired")
    return len(set(impaired)) / len(set(tried))


def most_fish(well_l: float, fish_g: float, limits: Limits | None = None) -> int:
    """Fish of one mass that a live well may hold, by number and by load.

    Args:
        well_l: litres in the live well.
        fish_g: mass of one fish, g.
        limits: of the programme; None: those that ship.

    Raises:
        CoreError: ``tank_out_of_range``.
    """
    used = limits or Limits()
    _sizes(well_l=well_l, fish_g=fish_g)
    return min(used.well_fish, math.floor(used.most_load_g(well_l) / fish_g))


def spare_stock_ml(bath_l: float, target_mg_l: float, stock_mg_ml: float, refills: int, margin: float = 0.5) -> float:
    """Stock to take along for a day's fillings and a margin.

    Args:
        bath_l: litres in the bath.
        target_mg_l: strength that is wanted, mg/L.
        stock_mg_ml: strength of the stock, mg/mL.
        refills: fillings in a day.
        margin: share to be taken along beyond that.
    """
    if refills < 1 or margin < 0:
        raise CoreError("dose_out_of_range", "Expected at least one filling and a margin of 0 or more.", "refills")
    return dose_volume_ml(bath_l, target_mg_l, stock_mg_ml) * refills * (1 + margin)


def zero_deaths_upper(n: int, level: float = 0.95) -> float:
    """The highest death rate that none dead of ``n`` still allows, one-sided, exact: 1 - (1 - level)^(1/n).

    Args:
        n: how many there are.
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: ``count_out_of_range``.
    """
    if n < 1:
        raise CoreError("count_out_of_range", f"Expected at least one fish; got {n}.", "n")
    check_level(level)
    whole_counts([n], "n")
    return -math.expm1(math.log1p(-level) / n)  # the share at which none of n is as rare as 1 - level


def _sizes(**sizes: float) -> None:
    for name, value in sizes.items():
        if not 0 < value <= 100_000 or not math.isfinite(value):
            raise CoreError("tank_out_of_range", f"Expected {name.replace('_', ' ')} above 0; got {value:g}.", name)
