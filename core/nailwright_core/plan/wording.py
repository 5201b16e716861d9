"""Sentences of a plan, as the deck, the screen and the printed sheet say them."""

from __future__ import annotations

from collections.abc import Sequence

from nailwright_core.deck.handling import Limits
from nailwright_core.plan.parts import Angling, Bath, Station
from nailwright_core.protocol.values import Protocol

#: What each station of a crew is called.
STATION_WORDS = {
    "leader": "leader", "pedal": "dead-man switch", "netter": "dip net", "lookout": "look-out", "driver": "helm",
    "measurer": "measuring", "recorder": "recording", "tagger": "tagging", "shore": "ashore, knows when we are back",
}  # fmt: skip
NOBODY_AT_SWITCH = "Stations are given and nobody stands at the dead-man switch."
ALONE = "An electrofishing outing never goes with fewer than two people. Name the crew."
ELECTRIC_CAUTION = (
    "Electricity and water kill. This guides trained people; local code, permit and the licensed leader decide. Never alone; "
    "dead-man switch manned; stop for people, animals, thunder, rain, a leak."
)


def limits_lines(limits: Limits) -> list[str]:
    """Limits for fish in hand.

    Args:
        limits: for fish in hand.
    """
    return [
        f"Live well: at most {limits.well_fish} large fish or {limits.well_g_l:g} g/L, oxygen {limits.well_oxygen_mg_l:g} mg/L "
        f"or more, within {limits.well_degrees:g} °C of the water, {limits.well_minutes:g} min.",
        f"Out of water: goal under {limits.air_goal_s:g} s, never over {limits.air_alarm_s:g} s at a time.",
        f"Bath: still within {limits.induction_goal_s / 60:g} min; {limits.induction_alarm_s / 60:g} min means a wrong dose.",
        f"Recovery: upright within {limits.recovery_goal_s / 60:g} min; look at the fish at {limits.recovery_warn_s / 60:g}.",
    ]


def angling_lines(angling: Angling) -> list[str]:
    """How a bout with rods is fished, and the rules as they were entered.

    Args:
        angling: that part of a plan.
    """
    lines = [
        f"{angling.bouts} bouts of {angling.bout_min:g} min with {angling.rods} rods in each zone.",
        f"Feed every {angling.feed_first_min:g} min for {angling.feed_first_for_min:g} min, then every "
        f"{angling.feed_then_min:g}, within {angling.circle_m:g} m of one mark.",
    ]
    if angling.line_kg is not None:
        lines.append(tension_line(angling.line_kg, angling.leader_kg))
    return [*lines, f"{angling.rules} The law decides."] if angling.rules else lines


def tension_line(line_kg: float, leader_kg: float | None = None) -> str:
    """How much a reel may hold before it gives line: a quarter to a third of the weakest part (common practice, no source).

    Args:
        line_kg: breaking strength of the main line, kg.
        leader_kg: of the leader, kg.
    """
    weakest = min(line_kg, leader_kg or line_kg)
    words = (
        f"Drag gives line at {weakest / 4:.1f} to {weakest / 3:.1f} kg, measured with a balance before the first cast."
    )
    if leader_kg and leader_kg >= line_kg:
        words += " The leader is no weaker than the line: a fish that breaks off trails the main line."
    return words


def deep_line(ways: str, device_aboard: bool = False) -> str:
    """What the protocol allows for fish from depth.

    Args:
        ways: ways that the protocol allows, in words.
        device_aboard: a descending device is required aboard.
    """
    aboard = " A descending device is required aboard." if device_aboard else ""
    return f"Fish from depth: {ways}.{aboard} Law and the trained person decide."


def precision_line(protocol: Protocol) -> str:
    """To what lengths and masses are read.

    Args:
        protocol: of the programme.
    """
    to = protocol.one("precision")
    return f"Lengths are read to {to['length_mm']:g} mm, masses to {to['mass_g']:g} g."


def bath_line(bath: Bath, agent: str, litres: float, stock_ml: float) -> str:
    """The recipe of a bath.

    Args:
        bath: that part of a plan.
        agent: name of the anaesthetic.
        litres: volume of the bath, L.
        stock_ml: of the stock solution, mL.
    """
    return (
        f"Bath of {litres:.0f} L to {bath.purpose}: {stock_ml:.1f} mL of {agent}, {stock_ml / bath.cap_ml:.1f} of the crew's "
        f"measure, gives {bath.target_mg_l:g} mg/L."
    )


def keep_clear_line(name: str, start_m: float, end_m: float) -> str:
    """A stretch that no crew works.

    Args:
        name: of the stretch.
        start_m: metres from the mouth.
        end_m: metres from the mouth.
    """
    return f"Keep clear of {name}: km {start_m / 1000:.2f} to {end_m / 1000:.2f}."


def permit_line(name: str, first: object, last: object, day: object) -> str:
    """A permit that does not cover the day.

    Args:
        name: of the permit.
        first: first day on which it is valid.
        last: last day on which it is valid.
        day: of the outing.
    """
    return f"The permit '{name}' is valid {first} to {last}, not on {day}."


def certificate_line(holder: str, name: str, last: object) -> str:
    """A certificate that has expired.

    Args:
        holder: whose it is.
        name: of the certificate.
        last: last day on which it is valid.
    """
    return f"{holder}'s certificate '{name}' expired on {last}."


def season_line(name: str, first_day: str, last_day: str) -> str:
    """A rule that closes the water.

    Args:
        name: of the rule.
        first_day: from which the water is closed.
        last_day: until which the water is closed.
    """
    return f"The rule '{name}' closes the water from {first_day} to {last_day}."


NOBODY_QUALIFIED = (
    "Nobody of the crew has a valid certificate for this gear: each certificate says for which gears it is."
)


def stations_line(stations: Sequence[Station]) -> str:
    """Who stands where, in the order of the stations.

    Args:
        stations: of the plan.
    """
    at = {code: [each.person for each in stations if each.station == code] for code in STATION_WORDS}
    told = [f"{STATION_WORDS[code]} {', '.join(names)}" for code, names in at.items() if names]
    return f"Stations: {'; '.join(told)}."


def beyond_line(numbers: list[int]) -> str:
    """Sites that a shorter line left behind.

    Args:
        numbers: of the sites.
    """
    return f"Sites beyond the end of the line: {', '.join(map(str, numbers))}. Lay the sites out anew."
