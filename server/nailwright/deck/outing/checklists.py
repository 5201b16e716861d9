"""Checklists, each with its version; what is signed is kept with the words that stood there.

Common practice, no source: local law, permit, protocol and the trained leader decide.
"""

from __future__ import annotations

from dataclasses import dataclass

from nailwright.deck.models.gears import Gear


@dataclass(frozen=True)
class Checklist:
    """A list to be read aloud and signed by name."""

    code: str
    version: int
    title: str
    lines: tuple[str, ...]
    note: str = ""


CHECKLISTS = {
    each.code: each
    for each in (
        Checklist(
            "electrofishing", 1, "Electrofishing",
            (
                "Nobody works alone; two of us can do CPR.",
                "One person stands at the dead-man switch and stops at any word.",
                "Lineman's gloves, dry rubber boots or waders, no hand in the water with current on.",
                "Dropper, cable and switch looked at; the switch tried before fish are.",
                "Stop for people or animals within 30 m, thunder, heavy rain, a leak.",
                "Start low, raise until fish are drawn and recover quickly, and stop raising.",
            ),
        ),
        Checklist(
            "boat", 1, "Boat",
            (
                "Life jackets worn by all; weight within the boat's plate.",
                "Fuel, fire extinguisher, bilge, light, radio or telephone tried.",
                "Engine and generator off to refuel; hearing protection by the generator.",
                "Somebody ashore knows where we go and when we are back.",
            ),
        ),
        Checklist(
            "night", 1, "Night work",
            ("Head lamps and spares; the route was driven by daylight.", "Nobody walks the bow rail; a count of heads each hour."),
        ),
        Checklist(
            "dam", 1, "Near a dam",
            (
                "The operator was telephoned: name, time and gates are noted below.",
                "Nobody enters the boil; the stand-off on the map is kept.",
                "On the siren or rising water we leave at once, along the way agreed.",
            ),
            "Operator's name, time of the call, gates",
        ),
        Checklist(
            "deep_water", 1, "Fish from deep water",
            ("Descending gear rigged before the first line goes down.", "Goal two minutes from deck to going down, limit five.",
             "Needles only in trained hands, where law allows."),
        ),
        Checklist(
            "needles_drugs", 1, "Needles and drugs",
            ("Gloves and eye protection; stock labelled with strength and date.", "Needles into the sharps box, never recapped.",
             "The person licensed for the agent is here; withdrawal times are known."),
        ),
        Checklist(
            "surgery", 1, "Surgery",
            ("Protocol number and surgeon named; instruments sterile.", "Tag activated, heard and written down before the first cut.",
             "Bath strength read; recovery tank ready with oxygen."),
            "Protocol number, surgeon",
        ),
        Checklist(
            "ice", 1, "On the ice",
            (
                "Ice drilled and measured on the way out, again where it changes; nobody walks alone.",
                "Ice picks and a throw line on each; dry clothes in the vehicle; somebody ashore knows where we are.",
                "Nobody near inlets, springs, current or a dam. The person who knows this ice decides.",
            ),
            "Thickness read, place",
        ),
        Checklist(
            "lifting", 2, "Lifting and handling fish",
            (
                "Large fish in a sling, two to lift, belly supported.",
                "Nets of soft mesh, emptied after each fish; wet hands, no towel.",
                "Hooks are off the line or covered before a fish is turned in the hands.",
                "Batteries and generator: two to lift, backs straight, path clear.",
            ),
        ),
    )
}  # fmt: skip
CODES = tuple(CHECKLISTS)
_BY_GEAR = {
    Gear.BOAT: ("electrofishing", "boat", "night", "lifting"),
    Gear.BACKPACK: ("electrofishing",),
    Gear.TOW_BARGE: ("electrofishing",),
    Gear.SHORE: ("electrofishing",),
    Gear.ANGLING: ("boat",),
    Gear.GILL_NET: ("boat",),
    Gear.TRAP_NET: ("boat",),
    Gear.FYKE_NET: ("boat",),
    Gear.TRAWL: ("boat", "lifting"),
    Gear.SEINE: ("lifting",),
    Gear.ICE: ("ice",),
}


def needed_for(*gears: str, near_dam: bool = False, bath: bool = False, surgery: bool = False) -> tuple[str, ...]:
    """Checklists that an outing asks for by its gears, each once."""
    extra = [code for code, wanted in (("dam", near_dam), ("needles_drugs", bath), ("surgery", surgery)) if wanted]
    return tuple(dict.fromkeys((*(code for gear in gears for code in _BY_GEAR[Gear(gear)]), *extra)))
