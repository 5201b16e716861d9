"""A fish's events summed up, each by hand."""

from __future__ import annotations

import random
from dataclasses import replace

import pytest

from nailwright_core.deck.handled import FishEvent, Handled, handled
from nailwright_core.deck.lanes import Lane

LANES = (
    Lane("well", "Live well"),
    Lane("bath", "Bath"),
    Lane("table", "Table", 300, in_air=True),
    Lane("recovery", "Recovery"),
)


def event(at: float, kind: str, **said: object) -> FishEvent:
    return FishEvent(at, kind, said)


#: Aboard at 0, bath at 60, stage 4 at 180, table at 200 to 320 with water over the gills from 230 to 250, recovery to 800.
WHOLE = [
    event(60, "lane", lane="bath"), event(120, "stage", stage="2"), event(180, "stage", stage="4"), event(200, "lane", lane="table"),
    event(205, "surgery", surgeon="Ada"), event(230, "air", where="in"), event(250, "air", where="out"),
    event(310, "step", step="closed", done="done"), event(320, "lane", lane="recovery"), event(330, "found", what="scrape", degree="slight"),
    event(331, "found", what="scar"), event(332, "found", what="scrape"), event(700, "reflexes", tried=["tail", "body"], impaired=["tail"]),
    event(790, "reflexes", tried=["tail", "body", "mouth", "right"], impaired=["tail"]),
]  # fmt: skip


def test_every_figure_of_a_whole_way() -> None:
    assert handled(0, WHOLE, 800, LANES) == Handled(
        aboard_s=800, air_s=100, longest_air_s=70, deepest_stage=4, induction_s=120, surgery_s=105, recovery_s=480,
        injuries=("scrape", "scar"), reflexes_tried=("tail", "body", "mouth", "right"), reflexes_impaired=("tail",), reflex_score=0.25,
    )  # fmt: skip


def test_the_order_in_which_events_arrive_does_not_matter() -> None:
    shuffled = WHOLE[:]
    for seed in range(8):
        random.Random(seed).shuffle(shuffled)
        assert handled(0, shuffled, 800, LANES) == handled(0, WHOLE, 800, LANES)


def test_nothing_recorded_is_nothing_known() -> None:
    assert handled(0, [], None, LANES) == Handled()
    assert handled(0, [], 50, LANES) == Handled(aboard_s=50)


def test_a_fish_that_is_still_in_recovery_has_no_recovery_time() -> None:
    found = handled(0, WHOLE, None, LANES)
    assert (found.recovery_s, found.aboard_s, found.air_s) == (None, None, 100)


def test_two_stays_in_recovery_are_added() -> None:
    events = [event(10, "lane", lane="recovery"), event(40, "lane", lane="table"), event(50, "lane", lane="recovery")]
    assert handled(0, events, 100, LANES).recovery_s == 80


def test_the_last_bath_counts_and_a_bath_without_loss_of_equilibrium_has_none() -> None:
    bath, lost = event(10, "lane", lane="bath"), event(100, "stage", stage="5")
    assert handled(0, [bath, lost], None, LANES).induction_s == 90
    assert handled(0, [bath, event(30, "stage", stage="3")], None, LANES).induction_s is None
    again = [bath, lost, event(300, "lane", lane="bath"), event(340, "stage", stage="4")]
    assert handled(0, again, None, LANES).induction_s == 40


@pytest.mark.parametrize("outcome", ["down", "floated", "predator", "unseen"])
def test_a_way_down(outcome: str) -> None:
    events = [
        event(1, "signs", signs=["eyes"]), event(5, "vented", place="behind the fin"), event(9, "sent_down", device="cage"),
        event(20, "way_down", outcome=outcome), event(30, "cause", cause="depth"),
        event(31, "hook", site="jaw", outcome="out"),
    ]  # fmt: skip
    found = handled(0, events, 10, LANES)
    assert replace(found, aboard_s=None) == Handled(
        signs=("eyes",),
        vented=True,
        descended=True,
        outcome=outcome,
        cause="depth",
        hook_site="jaw",
        hook_outcome="out",
    )
