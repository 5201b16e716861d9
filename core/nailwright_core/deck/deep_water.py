"""Fish brought up from depth: pressure, expansion, and how to send them down again.

Boyle's law on an ideal gas at one temperature. Share of gas in a neutral fish: textbook values, 5 % in the sea, 7 % in fresh
water. Standard atmosphere: ISO 2533. Practice as marked: common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from nailwright_core.common.checks import finite
from nailwright_core.common.errors import CoreError

Water = Literal["sea", "fresh"]
STANDARD_PA = 101_325.0
GRAVITY = 9.80665
DENSITY = {"sea": 1025.0, "fresh": 1000.0}
GAS_SHARE = {"sea": 0.05, "fresh": 0.07}
#: kg/m3: lead, steel, concrete.
WEIGHT_DENSITY = {"lead": 11_340.0, "steel": 7_850.0, "concrete": 2_400.0}
MAX_DEPTH_M = 500.0
#: Weight that law commonly asks for at least, 16 oz, g.
LEGAL_MINIMUM_G = 453.59237


def pressure_pa(depth_m: float, water: Water = "sea", altitude_m: float = 0) -> float:
    """Absolute pressure at a depth, Pa, below a surface at an altitude.

    Args:
        depth_m: below the surface, m.
        water: "sea" or "fresh".
        altitude_m: of the surface above the sea, m.

    Raises:
        CoreError: ``depth_out_of_range``, ``water_unknown``, ``altitude_out_of_range``.
    """
    if not 0 <= depth_m <= MAX_DEPTH_M:
        raise CoreError(
            "depth_out_of_range", f"Expected a depth from 0 to {MAX_DEPTH_M:g} m; got {depth_m:g} m.", "depth_m"
        )
    if water not in DENSITY:
        raise CoreError("water_unknown", f"Expected sea or fresh; got '{water}'.", "water")
    if not -500 <= altitude_m <= 6000:
        raise CoreError(
            "altitude_out_of_range", f"Expected -500 to 6,000 m above the sea; got {altitude_m:g}.", "altitude_m"
        )
    surface: float = STANDARD_PA * (1 - 2.25577e-5 * altitude_m) ** 5.25588
    return surface + DENSITY[water] * GRAVITY * depth_m


def expansion(depth_m: float, water: Water = "sea", altitude_m: float = 0) -> float:
    """How many times the gas volume of a fish neutral at a depth is at the surface.

    Args:
        depth_m: below the surface, m.
        water: "sea" or "fresh".
        altitude_m: of the surface above the sea, m.

    Raises:
        CoreError: as ``pressure_pa``.
    """
    return pressure_pa(depth_m, water, altitude_m) / pressure_pa(0, water, altitude_m)


@dataclass(frozen=True)
class DescentPlan:
    """How to send a fish down.

    Attributes:
        release_depth_m: where to let it go, and ``excess`` the gas it still has too much there, a share of neutral.
        lift_n: upward force at the surface if no gas was lost.
        sinker_g: weight in air that takes it down, with the margin; never under the legal minimum.
        lets_go_m: the deepest at which one of the crew's devices lets go that is above the bottom and no deeper than the
            capture; None where there is none. ``lets_go_excess`` is the gas excess there.
        pulls: pulls of line to the release depth; None where the crew's pull is not measured.
        goal_s, limit_s: from deck to going down.
        notes: what to mind, in words.
    """

    release_depth_m: float
    excess: float
    lift_n: float
    sinker_g: float
    lets_go_m: float | None
    lets_go_excess: float | None
    pulls: int | None
    goal_s: float
    limit_s: float
    notes: tuple[str, ...]


def descent_plan(
    mass_g: float,
    depth_m: float,
    water: Water = "sea",
    bottom_m: float | None = None,
    altitude_m: float = 0,
    weight: str = "lead",
    strong_current: bool = False,
    legal_minimum_g: float = LEGAL_MINIMUM_G,
    lets_go_at_m: Sequence[float] = (),
    pull_m: float | None = None,
    gas_share: float | None = None,
    swim_bladder: bool = True,
    let_go_share: float = 0.75,
) -> DescentPlan:
    """How deep, with what weight, and how many pulls of line.

    Args:
        mass_g: mass of the fish. depth_m: where it was caught. bottom_m: depth of the water where it goes down.
        legal_minimum_g: the least weight the programme set, commonly 16 oz.
        lets_go_at_m: depths at which the crew's pressure-triggered devices let go.
        pull_m: line in one pull of this crew, measured once.
        swim_bladder: whether the species has one; a fish without any is not lifted.
        let_go_share: of the capture depth from which it may be let go, 0.3 to 1; three quarters where a programme decided nothing
            (common practice, no source). Never on the bottom itself.

    Raises:
        CoreError: ``mass_not_positive``, ``weight_unknown``, ``depth_out_of_range`` and as ``pressure_pa``.
    """
    if not 0 < mass_g <= 1_000_000:
        raise CoreError("mass_not_positive", f"Expected a fish of more than 0 g; got {mass_g:g} g.", "mass_g")
    if weight not in WEIGHT_DENSITY:
        raise CoreError("weight_unknown", f"Expected {', '.join(WEIGHT_DENSITY)}; got '{weight}'.", "weight")
    if pull_m is not None and not 0.1 <= pull_m <= 5:
        raise CoreError("pull_out_of_range", f"Expected a pull of 0.1 to 5 m; got {pull_m:g} m.", "pull_m")
    bottom = depth_m if bottom_m is None else finite(bottom_m, "bottom_m")
    finite(legal_minimum_g, "legal_minimum_g", 0)
    if not bottom > 0:
        raise CoreError("depth_out_of_range", f"Expected water of more than 0 m; got {bottom:g} m.", "bottom_m")
    at_depth = pressure_pa(depth_m, water, altitude_m)
    share = 0.0 if not swim_bladder else GAS_SHARE[water] if gas_share is None else gas_share
    gas_m3 = mass_g / 1000 / DENSITY[water] * share
    lift = DENSITY[water] * GRAVITY * gas_m3 * (expansion(depth_m, water, altitude_m) - 1)
    margin = 2.0 if strong_current else 1.5
    needed = lift / GRAVITY / (1 - DENSITY[water] / WEIGHT_DENSITY[weight]) * margin * 1000
    if not 0.3 <= let_go_share <= 1:
        raise CoreError(
            "share_out_of_range", f"Expected a share of the depth from 0.3 to 1; got {let_go_share:g}.", "let_go_share"
        )
    release = min(let_go_share * depth_m, 0.95 * bottom)

    def excess(depth: float) -> float:
        return 0.0 if not swim_bladder else at_depth / pressure_pa(depth, water, altitude_m) - 1

    lets_go = max((each for each in lets_go_at_m if each < bottom and each <= depth_m), default=None)
    notes = []
    if excess(release) > 0.5:
        notes.append(
            f"At {release:.0f} m it still has {excess(release):.0%} more gas than it is neutral with: the water here is too "
            "shallow for this fish. Go back to deeper water if you can."
        )
    if lets_go_at_m and lets_go is None:
        notes.append("No device lets go above this bottom and this depth; use a cage or a hook that is tugged off.")
    elif lets_go is not None and excess(lets_go) > 0.5:
        notes.append(f"The device that lets go at {lets_go:.0f} m leaves it {excess(lets_go):.0%} gas too much.")
    if not swim_bladder:
        notes.append(
            "It has no swim bladder and no gas to be rid of: it swims down by itself when it is let go gently."
        )
    if strong_current:
        notes.append("Strong current drifts a light weight off: crews take 1.4 to 1.8 kg (common practice, no source).")
    return DescentPlan(
        release, excess(release), lift, max(needed, legal_minimum_g), lets_go,
        None if lets_go is None else excess(lets_go),
        None if pull_m is None else math.ceil(release / pull_m - 1e-9), 120.0, 300.0, tuple(notes),
    )  # fmt: skip


@dataclass(frozen=True)
class Device:
    """A way to send fish down, with why it fits or does not; ``fits`` the best first."""

    code: str
    name: str
    fits: bool
    reasons: tuple[str, ...]


def choose_device(
    mass_g: float,
    n_fish: int,
    rough: bool,
    firm_bottom: bool,
    depth_m: float,
    predators: bool = False,
    lets_go_at_m: Sequence[float] = (),
) -> tuple[Device, ...]:
    """Devices, those that fit first, each with reasons (common practice, no source).

    Args:
        mass_g: mass of the fish, g.
        n_fish: fish that go down together.
        rough: the water is rough.
        firm_bottom: a device can stand on the bottom.
        depth_m: below the surface, m.
        predators: predators wait below.
        lets_go_at_m: depths at which devices of the crew let go by pressure, m.

    Raises:
        CoreError: ``mass_not_positive``, ``count_out_of_range``.
    """
    if not mass_g > 0 or n_fish < 1:
        raise CoreError("count_out_of_range", "Expected at least one fish of more than 0 g.", "n_fish")
    large, several = mass_g > 3000, n_fish > 2
    deepest = max((each for each in lets_go_at_m if each <= depth_m), default=None)
    judged = [
        (
            "cage", "Weighted inverted crate or cage",
            [(not large, "for fish up to about 3 kg"), (not rough, "needs a calm sea"),
             (True, "takes several at once") if several else (True, "guards against predators")],
        ),
        (
            "hook", "Inverted barbless hook through the jaw membrane",
            [(not predators, "leaves the fish unguarded" if predators else "where no predator waits"), (True, "simple and cheap; holds more than one fish if the trace is long enough")],
        ),
        (
            "bottom-clamp", "Lip clamp that opens on the bottom",
            [(firm_bottom, "needs firm bottom"), (not rough, "rough sea springs it"), (not several, "one fish at a time")],
        ),
        (
            "tug-clamp", "Lip clamp opened by a tug",
            [(not several, "one fish at a time"), (depth_m <= 60, "a tug is felt to about 60 m"), (True, "any bottom")],
        ),
        (
            "pressure-clamp", "Pressure-triggered clamp",
            [(deepest is not None,
              f"lets go at {deepest:g} m" if deepest is not None
              else f"none lets go above {min(lets_go_at_m):g} m" if lets_go_at_m else "no depth is entered at which one lets go"),
             (not several, "one fish at a time"), (True, "large fish, any bottom")],
        ),
    ]  # fmt: skip
    found = []
    for code, name, reasons in judged:
        fits = all(good for good, _ in reasons)
        found.append(Device(code, name, fits, tuple(why for good, why in reasons if good is fits)))
    return tuple(sorted(found, key=lambda device: not device.fits))
