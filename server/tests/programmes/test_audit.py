"""Changing rows with their history, and reading single values from outside."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

import pytest
from django.http import Http404
from django.utils import timezone

from nailwright.common.errors import Refused
from nailwright.common.fields import read_id, read_number, read_time
from nailwright.common.rows import new_id
from nailwright.deck.models import Outing, Run
from nailwright.programmes.models import Change, Person, Programme, Role
from nailwright.programmes.policies import PERMISSIONS, programme_for, require
from nailwright.programmes.record.audit import Act, already_done, apply_change, plain
from nailwright_core.common.errors import CoreError


@pytest.fixture
def act(person_as: Callable[[str], Person]) -> Act:
    return Act(new_id(), person_as("lead"), timezone.now(), "put right")


def test_only_what_differs_is_kept(act: Act, run: Run, programme: Programme) -> None:
    assert apply_change(act, programme, run, {"volts": 210.0, "number": run.number})
    change = Change.objects.get()
    assert (change.before, change.after) == ({"volts": None}, {"volts": 210.0})
    assert (change.table, change.row, change.person, change.reason) == ("run", run.pk, act.person, "put right")
    run.refresh_from_db()
    assert run.volts == 210 and already_done(act)


def test_nothing_different_writes_nothing(act: Act, run: Run, programme: Programme) -> None:
    assert not apply_change(act, programme, run, {"number": run.number})
    assert not already_done(act) and Change.objects.count() == 0


def test_values_are_told_as_json_can_hold_them(run: Run) -> None:
    moment = datetime(2026, 6, 1, 21, 30, tzinfo=UTC)
    assert plain(moment) == "2026-06-01T21:30:00Z"
    assert plain(run) == str(run.pk) and plain(run.pk) == str(run.pk)
    assert [plain(value) for value in (None, "a", 1, 1.5, True, [1], {"a": 1})] == [
        None,
        "a",
        1,
        1.5,
        True,
        [1],
        {"a": 1},
    ]


def test_keys_of_our_own_rise_with_time() -> None:
    keys = [new_id() for _ in range(200)]
    assert keys == sorted(keys) and len(set(keys)) == 200 and {key.version for key in keys} == {7}


@pytest.mark.parametrize("permission", list(PERMISSIONS))
@pytest.mark.parametrize("role", [*Role.values, "stranger"])
def test_the_table_of_permissions_decides(
    person_as: Callable[[str], Person], programme: Programme, permission: str, role: str
) -> None:
    person = person_as(role)
    if role in PERMISSIONS[permission][0]:
        assert require(person, programme, permission).role == role
        assert programme_for(person, programme.pk, permission) == programme
        return
    if role == "stranger":  # as if there were no such programme
        with pytest.raises(Http404):
            require(person, programme, permission)
        return
    with pytest.raises(Refused) as refused:
        require(person, programme, permission)
    assert refused.value.code == "role_may_not"


def test_a_lead_may_whatever_anybody_may() -> None:
    assert all("lead" in roles for roles, _ in PERMISSIONS.values())


@pytest.mark.parametrize("value", [None, "", "7", 12, "g" * 36])
def test_keys_that_are_none(value: Any) -> None:
    with pytest.raises(CoreError) as refused:
        read_id({"run": value}, "run")
    assert (refused.value.code, refused.value.field) == ("key_unreadable", "run")


@pytest.mark.parametrize(
    "value", [None, "", "soon", "2026-06-01", "2026-06-01T21:30:00", "2026-13-01T00:00:00Z", 20260601]
)
def test_times_that_are_none(value: Any) -> None:
    with pytest.raises(CoreError) as refused:
        read_time({"at": value}, "at")
    assert refused.value.code == "time_unreadable" and "with zone" in refused.value.message


def test_times_keep_their_moment() -> None:
    assert read_time({"at": "2026-06-01T21:30:00-02:00"}, "at") == datetime(2026, 6, 1, 23, 30, tzinfo=UTC)


@pytest.mark.parametrize("value", ["210", True, float("nan"), float("inf"), -1, 2001, [210]])
def test_numbers_out_of_range(value: Any) -> None:
    with pytest.raises(CoreError) as refused:
        read_number({"volts": value}, "volts", 0, 2000, "V")
    assert refused.value.code == "number_out_of_range" and "from 0 to 2000 V" in refused.value.message


def test_numbers_in_range_and_none() -> None:
    assert read_number({"volts": 210}, "volts", 0, 2000, "V") == 210.0
    assert read_number({}, "volts", 0, 2000, "V") is None


def test_a_closed_outing_says_who_can_open_it(outing: Outing) -> None:
    act = Act(new_id(), Person(), timezone.now())
    outing.must_be_open(act)
    outing.state = Outing.State.CLOSED
    with pytest.raises(CoreError, match="A lead or biologist can open it again"):
        outing.must_be_open(act)
    outing.must_be_open(replace(act, desk=True))
