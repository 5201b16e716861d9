"""Results of an event, worked by hand."""

from __future__ import annotations

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.weigh_in import Entered, standings


def fish(angler: str, value: float | None, alive: bool = True, tagged: bool = False) -> Entered:
    return Entered(angler, value, alive, tagged)


CAUGHT = [
    fish("Bo", 900),
    fish("Ann", 500),
    fish("Bo", 300, alive=False),
    fish("Ann", 700, tagged=True),
    fish("Cy", 1200),
    fish("Ann", None, tagged=True),
]


def test_the_best_of_each_angler_add_up_and_equal_totals_share_a_place() -> None:
    first, second, third = standings(CAUGHT)
    assert [(each.place, each.angler, each.total) for each in (first, second, third)] == [
        (1, "Ann", 1200),
        (1, "Cy", 1200),
        (3, "Bo", 900),
    ]
    assert (first.counted, first.fish, first.let_go, first.tagged_let_go, first.unmeasured) == (2, 3, 3, 2, 1)
    assert (third.counted, third.fish, third.dead) == (1, 2, 1)


def test_so_many_count_and_dead_ones_where_the_rules_say_so() -> None:
    assert [each.angler for each in standings(CAUGHT, best=1)] == ["Cy", "Bo", "Ann"]
    assert [(each.angler, each.total) for each in standings(CAUGHT, dead_count=True)][:2] == [
        ("Ann", 1200),
        ("Bo", 1200),
    ]
    assert standings([]) == []


@pytest.mark.parametrize(
    ("entered", "best", "code"),
    [
        (CAUGHT, 0, "best_out_of_range"),
        ([fish("Ann", 0)], None, "value_not_positive"),
        ([fish("Ann", float("nan"))], None, "value_not_positive"),
    ],
)
def test_what_cannot_be_is_refused(entered: list[Entered], best: int | None, code: str) -> None:
    with pytest.raises(CoreError) as refused:
        standings(entered, best)
    assert refused.value.code == code
