"""The sections of a protocol: what a programme may decide, in which bounds, and what holds where it decided nothing.

Figures that ship are common practice without a source where a section names none; local code, permit,
animal-care protocol and the licensed person decide.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields

from nailwright_core.common.field import Cell, Field
from nailwright_core.deck.gears import FIGURES, GEARS
from nailwright_core.deck.handling import AGENTS, PURPOSES, Limits
from nailwright_core.deck.readings import READINGS, USUAL
from nailwright_core.findings.abundance import FALLS
from nailwright_core.protocol.kit import KIT
from nailwright_core.tags.kinds import TAG_KINDS

Row = Mapping[str, Cell]

_FROM_BELOW = 60


@dataclass(frozen=True)
class Section:
    """Rows of one kind.

    Attributes:
        note: what it does, in a sentence that a crew lead reads.
        ships: the rows that hold where a programme decided nothing.
        single: it is one row. fixed: its rows are these, none can be added or taken out.
        most: rows at most.
        once: columns that together name a row; no two rows may agree in them.
    """

    code: str
    title: str
    note: str
    columns: tuple[Field, ...]
    ships: tuple[Row, ...] = ()
    single: bool = False
    fixed: bool = False
    most: int = 200
    once: tuple[str, ...] = ()

    @property
    def column(self) -> dict[str, Field]:
        """Columns by name."""
        return {each.name: each for each in self.columns}


def _number(
    name: str, title: str, unit: str, low: float, high: float, needed: bool = True, whole: bool = False
) -> Field:
    return Field(name, title, "whole" if whole else "number", unit, low, high, needed=needed)


def _text(name: str, title: str, longest: int = _FROM_BELOW, needed: bool = True) -> Field:
    return Field(name, title, "text", longest=longest, needed=needed)


def _choice(name: str, title: str, *choices: tuple[str, str], fixed: bool = False) -> Field:
    return Field(name, title, "choice", choices=choices, needed=True, fixed=fixed)


def _code(fixed: bool = False) -> Field:
    return Field("code", "Code", "code", longest=20, needed=True, fixed=fixed)


_SPECIES = Field("species", "Species", "species")
_FROM_MM = _number("from_mm", "From", "mm", 0, 20_000)
_WORD = _text("word", "Word")


def _words(*pairs: tuple[str, str]) -> tuple[Row, ...]:
    return tuple({"code": code, "word": word} for code, word in pairs)


_LIMIT_TITLES = {
    "air_goal_s": ("Air, goal", "s"),
    "air_warn_s": ("Air, warn", "s"),
    "air_alarm_s": ("Air, alarm", "s"),
    "well_minutes": ("Live well", "min"),
    "induction_goal_s": ("Induction, goal", "s"),
    "induction_warn_s": ("Induction, warn", "s"),
    "induction_alarm_s": ("Induction, alarm", "s"),
    "recovery_goal_s": ("Recovery, goal", "s"),
    "recovery_warn_s": ("Recovery, warn", "s"),
}
_LIMITS = Limits()
_ANY_FISH: Row = {
    "species": "",
    "from_mm": 0,
    **{name: float(getattr(_LIMITS, name)) for name in _LIMIT_TITLES},
    "induction_fast_s": 60.0,
}
#: A fish that lies still within a minute says that the bath is strong (ours, no source).
#: The largest angled fish take 20 to 30 minutes to recover (common practice, no source).
_LARGE_FISH: Row = {**_ANY_FISH, "from_mm": 900, "recovery_goal_s": 1200.0, "recovery_warn_s": 1800.0}

_HANDLING = (
    Section(
        "precision", "Reading precision", "To what a length and a mass are read; stands on the Deck and on the field sheet.",
        (_number("length_mm", "Length to", "mm", 0.1, 50), _number("mass_g", "Mass to", "g", 0.1, 500)),
        ({"length_mm": 1.0, "mass_g": 1.0},), single=True,
    ),
    Section(
        "hand_limits", "Limits for fish in hand",
        "How long a fish of a species and size may be out of water, in the live well, going down and coming to. The row of the "
        "fish's own species counts first, then the longest length it has reached.",
        (_SPECIES, _FROM_MM, *(_number(name, title, unit, 0.1, 100_000) for name, (title, unit) in _LIMIT_TITLES.items()),
         # protocols of before had none
         _number("induction_fast_s", "Induction, too fast below", "s", 0.1, 100_000, needed=False)),
        (_ANY_FISH, _LARGE_FISH), once=("species", "from_mm"),
    ),
    Section(
        "well_room", "Room in the live well",
        "How much of a species and size a live well takes, where that is not what the plan says of fish in general.",
        (_SPECIES, _FROM_MM, _number("kg_100l", "Room", "kg/100 L", 0.01, 100)),
        once=("species", "from_mm"),
    ),
    Section(
        "boarding", "Where a fish is handled", "Aboard, alongside, or not at all, by species and length; the Deck says it as the length is called.",
        (_SPECIES, _FROM_MM, _choice("where", "Where", ("aboard", "aboard"), ("alongside", "alongside"), ("not", "not handled")),
         _text("how", "How", 120, needed=False)),
        once=("species", "from_mm"),
    ),
    Section(
        "alerts", "Alerts", "What the Deck says as a fish of a species and size is recorded: a year-class that is looked for, a species that is unwanted or new in a water.",
        (_SPECIES, _FROM_MM, _number("to_mm", "To below", "mm", 1, 20_000, needed=False), _text("word", "Alert", 120)),
        once=("species", "from_mm", "word"), most=60,
    ),
    Section(
        "closed_species", "Closed seasons and boat limits", "Shown as a fish is recorded; local law decides.",
        (_SPECIES, _text("first_day", "Closed from (month-day)", 5, needed=False), _text("last_day", "Closed to (month-day)", 5, needed=False),
         _number("boat_limit", "Retained on one boat, at most", "fish", 0, 10_000, needed=False, whole=True)),
        once=("species", "first_day"), most=60,
    ),
    Section(
        "lanes", "Lanes",
        "Where fish stand between net and release, in this order, and for how long at most. In a lane out of water the air adds up. "
        "Limits of the fish's own kind and size count too: the shorter holds.",
        (_code(), _WORD, _number("most_min", "At most", "min", 0.1, 2880, needed=False),
         Field("water", "Fish are", "choice", choices=(("water", "in water"), ("gills", "out, water over the gills"), ("air", "out of water"))),
         Field("aside", "On the way", "choice", choices=(("no", "in this order"), ("yes", "to one side, by choice")))),
        ({"code": "well", "word": "Live well", "most_min": 30.0, "water": "water", "aside": "no"},
         {"code": "bath", "word": "Bath", "most_min": 10.0, "water": "water", "aside": "no"},
         # as long as a surgery may take (common practice, no source)
         {"code": "table", "word": "Table", "most_min": 10.0, "water": "gills", "aside": "no"},
         {"code": "recovery", "word": "Recovery", "most_min": 30.0, "water": "water", "aside": "no"}),
        most=12, once=("code",),
    ),
    Section(
        "baths", "Strength of baths", "From where to where an agent may be dosed here, by what it is for; a dose beyond is refused.",
        (_choice("agent", "Agent", *((each.code, each.name) for each in AGENTS.values())),
         _choice("purpose", "For", *((each, each) for each in PURPOSES)),
         _number("low", "From", "mg/L", 0.1, 1000), _number("high", "To", "mg/L", 0.1, 1000)),
        tuple({"agent": each.code, "purpose": purpose, "low": low, "high": high}
              for each in AGENTS.values() for purpose, (low, high) in each.ranges_mg_l.items()),
        most=20, once=("agent", "purpose"),
    ),
    Section(
        "extra_measures", "Further measures", "What is measured besides length and mass, such as girth or jaw.",
        (_code(), _WORD, _text("unit", "Unit", 12)), once=("code",), most=20,
    ),
    Section(
        "maturity", "Maturity", "Words for how ripe a fish is.", (_code(), _WORD),
        _words(("immature", "immature"), ("developing", "developing"), ("ripe", "ripe"), ("running", "running"),
               ("spent", "spent"), ("unknown", "unknown")),
        once=("code",), most=20,
    ),
    Section(
        "sexing", "Sex by pressure: season", "When eggs or milt can be expected on light pressure; a sex that is found so on any other day is asked about.",
        (_SPECIES, Field("first_day", "From (month-day)", "text", longest=5, needed=True), Field("last_day", "To (month-day)", "text", longest=5, needed=True)),
        once=("species", "first_day"), most=60,
    ),
    Section(
        "reflexes", "Reflexes", "What is tried before a fish goes; the share impaired is its score (Davis 2010).", (_code(), _WORD),
        _words(("upright", "holds itself upright"), ("gills", "gills beat regularly"), ("pinch", "answers a tail pinch"),
               ("bite", "bites down"), ("fight", "fights the hand")),
        once=("code",), most=12,
    ),
)  # fmt: skip

_LEAVING = (
    Section(
        "fates", "How fish leave", "What became of a fish, in the programme's words.", (_code(fixed=True), _WORD),
        _words(("released", "released"), ("dead", "dead"), ("kept", "kept"), ("escaped", "escaped before release"),
               ("taken", "taken to")),
        fixed=True, once=("code",),
    ),
    Section(
        "strengths", "How strongly", "How a released fish went, from 1 to 4.", (_code(fixed=True), _WORD),
        _words(("1", "swam off strongly"), ("2", "swam off slowly"), ("3", "drifted or sounded weakly"),
               ("4", "not recovered")),
        fixed=True, once=("code",),
    ),
    Section(
        "reasons", "Why released", "Reasons to let a fish go that could have been kept.", (_code(), _WORD),
        _words(("study", "study"), ("undersized", "undersized"), ("over-limit", "over the limit"),
               ("closed", "closed season"), ("not-wanted", "not wanted")),
        once=("code",), most=30,
    ),
    Section(
        "taken_to", "Where fish are taken to", "Hatchery, holding pen, laboratory.", (_code(), _WORD),
        _words(("hatchery", "hatchery"), ("pen", "holding pen"), ("laboratory", "laboratory")), once=("code",), most=30,
    ),
)  # fmt: skip

_DEEP = (
    Section(
        "deep_water", "Fish from depth",
        "Which ways law and permit allow here, and what a way down has to reach. Needles only in trained hands.",
        (_choice("ways", "Allowed", ("descend", "sent down only"), ("vent", "needle only"), ("both", "both, in any order"),
                 ("neither", "neither")),
         _number("share", "Let go from, share of the depth", "", 0.3, 1), _number("least_weight_g", "Least weight", "g", 0, 20_000),
         # protocols of before did not say
         Field("aboard", "A descending device aboard is", "choice", choices=(("no", "not required"), ("yes", "required")))),
        ({"ways": "descend", "share": 0.75, "least_weight_g": 0.0, "aboard": "no"},), single=True,
    ),
    Section(
        "devices", "Devices that let go at a depth", "The depths of the crew's own devices.",
        (_text("name", "Device"), _number("lets_go_m", "Lets go at", "m", 1, 500)), once=("name", "lets_go_m"), most=20,
    ),
    Section(
        "venting", "Needle: place by species and size", "Set by the programme's trained person; nothing ships.",
        (_SPECIES, _FROM_MM, _text("place", "Place and angle", 200), _text("needle", "Needle", 60), _text("person", "Set by", 80)),
        once=("species", "from_mm"),
    ),
    Section(
        "signs", "Signs in fish from depth", "What is looked for and what to do about it; their count alone never advises a needle.",
        (_code(), _WORD, _text("do", "What to do", 200, needed=False), _text("also", "Other words for it", 120, needed=False)),
        tuple({"code": code, "word": word, "do": "", "also": also} for code, word, also in (
            ("tight-belly", "tight belly", "bloated, distended abdomen"),
            ("stomach-out", "stomach out of the mouth", "everted stomach; often taken for the swim bladder"),
            ("eyes", "bulging eyes", "popeye, exophthalmia"), ("bubbles", "gas bubbles in eye or fins", "gas emboli"),
            ("scales", "lifted scales", "raised, ruffled scales"), ("gills", "bleeding gills", "haemorrhage of the gills"),
            ("vent", "gut out of the vent", "prolapse of the intestine"))),
        once=("code",), most=30,
    ),
)  # fmt: skip

_TAGS = (
    Section(
        "quotas", "Tags by zone", "How many fish of a length band are to carry a tag in a zone.",
        (_SPECIES, _text("zone", "Zone", 60, needed=False), _FROM_MM, _number("to_mm", "To below", "mm", 1, 20_000, needed=False),
         _number("most", "Tags", "", 1, 1_000_000, whole=True)),
        once=("species", "zone", "from_mm"),
    ),
    Section(
        "tag_sizes", "Smallest fish for a tag", "From which length on a species carries a kind of tag; the plan and the species may ask for more.",
        (_SPECIES, Field("kind", "Tag", "choice", choices=TAG_KINDS, needed=False), _FROM_MM),
        once=("species", "kind"), most=60,
    ),
    Section(
        "tag_heads", "Tag and head by species and size", "Which tag, with which head, a fish of a species and length gets; shown as it is recorded.",
        (_SPECIES, _FROM_MM, Field("kind", "Tag", "choice", choices=TAG_KINDS, needed=True), _text("how", "Head or applicator", 120, needed=False)),
        once=("species", "from_mm"), most=60,
    ),
    Section(
        "body_sites", "Where tags sit", "Places of the body, in the crew's words.", (_code(), _WORD),
        _words(("dorsal", "below the dorsal fin"), ("shoulder", "shoulder muscle"), ("cheek", "cheek muscle"),
               ("cavity", "body cavity"), ("fin", "fin")),
        once=("code",), most=30,
    ),
    Section(
        "tagging_steps", "Steps of tagging", "What is ticked, fish by fish, by those who want it.", (_code(), _WORD),
        _words(("needle", "one tag in the syringe, needle guarded"), ("site", "place wiped"), ("seat", "seat checked, gentle tug"),
               ("read", "read again after")),
        once=("code",), most=12,
    ),
    Section(
        "conditions", "Condition on cards", "Codes by which volunteers tell how a fish was.", (_code(), _WORD),
        _words(("1", "lively"), ("2", "tired"), ("3", "hurt"), ("4", "dead")), once=("code",), most=20,
    ),
)  # fmt: skip

_TOLD = (
    Section(
        "told", "Who is told of rare fish", "A letter goes to this person for each fish of a species of special interest; else to the leads.",
        (Field("species", "Species", "species", needed=True), _text("person", "Person", 80), _text("email", "E-mail", 120)),
        once=("species", "email"), most=40,
    ),
)  # fmt: skip

_SITE = (
    Section(
        "readings", "Site readings", "What is read at a site, once an outing or with each run; everything else can be read all the same.",
        (_choice("code", "Reading", *((each.name, each.title) for each in READINGS.values())),
         _choice("when", "Asked", ("outing", "each outing"), ("run", "each run"))),
        tuple({"code": code, "when": "outing"} for code in USUAL), once=("code",), most=40,
    ),
    Section(
        "non_target", "Non-target fish", "When the Deck says to move on: from which share of the last fish of a run on, where the outing has targets.",
        (_number("share", "Share", "", 0.01, 1), _number("last", "Of the last", "fish", 1, 1000, whole=True)), most=1,
    ),
    Section(
        "weigh_in", "Weigh-in of an event", "What counts in the result by angler, shown with the daily summary; a fish that was tagged and let go counts. The event's own rules decide.",
        (_SPECIES, _number("best", "Best fish of each angler", "fish", 1, 1000, needed=False, whole=True),
         _choice("by", "By", ("weight", "weight"), ("length", "length")),
         _choice("dead", "Fish that died or were retained", ("no", "do not count"), ("yes", "count"))),
        once=("species",), most=20,
    ),
    Section(
        "run_figures", "Asked as a run ends", "Figures that each run of a gear is to have; the Deck asks for them as the run ends, and handover names those that are missing.",
        (_choice("figure", "Figure", *((each.name, each.title) for each in FIGURES.values())),
         Field("gear", "Gear", "choice", choices=tuple((each.code, each.label) for each in GEARS.values()), needed=False)),
        once=("figure", "gear"), most=40,
    ),
)  # fmt: skip

_DESK = (
    Section(
        "benchmarks", "Relative weight", "From where to where a mean relative weight is read as near the benchmark.",
        (_SPECIES, _number("low", "From", "%", 50, 150), _number("high", "To", "%", 50, 150)),
        ({"species": "", "low": 95.0, "high": 105.0},), once=("species",),
    ),
    Section(
        "bins", "Length bins", "Width of the bins of a species' length-frequency; where none stands, it is suggested by the lengths.",
        (_SPECIES, _number("bin_mm", "Width", "mm", 0.1, 1000)), once=("species",),
    ),
    Section(
        "removal_falls", "Removal: how the chance of capture falls", "By how much it may fall from one pass to the next, and how likely that is; numbers of fish from three passes and more are averaged over it.",
        (_number("fall", "Fall from pass to pass", "%", 0, 90), _number("weight", "Weight", "", 0.01, 100)),
        tuple({"fall": 100 * fall, "weight": weight} for fall, weight in FALLS.items()), once=("fall",), most=12,
    ),
    Section(
        "checklist_lines", "Lines of our own in the checklists", "Added to the lists that ship, and signed with them.",
        (_choice("checklist", "List", *((code, code.replace("_", " ")) for code in (
            "electrofishing", "boat", "night", "dam", "deep_water", "needles_drugs", "surgery", "ice", "lifting"))),
         _text("line", "Line", 200)), most=80,
    ),
    Section(
        "kit", "What goes along", "Packed before an outing; stands in the plan and on the field sheet.",
        (_text("item", "Item", 80), _number("n", "How many", "", 1, 10_000, needed=False, whole=True),
         # protocols of before did not say: it always goes along
         Field("when", "For", "choice", choices=(("always", "each outing"), ("surgery", "surgery"), ("tags", "tagging"), ("bath", "baths"), ("angling", "angling")))),
        KIT, most=120, once=("item", "when"),
    ),
    Section(
        "agency_limits", "Limits of an agency",
        "Highest volts by conductivity, pulse and water. One row for each step of conductivity; the plan chooses a set by its name.",
        (_text("name", "Set", 60), _number("to_us_cm", "Up to", "µS/cm", 1, 100_000), _number("max_volts", "Most", "V", 1, 5000),
         _number("max_hz", "Most", "Hz", 1, 1000), _number("max_pulse_ms", "Longest pulse", "ms", 0.05, 100),
         _number("max_water_c", "Warmest water", "°C", 0, 40)),
        once=("name", "to_us_cm"), most=40,
    ),
)  # fmt: skip

#: Every section by its code, in the order in which they are shown, each with the group it stands in.
GROUPS: dict[str, tuple[Section, ...]] = {
    "Fish in hand": _HANDLING,
    "How fish leave": _LEAVING,
    "Fish from depth": _DEEP,
    "Tags": _TAGS,
    "Rare fish": _TOLD,
    "Site conditions": _SITE,
    "Plan and desk": _DESK,
}
SECTIONS: dict[str, Section] = {each.code: each for sections in GROUPS.values() for each in sections}
assert {each.name for each in fields(Limits)} >= set(_LIMIT_TITLES)
