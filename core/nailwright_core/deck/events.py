"""What is said of a fish, a bath or a run between net and release: each kind of event with its fields.

Lanes, clocks, strengths of baths and orders of treatment are derived from the events, so that two tablets and late entries
agree. Words are common practice, no source; stages of anaesthesia: Summerfelt and Smith (1990), from memory; reflexes: Davis
(2010). A field that has a ``section`` takes its codes from that section of the outing's protocol; ``SPECIES`` from the programme's
species.
"""

from __future__ import annotations

from collections.abc import Callable, Container, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from nailwright_core.common.errors import CoreError
from nailwright_core.common.field import Cell, Field, read_value
from nailwright_core.deck.handling import reflex_score

Details = dict[str, Cell | list[str]]
Codes = Callable[[str], Container[str]]
#: In a section's place: codes of the programme's species.
SPECIES = "species"


@dataclass(frozen=True)
class EventField:
    """One thing that an event says: a field; codes of a ``section`` of the protocol; ``many`` codes at once, as a list."""

    field: Field
    section: str = ""
    many: bool = False


@dataclass(frozen=True)
class EventKind:
    """One kind of event.

    Attributes:
        about: what it is said of.
        group: where a screen shows it; kinds of a group stand together.
        once: a later one of the same fish takes the place of the one before (how ripe it is); else each counts (a scrape).
        bare: it says something with no field said; a kind of which nothing has to be said does else not.
    """

    code: str
    title: str
    about: Literal["fish", "bath", "run", "outing"]
    group: str
    fields: tuple[EventField, ...]
    once: bool = False
    bare: bool = False


def _choice(name: str, title: str, *choices: str, needed: bool = True) -> EventField:
    pairs = tuple((each.partition(":")[0], each.partition(":")[2] or each) for each in choices)
    return EventField(Field(name, title, "choice", choices=pairs, needed=needed))


def _of(name: str, title: str, section: str, many: bool = False, needed: bool = True) -> EventField:
    return EventField(Field(name, title, "text", longest=20, needed=needed), section, many)


def _figure(
    name: str, title: str, unit: str, low: float, high: float, needed: bool = False, whole: bool = False
) -> EventField:
    return EventField(Field(name, title, "whole" if whole else "number", unit, low, high, needed=needed))


def _text(name: str, title: str, longest: int = 80, needed: bool = False) -> EventField:
    return EventField(Field(name, title, "text", longest=longest, needed=needed))


_YES = ("yes", "no")
_PARTS = ("head", "mouth", "eye", "gills", "left:left side", "right:right side", "belly", "fins", "tail")
EVIDENCE = ("pressure:eggs or milt on light pressure", "external:external signs", "ultrasound", "endoscope", "blood", "dissection")  # fmt: skip
MAX_STAGE = 6
_STAGES = (
    "0:0 normal", "1:1 light sedation", "2:2 deep sedation", "3:3 loses part of its balance", "4:4 loses its balance",
    "5:5 loses reflexes", "6:6 gills stop: flush at once",
)  # fmt: skip
_DEVICES = ("cage:inverted crate or cage", "hook:inverted barbless hook", "bottom-clamp:clamp that opens on the bottom",
            "tug-clamp:clamp opened by a tug", "pressure-clamp:pressure-triggered clamp")  # fmt: skip

_MOVING = (
    EventKind("lane", "Moved on", "fish", "lanes", (
        _of("lane", "To", "lanes"), _figure("held_min", "Held before it was ours", "min", 0, 20_000))),
    EventKind("air", "Air", "fish", "lanes", (_choice("where", "It is", "out:out of water", "in:back in water"),)),
    EventKind("mass_waits", "Waits for its mass", "fish", "lanes", (_choice("waits", "Waits", *_YES),), once=True),
    EventKind("stage", "Stage of anaesthesia", "fish", "bath", (_choice("stage", "Stage", *_STAGES),)),
    EventKind("gills", "Gill beats and colour", "fish", "bath", (
        _figure("beats", "Beats", "1/min", 0, 300, needed=True, whole=True),
        _choice("colour", "Gills are", "red", "pale", "dark", "blotched", needed=False))),
    EventKind("posture", "Posture in the bath", "fish", "bath", (
        _choice("posture", "Posture", "upright", "leaning", "side:on its side", "belly:belly up"),)),
)  # fmt: skip
_ARRIVAL = (
    EventKind("found", "Injuries", "fish", "arrival", (
        _choice("what", "What", "scrape", "brand:brand (dark bar)", "scar", "fin:fin damage", "parasites", "sore", "bleeding",
                "deformity", "hook-wound:hook wound", "wrapped:tail-wrapped"),
        _choice("part", "Where", *_PARTS, needed=False),
        _choice("degree", "How much", "slight", "marked", "heavy", needed=False),
        _choice("seen", "Seen", "arrival:on arrival", "release:at release", needed=False))),
    EventKind("lifted", "Lifted with", "fish", "lanes", (
        _choice("with", "With", "sling", "rubber:rubber net", "knotless:knotless net", "hands:wet hands", "cradle", "jaw:lip grip"),), once=True),
    EventKind("hook", "Hook", "fish", "arrival", (
        _choice("site", "Where it sat", "jaw", "mouth:inside the mouth", "tongue", "gills", "deep:deep in the throat", "foul:outside the mouth"),
        _choice("outcome", "Now it is", "out", "left:left in", "cut:left in, line cut short"),
        _choice("kind", "Kind", "single", "circle", "treble", "barbless", needed=False)), once=True),
    EventKind("maturity", "Maturity", "fish", "arrival", (
        _of("stage", "It is", "maturity"), _choice("evidence", "Seen by", *EVIDENCE, needed=False)), once=True),
    EventKind("age", "Age", "fish", "samples", (
        _figure("years", "Completed years", "", 0, 200, needed=True, whole=True),
        _choice("basis", "Read from", "scale", "otolith", "ray:fin ray", "spine", "length", "known:known age"),
        _text("reader", "Read by", 60)), once=True),
    EventKind("other_measure", "Second measurement", "fish", "samples", (
        _figure("length_mm", "Length", "mm", 1, 20_000), _figure("mass_g", "Weight", "g", 0.01, 2_000_000),
        _choice("with", "Measured with", "board", "tape", "balance", "hand:board held by hand", needed=False),
        _choice("counts", "In the record stands", "first:the other one", "this:this one", needed=False))),
    EventKind("measure", "Further measure", "fish", "samples", (
        _of("what", "What", "extra_measures"), _figure("value", "Figure", "", 0, 100_000, needed=True))),
    EventKind("sample", "Sample", "fish", "samples", (
        _choice("what", "What", "scale", "ray:fin ray", "spine", "otolith", "tissue:tissue (fin clip)", "blood", "stomach"),
        _text("envelope", "Envelope or vial", 40, needed=True))),
    EventKind("weighed", "Weighed together", "fish", "samples", (
        _figure("n", "Fish on the balance", "", 2, 10_000, needed=True, whole=True),
        _figure("mass_g", "All together", "g", 0.1, 1_000_000, needed=True),
        _figure("measured", "Of them measured", "", 0, 10_000, whole=True)), once=True),
    EventKind("hands", "Personnel", "fish", "samples", (
        _text("caught", "Caught by", 60), _text("measured", "Measured by", 60), _text("tagged", "Tagged by", 60)), once=True),
    EventKind("private", "Name or sponsor", "fish", "samples", (_text("name", "Shown to the crew when it is met again", 60, needed=True),), once=True),
)  # fmt: skip
_SURGERY = (
    EventKind("surgery", "Surgery begins", "fish", "surgery", (
        _text("surgeon", "Surgeon", 60, needed=True), _text("monitor", "Watches gills and colour", 60, needed=True),
        _text("licence", "Animal-care protocol or licence", 60, needed=True),
        _figure("version", "Checklist version", "", 1, 1000, needed=True, whole=True))),
    EventKind("step", "Step", "fish", "surgery", (
        _text("step", "Step", 20, needed=True), _choice("done", "It was", "done", "skipped"), _text("why", "Why", 80))),
    EventKind("incision", "Incision", "fish", "surgery", (
        _choice("place", "Where", "left:left of the midline", "right:right of the midline", "midline", "side"),
        _figure("length_mm", "Length", "mm", 1, 200, needed=True),
        _figure("sutures", "Sutures", "", 0, 20, needed=True, whole=True),
        _choice("material", "Material", "absorbable", "monofilament", "braided", "staple", "glue", "none", needed=False),
        _text("remark", "Remark", 120)), once=True),
    EventKind("tag_checked", "Tag checked", "fish", "surgery", (
        _choice("heard", "Heard, read or magnet off", *_YES), _choice("disinfected", "Disinfected", *_YES, needed=False)), once=True),
)  # fmt: skip
_PLACING = (
    EventKind("tag_steps", "Tagging steps", "fish", "tag", (_of("done", "Done", "tagging_steps", many=True),), once=True),
    EventKind("cleaned", "Cleaned", "fish", "tag", (
        _choice("tool", "What", "needle:implanting needle", "applicator", "scalpel", "vent:venting needle"),)),
)  # fmt: skip
_DEPTH = (
    EventKind("depth", "Capture depth", "fish", "depth", (
        _figure("caught_m", "Caught at", "m", 0.5, 500, needed=True), _figure("ascent_s", "Time to the surface", "s", 1, 7200),
        _figure("stops", "Stops", "", 0, 50, whole=True)), once=True),
    EventKind("signs", "Signs", "fish", "depth", (_of("signs", "Signs", "signs", many=True, needed=False),), once=True, bare=True),
    EventKind("vented", "Vented", "fish", "depth", (
        _text("place", "Place", 200, needed=True), _text("needle", "Needle", 60, needed=True), _text("person", "Trained person", 60, needed=True),
        _choice("gas", "Gas seen", "much", "little", "none"),
        _choice("ended", "Stopped as it", "sank:began to sink", "righted:righted itself", "floats:still floats"),
        _choice("cleaned", "Needle cleaned after", *_YES))),
    EventKind("sent_down", "Descended", "fish", "depth", (
        _choice("device", "With", *_DEVICES), _figure("weight_g", "Weight", "g", 0, 50_000), _figure("let_go_m", "Let go at", "m", 0.5, 500),
        _figure("bottom_m", "Bottom", "m", 0.5, 2000), _figure("together", "Fish on the device", "", 1, 50, whole=True))),
    EventKind("device", "How the device worked", "fish", "depth", (
        _choice("worked", "It", "freed:freed the fish at once", "helped:needed help", "failed"),), once=True),
    EventKind("way_down", "Outcome", "fish", "depth", (
        _choice("outcome", "It", "down:swam down", "floated:floated back", "predator:was taken by a predator", "unseen:was not seen"),), once=True),
)  # fmt: skip
_RELEASE = (
    EventKind("reflexes", "Reflexes", "fish", "release", (
        _of("tried", "Tried", "reflexes", many=True), _of("impaired", "Impaired", "reflexes", many=True, needed=False)), once=True),
    EventKind("ready", "Readiness", "fish", "release", (_choice("ready", "It is", "yes:ready", "no:not yet"),), once=True),
    EventKind("swim_help", "Help to swim", "fish", "release", (
        _choice("how", "How", "current:head into the current", "tail:held by the tail, moved gently", "sling:left in the sling to swim out", "none"),
        _figure("minutes", "For", "min", 0, 120))),
    EventKind("let_go", "Where it was let go", "fish", "release", (
        _text("words", "Place", 80), _figure("lat", "Latitude", "°", -90, 90), _figure("lon", "Longitude", "°", -180, 180),
        _figure("within_m", "Within", "m", 0, 50_000), _figure("carried_m", "Carried before release", "m", 0, 500_000)), once=True),
    EventKind("unusual", "Released in another way than usual", "fish", "release", (_text("how", "How", 120, needed=True),), once=True),
    EventKind("never_aboard", "Never brought aboard", "fish", "release", (
        _choice("why", "Why", "rule:by the boarding rule", "lively:too lively", "large:too large", "lost:lost at the boat"),), once=True),
    EventKind("cause", "Cause of death", "fish", "release", (
        _choice("cause", "Most likely", "hook", "current:electric current", "handling", "bath", "surgery", "depth:gas from depth", "predator", "unknown"),
        _text("note", "Seen", 80)), once=True),
    EventKind("trial", "Holding trial", "fish", "release", (
        _text("pen", "Pen", 40, needed=True), _choice("group", "Group", "treatment", "control")), once=True),
)  # fmt: skip

_BATH = _text("bath", "Bath", 30, needed=True)
_BATHS = (
    EventKind("bath_filled", "Filled", "bath", "baths", (
        _BATH, _choice("agent", "Agent", "clove-oil", "tricaine", "none"), _choice("purpose", "For", "calm", "measure", "surgery"),
        _figure("litres", "Litres", "L", 0.1, 5000, needed=True), _figure("kept_l", "Of them left from before", "L", 0, 5000),
        _figure("stock_mg_ml", "Stock", "mg/mL", 0.01, 2000))),
    EventKind("bath_dosed", "Stock added", "bath", "baths", (
        _BATH, _figure("ml", "Stock", "mL", 0.001, 100_000, needed=True),
        _choice("again", "A second dose on purpose", *_YES, needed=False))),
    EventKind("bath_exchanged", "Water exchanged", "bath", "baths", (_BATH, _figure("litres", "Litres", "L", 0.01, 5000, needed=True))),
    EventKind("bath_topped", "Topped up", "bath", "baths", (_BATH, _figure("litres", "Litres", "L", 0.01, 5000, needed=True))),
    EventKind("bath_read", "Read", "bath", "baths", (
        _BATH, _figure("temperature_c", "Temperature", "°C", -2, 40), _figure("oxygen_mg_l", "Oxygen", "mg/L", 0, 40))),
)  # fmt: skip
_OUTING = (
    EventKind("reader_proved", "Reader proved on a known tag", "outing", "tag", (
        _choice("read", "It reads", *_YES), _text("reader", "Reader", 40), _text("number", "Known tag", 24)), once=True),
)  # fmt: skip
_RUNS = (
    EventKind("batch", "Batch into the live well", "run", "run", (
        _figure("n", "Fish", "", 1, 10_000, needed=True, whole=True),
        _figure("held_min", "Held before it was ours", "min", 0, 20_000),
        _figure("mass_kg", "Together, about", "kg", 0.01, 10_000))),
    EventKind("power", "Power read", "run", "electro", (
        _figure("volts", "Volts", "V", 1, 2000, needed=True), _figure("amps", "Amps", "A", 0.1, 100, needed=True))),
    EventKind("response", "Response seen", "run", "electro", (
        _choice("what", "Fish", "escape", "drawn:are drawn to it", "stunned:are stunned", "tetany:are rigid"),)),
    EventKind("seen_left", "Seen and left, by species", "run", "run", (
        _of("species", "Species", SPECIES), _figure("n", "Fish", "", 1, 100_000, needed=True, whole=True))),
    EventKind("habitat", "Bottom and bank", "run", "run", (
        _choice("bottom", "Bottom", "rock", "boulders", "gravel", "sand", "mud", "clay", "weed", "wood", needed=False),
        _choice("bank", "Bank", "rock", "stones", "sand", "grass", "bushes:bushes or trees", "reeds", "wall", needed=False),
        _figure("depth_m", "Depth", "m", 0, 500)), once=True),
    EventKind("interrupted", "Interruption", "run", "run", (
        _choice("what", "The run is", "paused", "resumed", "broken:broken off"), _text("why", "Why", 120, needed=True))),
    EventKind("injury", "Person hurt", "run", "run", (
        _text("what", "What happened", 200, needed=True), _text("aid", "First aid given", 200))),
    EventKind("not_netted", "Seen, not netted", "run", "electro", (_figure("n", "Fish", "", 1, 10_000, needed=True, whole=True),)),
    EventKind("hands_on", "Who does what", "run", "run", (
        _text("measurer", "Measures", 60), _text("recorder", "Writes", 60), _text("surgeon", "Surgeon", 60),
        _text("netters", "Nets", 80), _text("driver", "Drives", 60)), once=True),
    EventKind("anglers", "Who fishes", "run", "rod", (_text("names", "Names, with commas between", 200, needed=True),), once=True),
    EventKind("hooked", "Fish on", "run", "rod", (_text("angler", "On whose rod", 60),), bare=True),
    EventKind("lost", "Lost", "run", "rod", (
        _choice("how", "How", "off:came off", "broke:line broke", "predator:taken by a predator"), _figure("depth_m", "At", "m", 0.5, 500),
        _choice("predators", "Predators seen before", *_YES, needed=False))),
    EventKind("strike", "Strike", "run", "rod", ()),
    EventKind("sonar", "Marks on the sonar", "run", "rod", (_figure("n", "Marks", "", 1, 1000, needed=True, whole=True), _figure("depth_m", "Depth", "m", 0.5, 500))),
    EventKind("fed", "Groundbaiting", "run", "rod", (
        _figure("casts", "Casts", "", 1, 1000, whole=True), _text("bait", "Bait", 60)), bare=True),
    EventKind("rig", "Rig and bait", "run", "rod", (
        _text("rig", "Rig", 60), _text("bait", "Bait", 60), _choice("hook", "Hook", "single", "circle", "treble", "barbless", needed=False),
        _figure("depth_m", "Depth", "m", 0.5, 500), _text("spot", "Marked spot", 60)), once=True),
    EventKind("ascent", "On the way up", "run", "rod", (_choice("what", "Now", "begun", "stop", "surface:at the surface"), _figure("depth_m", "From", "m", 0.5, 500))),
    EventKind("note", "Note", "run", "run", (_text("text", "Note", 200, needed=True),)),
)  # fmt: skip

#: Every kind of event by its code, in the order in which screens show them.
EVENTS: dict[str, EventKind] = {
    each.code: each
    for each in (*_MOVING, *_ARRIVAL, *_SURGERY, *_PLACING, *_DEPTH, *_RELEASE, *_BATHS, *_OUTING, *_RUNS)
}  # fmt: skip


def kind_of(code: Any) -> EventKind:
    """The kind of a code.

    Args:
        code: of the kind.

    Raises:
        CoreError: ``event_unknown``.
    """
    kind = EVENTS.get(code) if isinstance(code, str) else None
    if kind is None:
        raise CoreError("event_unknown", f"Nothing is said as '{str(code)[:30]}' here.", "what")
    return kind


def read_event(kind: EventKind, given: Mapping[str, Any], codes: Codes) -> Details:
    """What an event says, checked; what is empty is left out.

    Args:
        given: its fields by name.
        codes: codes of a section of the protocol.

    Raises:
        CoreError: ``field_unknown``, as ``field.read_value``, ``code_unknown``, and what ``_check`` refuses, each
            with the field.
    """
    names = {each.field.name for each in kind.fields}
    if unknown := next((name for name in given if name not in names), None):
        raise CoreError("field_unknown", f"'{kind.title}' says nothing of '{str(unknown)[:30]}'.", str(unknown)[:30])
    read: Details = {}
    for each in kind.fields:
        name = each.field.name
        value = _many(each, given.get(name)) if each.many else read_value(each.field, given.get(name), name)
        if value in (None, "", []):
            continue
        if each.section:
            for code in value if isinstance(value, list) else [str(value)]:
                if code not in codes(each.section):
                    raise CoreError(
                        "code_unknown",
                        f"{each.field.title}: '{code[:20]}' is none of the protocol's codes for {each.section.replace('_', ' ')}.",
                        name,
                    )
        read[name] = value
    _check(kind, read)
    return read


def _many(field: EventField, given: Any) -> list[str]:
    if given is None:
        given = []
    if not isinstance(given, list) or not all(isinstance(each, str) for each in given) or len(given) > 40:
        raise CoreError("not_a_choice", f"{field.field.title}: expected a list of codes.", field.field.name)
    if not given and field.field.needed:
        raise CoreError("value_missing", f"{field.field.title}: expected at least one.", field.field.name)
    return list(dict.fromkeys(given))


def _check(kind: EventKind, details: Details) -> None:
    """What fields have to be among themselves."""
    if kind.code == "reflexes":
        tried, impaired = details["tried"], details.get("impaired", [])
        assert isinstance(tried, list) and isinstance(impaired, list)
        reflex_score(tried, impaired)
    elif kind.code == "step" and details["done"] == "skipped" and not details.get("why"):
        raise CoreError("reason_missing", "A step that is skipped needs a word on why.", "why")
    elif kind.code == "bath_filled" and _number(details, "kept_l") > _number(details, "litres"):
        raise CoreError("bath_out_of_range", "Expected no more left from before than there are litres now.", "kept_l")
    elif kind.code == "let_go" and ("lat" in details) != ("lon" in details):
        raise CoreError(
            "position_half", "Expected latitude and longitude together.", "lon" if "lat" in details else "lat"
        )
    elif kind.code == "sent_down" and _number(details, "let_go_m") > (_number(details, "bottom_m") or 1e9):
        raise CoreError(
            "deeper_than_bottom",
            f"It lets go at {_number(details, 'let_go_m'):g} m, and the bottom is at {_number(details, 'bottom_m'):g} m.",
            "let_go_m",
        )
    elif kind.code == "other_measure" and details and "length_mm" not in details and "mass_g" not in details:
        raise CoreError("event_empty", "Expected a length or a weight.", "length_mm")
    elif kind.code == "weighed" and _number(details, "measured") > _number(details, "n"):
        raise CoreError("counts_wrong", "Expected no more fish measured than were on the balance.", "measured")
    elif not details and kind.fields and not kind.bare:
        raise CoreError("event_empty", f"'{kind.title}': expected at least one thing said.", kind.fields[0].field.name)


def _number(details: Details, name: str) -> float:
    value = details.get(name)
    return float(value) if isinstance(value, int | float) else 0.0
