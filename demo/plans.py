"""The demo's plans: zones and the dam, a boat, permits and certificates (one runs out soon), seasons, and a spring survey with its sites."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta

from demo.basin import DAM_KM, RIVER_KM
from demo.keys import Keys
from demo.people import PEOPLE
from demo.season import TARGETS
from demo.truth import LOWER_RIVER, UPPER_RIVER
from nailwright.common.rows import new_id
from nailwright.deck.models import Gear, Outing
from nailwright.jobs.working import Progress
from nailwright.permits.course import NAME as COURSE
from nailwright.permits.models import Permit
from nailwright.plan.layout.actions import lay_out
from nailwright.plan.models import Rehearsing, Season, Survey, Unit
from nailwright.plan.outings.orders import give_orders
from nailwright.plan.rehearsal.running import rehearse_row
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.record.audit import Act
from nailwright.waters.models import Water, Zone
from nailwright_core.deck.gears import GEARS
from nailwright_core.tags.course import QUESTIONS, VALID_DAYS

_STAND_OFF_M = 400
#: What the spring survey was rehearsed with: walleye of the lower river as the demo has made them.
_REHEARSED = {
    "population": 5000, "marks": 400, "catch": 400, "occasions": 4, "heterogeneity": 0.3, "tag_loss": 0.05, "leaving": 0,
    "cost_mark": 14, "cost_catch": 4,
}  # fmt: skip
_LAYOUT = {"layout": "systematic", "from_km": 0, "to_km": DAM_KM, "site_length_m": 700, "gap_m": 3100, "seed": 7}
LEAD, BIOLOGIST, CREW, VOLUNTEER = (name for _, name, _ in PEOPLE[:4])

#: Number of the collecting permit, whose allowances are counted.
COLLECTING = "OB-114"


def load_plans(programme: Programme, person: Person, river: Water, keys: Keys, tonight: Outing) -> None:
    """Write them all; tonight's outing goes out by the autumn's plan."""
    today = tonight.date
    made = datetime.combine(today, time(8), UTC)
    dam = DAM_KM * 1000
    _write_zones(river, keys, dam, made)
    boat = Unit.objects.create(
        id=keys.at(made), programme=programme, name="Boat, 5 kW generator", gear=Gear.BOAT, max_volts=600, max_amps=16, max_watts=4500,
        max_hz=120, max_duty=0.6, r100_ohm=38.0,
    )  # fmt: skip
    Unit.objects.create(
        id=keys.at(made), programme=programme, name="Backpack, battery", gear=Gear.BACKPACK, max_volts=900, max_amps=4, max_watts=400,
        max_hz=120, max_duty=0.5, r100_ohm=560.0,
    )  # fmt: skip
    _permits_and_seasons(programme, river, keys, today, made)
    first = today + timedelta(days=12)
    survey = Survey.objects.create(
        id=keys.at(made), programme=programme, water=river, person=person, name="Walleye by marks, lower river", question="marks",
        species=["wal", "nop"], gear=Gear.BOAT, first=first, last=first + timedelta(days=28), visits=4, effort_s=900,
        revisit_years=3,
        parts={
            "layout": _LAYOUT,
            "electro": {"unit": str(boat.pk), "goal_w": 2600, "pulse_hz": 30, "pulse_width_ms": 4, "conductivity": 178,
                        "read_as": "ambient", "temperature_c": 9},
            "bath": {"agent": "clove-oil", "purpose": "measure", "target_mg_l": 30, "shape": "box", "a_cm": 80, "b_cm": 50,
                     "fill_cm": 25, "refills": 3, "cap_ml": 5},
            "tags": {"kind": "pit", "n": 200, "mass_g": 0.1, "double": 0.2, "high_reward": 0.1, "question": "abundance"},
            "targets": [{"species": "wal", "what": "marked", "wanted": 400, "from_mm": 250.0},
                        {"species": "wal", "what": "measured", "wanted": 800, "from_mm": None}],
            "crew": [LEAD, CREW],
            "emergency": {"position": "Landing at km 9", "access": "Track from the weir road, gate unlocked by the operator",
                          "numbers": "Rescue 112; dam operator on the plate at the gate"},
        },
    )  # fmt: skip
    lay_out(Act(new_id(), person, survey.made_at), survey)
    _rehearse(survey, keys, made)
    autumn = Survey.objects.create(
        id=keys.at(made), programme=programme, water=river, person=person, name="Autumn nights, lower river", question="size",
        species=["wal"], gear=Gear.BOAT, first=today - timedelta(days=4), last=today + timedelta(days=10), visits=3, effort_s=900,
        revisit_years=3,
        parts={
            "layout": _LAYOUT,
            "electro": {"unit": str(boat.pk), "goal_w": 2600, "pulse_hz": 60, "pulse_width_ms": 4, "conductivity": 178,
                        "read_as": "ambient", "temperature_c": 9},
            "tags": {"kind": "pit", "n": 60, "mass_g": 0.1, "fish_mm": 250, "question": "abundance"},
            "targets": [
                {"species": species, "what": what, "wanted": 3 * wanted, "from_mm": from_mm}
                for species, what, wanted, from_mm in TARGETS
            ],
            "crew": [LEAD, CREW],
            "emergency": survey.parts["emergency"],
        },
    )  # fmt: skip
    lay_out(Act(new_id(), person, autumn.made_at), autumn)
    autumn.outings.add(tonight)
    give_orders(autumn, tonight)


def _rehearse(survey: Survey, keys: Keys, made: datetime) -> None:
    """The spring survey was rehearsed before it was planned for good."""
    rehearsal = Rehearsing.objects.create(
        id=keys.at(made), survey=survey, person=survey.person, kind="marks", design=_REHEARSED, replicates=500, seed=1, made_at=made,
    )  # fmt: skip
    rehearse_row(rehearsal, Progress())


def _permits_and_seasons(programme: Programme, river: Water, keys: Keys, today: date, made: datetime) -> None:
    """Permits, certificates and seasons; one certificate has expired, one permit does soon."""
    electric = [code for code, gear in GEARS.items() if gear.electric]
    for kind, name, holder, number, gears, start, days in (
        (Permit.Kind.PERMIT, "Collecting permit, Ossling basin", "", COLLECTING, [], -300, 400),
        (Permit.Kind.PERMIT, "Animal care protocol", "", "ACP-23", [], -330, 365),
        (Permit.Kind.CERTIFICATE, "Electrofishing crew leader", LEAD, "EF-7", electric, -500, 900),
        (Permit.Kind.CERTIFICATE, "First aid and CPR", CREW, "", [], -700, 690),
        (Permit.Kind.CERTIFICATE, COURSE, VOLUNTEER, f"{len(QUESTIONS)} of {len(QUESTIONS)}", [], -160, VALID_DAYS),
    ):
        Permit.objects.create(
            id=keys.at(made), programme=programme, kind=kind, name=name, holder=holder, number=number, gears=gears, first=today + timedelta(days=start),
            last=today + timedelta(days=start + days),
        )  # fmt: skip
    Season.objects.create(
        id=keys.at(made), programme=programme, water=river, kind=Season.Kind.CLOSED, name="Closed to boats below the dam at ice-out",
        first_day="03-15", last_day="04-10",
    )  # fmt: skip
    Season.objects.create(
        id=keys.at(made),
        programme=programme,
        water=river,
        kind=Season.Kind.SPAWNING,
        name="Walleye spawn",
        first_day="04-15",
        last_day="05-15",
    )


def _write_zones(river: Water, keys: Keys, dam: float, made: datetime) -> None:
    """Where the zones lie along the river, and the dam between them."""
    for name, start, end in (
        (LOWER_RIVER, 0.0, dam - _STAND_OFF_M),
        (UPPER_RIVER, dam + _STAND_OFF_M, RIVER_KM * 1000 - 1),
    ):
        Zone.objects.filter(water=river, name=name).update(start_m=start, end_m=end)
    Zone.objects.create(
        id=keys.at(made), water=river, name="Thornweir dam", kind=Zone.Kind.DAM, start_m=dam - _STAND_OFF_M, end_m=dam + _STAND_OFF_M,
        note="Telephone the operator before launching",
    )  # fmt: skip
