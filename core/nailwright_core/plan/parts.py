"""The parts of a plan: each a frozen set of choices with its defaults and bounds, changed field by field.

Bounds are wide where another rule of core, which knows the trade, refuses with better words; they cut off what is no figure.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, TypeVar

from nailwright_core.common.errors import CoreError
from nailwright_core.common.field import UNBOUNDED, Field, read_value
from nailwright_core.deck.angling import Feeding
from nailwright_core.deck.handling import AGENTS, PURPOSES, Limits
from nailwright_core.plan.effort import LAYOUTS
from nailwright_core.plan.tag_choice import KINDS

#: How a tank's volume is told.
SHAPES = ("litres", "box", "cylinder", "half_barrel")
READINGS = ("ambient", "specific")
TAG_KINDS = tuple(kind.code for kind in KINDS)
#: Where somebody stands in a boat or a wading crew.
STATIONS = ("leader", "pedal", "netter", "lookout", "driver", "measurer", "recorder", "tagger", "shore")
_SEED = 2**31 - 1


def _number(
    default: float | None, low: float, high: float, unit: str = "", note: str = "", optional: bool = False
) -> Any:
    return _field(default, Field("", "", "number", unit, low, high, needed=not optional, nullable=optional, note=note))


def _whole(default: int | None, low: int, high: int, note: str = "", optional: bool = False) -> Any:
    return _field(default, Field("", "", "whole", "", low, high, needed=not optional, nullable=optional, note=note))


def _choice(default: str, choices: tuple[str, ...]) -> Any:
    return _field(default, Field("", "", "choice", choices=tuple((each, each) for each in choices), needed=True))


def _text(longest: int, default: str | None = "", note: str = "", optional: bool = False) -> Any:
    return _field(default, Field("", "", "text", longest=longest, nullable=optional, note=note))


def _field(default: Any, declared: Field) -> Any:
    return field(default=default, metadata={"field": declared})


def fields_of(part: Any) -> dict[str, Field]:
    """The fields of a part, or of a kind of part, by name.

    Args:
        part: a part, or a kind of part.
    """
    return {
        each.name: dataclasses.replace(each.metadata["field"], name=each.name, title=each.name)
        for each in dataclasses.fields(part)
    }


@dataclass(frozen=True)
class Layout:
    """How sites are laid along the reach."""

    layout: str = _choice("systematic", LAYOUTS)
    from_km: float = _number(0.0, 0, 3000, "km")
    to_km: float | None = _number(None, 0, 3000, "km", "The end of the line where it is empty", optional=True)
    site_length_m: float = _number(1000.0, 1, 100_000, "m")
    gap_m: float = _number(5000.0, 0, 1_000_000, "m")
    n: int | None = _whole(None, 1, 2000, "How many sites; as many as fit where it is empty", optional=True)
    seed: int = _whole(1, 0, _SEED)


@dataclass(frozen=True)
class Electro:
    """What the current is to be, and the water it was reckoned for."""

    unit: str | None = _text(36, None, "Key of the control box", optional=True)
    goal_w: float = _number(3000.0, 1, 100_000, "W", "Power in matched water")
    pulse_hz: float = _number(30.0, 1, 1000, "Hz")
    pulse_width_ms: float = _number(4.0, 0.05, 100, "ms")
    conductivity: float = _number(180.0, -UNBOUNDED, UNBOUNDED, "µS/cm", "As it was read")
    read_as: str = _choice("ambient", READINGS)
    temperature_c: float = _number(10.0, -UNBOUNDED, UNBOUNDED, "°C")
    limits: str = _text(60, note="Name of a set of limits; none where it is empty")
    anode_radius_cm: float = _number(15.0, 1, 200, "cm")


@dataclass(frozen=True)
class Bath:
    """The bath that fish are calmed in."""

    agent: str = _choice("", ("", *AGENTS))
    purpose: str = _choice("measure", PURPOSES)
    target_mg_l: float = _number(30.0, -UNBOUNDED, UNBOUNDED, "mg/L")
    shape: str = _choice("box", SHAPES)
    a_cm: float = _number(60.0, -UNBOUNDED, UNBOUNDED, "cm", "Length or diameter; litres where the shape is litres")
    b_cm: float = _number(40.0, -UNBOUNDED, UNBOUNDED, "cm", "Width, or length of a half barrel")
    fill_cm: float = _number(25.0, -UNBOUNDED, UNBOUNDED, "cm")
    refills: int = _whole(3, 1, 50)
    cap_ml: float = _number(5.0, 0.1, 1000, "mL", "What the crew's own measure holds")
    trial_fish: int = _whole(0, 0, 50, "Fish of a trial before others go in; none where it is 0")


def _limit(default: float, unit: str) -> Any:
    return _number(default, 0.1, 100_000, unit)


_LIMITS = Limits()


@dataclass(frozen=True)
class HandLimits:
    """Limits for fish in hand, and the live well that they hold for."""

    well_l: float = _limit(250.0, "L")
    well_fish: int = _whole(_LIMITS.well_fish, 1, 10_000)
    well_g_l: float = _limit(_LIMITS.well_g_l, "g/L")
    well_minutes: float = _limit(_LIMITS.well_minutes, "min")
    well_oxygen_mg_l: float = _limit(_LIMITS.well_oxygen_mg_l, "mg/L")
    well_degrees: float = _limit(_LIMITS.well_degrees, "°C")
    air_goal_s: float = _limit(_LIMITS.air_goal_s, "s")
    air_warn_s: float = _limit(_LIMITS.air_warn_s, "s")
    air_alarm_s: float = _limit(_LIMITS.air_alarm_s, "s")
    induction_goal_s: float = _limit(_LIMITS.induction_goal_s, "s")
    induction_warn_s: float = _limit(_LIMITS.induction_warn_s, "s")
    induction_alarm_s: float = _limit(_LIMITS.induction_alarm_s, "s")
    recovery_goal_s: float = _limit(_LIMITS.recovery_goal_s, "s")
    recovery_warn_s: float = _limit(_LIMITS.recovery_warn_s, "s")

    def limits(self) -> Limits:
        """Them without the live well's size, as the deck's rules take them."""
        return Limits(**{each.name: getattr(self, each.name) for each in dataclasses.fields(Limits)})

    def check(self) -> None:
        """Raises CoreError ``limits_out_of_order``."""
        self.limits().check()


@dataclass(frozen=True)
class Tags:
    """Which tags go along, for which fish and question."""

    kind: str = _choice("", ("", *TAG_KINDS))
    n: int = _whole(0, 0, 100_000)
    mass_g: float = _number(0.1, 0.01, 5000, "g")
    fish_mm: float = _number(300.0, 1, 20_000, "mm", "The smallest fish that shall carry one")
    burden: float = _number(0.02, 0.001, 0.12)
    double: float = _number(0.0, 0, 1)
    high_reward: float = _number(0.0, 0, 1)
    seed: int = _whole(1, 0, _SEED)
    question: str = _text(20, "abundance")
    years: float = _number(2.0, 0.1, 60, "years")
    budget: float = _number(2000.0, 0, 1e9)
    capacity_mah: float = _number(140.0, 1, 1e6, "mAh")
    sleep_ua: float = _number(2.0, 0, 1e5, "uA")
    pulse_mas: float = _number(6.0, 0.01, 1e5, "mA s")
    interval_s: float = _number(120.0, 1, 1e5, "s")
    burst_s: float = _number(3.3, 0.01, 60, "s")
    in_reach: int = _whole(10, 1, 5000)


@dataclass(frozen=True)
class DeepWater:
    """What this crew has for sending fish down again."""

    lets_go_m: float | None = _number(None, 1, 500, "m", "Where its device lets go", optional=True)
    lets_go_second_m: float | None = _number(None, 1, 500, "m", optional=True)
    lets_go_third_m: float | None = _number(None, 1, 500, "m", optional=True)
    pull_m: float | None = _number(None, 0.1, 5, "m", "One pull of line, measured once", optional=True)

    def depths_m(self) -> tuple[float, ...]:
        """Depths at which a device lets go, the shallowest first."""
        given = (self.lets_go_m, self.lets_go_second_m, self.lets_go_third_m)
        return tuple(sorted(each for each in given if each is not None))


_FEEDING = Feeding()


@dataclass(frozen=True)
class Angling:
    """How a bout with rods is fished."""

    rods: int = _whole(2, 1, 50)
    bouts: int = _whole(3, 1, 50)
    bout_min: float = _number(90.0, 5, 1440, "min")
    feed_first_min: float = _number(
        _FEEDING.first_s / 60, 1, 120, "min", "Minutes between casts of feed at the start of a session"
    )
    feed_then_min: float = _number(_FEEDING.later_s / 60, 1, 240, "min", "and after the bed is built")
    feed_first_for_min: float = _number(_FEEDING.first_for_s / 60, 0, 240, "min")
    circle_m: float = _number(2.0, 0.5, 50, "m")
    line_kg: float | None = _number(None, 0.1, 200, "kg", "Breaking strength of the main line", optional=True)
    leader_kg: float | None = _number(None, 0.1, 200, "kg", "Breaking strength of the leader", optional=True)
    rules: str = _text(500, note="Licence, season, bag and size rules, as text")

    def feeding(self) -> Feeding:
        """How often a spot is fed, as the deck's timer takes it."""
        return Feeding(self.feed_first_min * 60, self.feed_first_for_min * 60, self.feed_then_min * 60)


@dataclass(frozen=True)
class Precision:
    """How sure the answers are to be; the deck says when that is reached."""

    psd_half: float = _number(8.0, 1, 49, "points", "PSD to within so many, either way")
    cv: float = _number(0.2, 0.001, 1, "", "Of the mean catch rate over sites")


@dataclass(frozen=True)
class Emergency:
    """Where help finds the crew, and whom to call."""

    position: str = _text(120)
    access: str = _text(300)
    numbers: str = _text(300)


@dataclass(frozen=True)
class Partners:
    """For whom it is done, and with whom."""

    client: str = _text(120, note="Who asked for the survey")
    reference: str = _text(80, note="Contract or project number")
    partners: str = _text(300, note="Agencies, clubs and landowners who take part or give access")


@dataclass(frozen=True)
class Station:
    """Where somebody of the crew stands."""

    person: str = _text(80)
    station: str = _choice("netter", STATIONS)

    def check(self) -> None:
        """Raises CoreError ``person_missing``."""
        if not self.person.strip():
            raise CoreError("person_missing", "Expected the name of the person at this station; got none.", "person")


@dataclass(frozen=True)
class Shift:
    """A visit and all after it, or that visit alone, moved by some days; kept with its reason."""

    visit: int = _whole(1, 1, 60, "Counted from 1")
    days: int = _whole(1, -60, 60, "Later; earlier where it is negative")
    alone: str = _choice("no", ("no", "yes"))
    reason: str = _text(120, note="Such as high water")

    def check(self) -> None:
        """Raises CoreError ``shift_empty``, ``reason_missing``."""
        if self.days == 0:
            raise CoreError("shift_empty", "Expected at least one day, later or earlier; got 0.", "days")
        if len(self.reason.strip()) < 3:
            raise CoreError("reason_missing", "Say in a few words why, such as 'high water'.", "reason")


@dataclass(frozen=True)
class Target:
    """So many fish of a species measured or marked, in a zone and a month or any."""

    species: str = _text(8)
    what: str = _choice("measured", ("measured", "marked"))
    wanted: int = _whole(1, 1, 1_000_000)
    from_mm: float | None = _number(None, 1, 20_000, "mm", optional=True)
    zone: str = _text(60, note="One of the water's zones, or any")
    month: int | None = _whole(None, 1, 12, optional=True)

    def check(self) -> None:
        """Raises CoreError ``species_missing``."""
        if not self.species:
            raise CoreError("species_missing", "Expected the species that the target is for; got none.", "species")


#: The parts that are sets of choices, by the name under which a plan keeps them.
PARTS: Mapping[str, type[Any]] = {
    "layout": Layout,
    "electro": Electro,
    "bath": Bath,
    "limits": HandLimits,
    "tags": Tags,
    "deep": DeepWater,
    "angling": Angling,
    "precision": Precision,
    "emergency": Emergency,
    "partners": Partners,
}

#: The parts that are lists, by the name under which a plan keeps them.
LISTS: Mapping[str, type[Any]] = {"targets": Target, "stations": Station, "shifts": Shift}


@dataclass(frozen=True)
class Parts:
    """All choices of a plan. ``pilot`` is the selection of past data it starts from, where one was chosen."""

    layout: Layout = Layout()
    electro: Electro = Electro()
    bath: Bath = Bath()
    limits: HandLimits = HandLimits()
    tags: Tags = Tags()
    deep: DeepWater = DeepWater()
    angling: Angling = Angling()
    precision: Precision = Precision()
    emergency: Emergency = Emergency()
    partners: Partners = Partners()
    targets: tuple[Target, ...] = ()
    stations: tuple[Station, ...] = ()
    shifts: tuple[Shift, ...] = ()
    crew: tuple[str, ...] = ()
    checklists: tuple[str, ...] = ()
    pilot: Mapping[str, Any] | None = None


P = TypeVar("P")


def change(part: P, values: Mapping[str, Any], name: str = "") -> P:
    """A part with some of its fields set, each held against its field; the others stay.

    Args:
        name: the part's, for the field of an error ("electro" gives "electro.goal_w").

    Raises:
        CoreError: ``field_unknown``, ``value_missing``, as ``field.read_value``, and as the part's own check.
    """
    known = fields_of(part)
    read = {}
    for key, value in values.items():
        where = f"{name}.{key}" if name else key
        if key not in known:
            raise CoreError("field_unknown", f"Expected one of {', '.join(known)}; got '{key[:40]}'.", where)
        if value is None and not known[key].nullable:
            raise CoreError("value_missing", f"{key}: expected a value; got none.", where)
        read[key] = read_value(known[key], value, where)
    made = dataclasses.replace(part, **read)  # type: ignore[type-var]
    check = getattr(made, "check", None)
    if check is not None:
        try:
            check()
        except CoreError as refused:
            raise CoreError(
                refused.code, refused.message, f"{name}.{refused.field}" if name else refused.field
            ) from refused
    return made


def parts_from(kept: Mapping[str, Any]) -> Parts:
    """The parts of a plan as they were kept; what was never set, or is not known any more, has its default.

    Args:
        kept: parts by their names, as they were kept.
    """
    found: dict[str, Any] = {name: _part_from(kind, kept.get(name) or {}) for name, kind in PARTS.items()}
    lists: dict[str, Any] = {
        name: tuple(_part_from(kind, each) for each in kept.get(name, ())) for name, kind in LISTS.items()
    }
    return Parts(
        **found,
        **lists,
        crew=tuple(kept.get("crew", ())),
        checklists=tuple(kept.get("checklists", ())),
        pilot=kept.get("pilot"),
    )


def _part_from(kind: type[Any], kept: Mapping[str, Any]) -> Any:
    names = {each.name for each in dataclasses.fields(kind)}
    return kind(**{name: value for name, value in kept.items() if name in names})
