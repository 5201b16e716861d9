"""Columns of fish kept beside the table: whatever way a row is written, the next look sees it."""

from __future__ import annotations

import threading
from collections.abc import Callable

import polars as pl
import pytest
from django.db import connection, connections, transaction
from django.utils import timezone

from nailwright.common.below_orm import insert_rows
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, CaptureTally, Run
from nailwright.findings import fish as module
from nailwright.findings.fingerprints import fingerprints_differ, rows_fingerprint, touch_fingerprint
from nailwright.findings.fish import fish_of
from nailwright.findings.models import FindingAnswer
from nailwright.findings.selections import Selection
from nailwright.waters.models import Site
from nailwright.waters.zones import zone_called

WALLEYE = Selection("wal")


def capture(run: Run, **told: object) -> Capture:
    values = {"species": "wal", "length_mm": 300.0, "length_type": "TL", "length_basis": "measured", **told}
    return Capture.objects.create(programme=run.outing.programme, run=run, recorder=run.recorder, **values)


@pytest.fixture
def runs(run: Run) -> list[Run]:
    """Three runs, twenty walleye in each."""
    others = [
        Run.objects.create(outing=run.outing, site=run.site, number=number, gear=run.gear, started_at=run.started_at,
                           recorder=run.recorder)
        for number in (2, 3)
    ]  # fmt: skip
    for each in (run, *others):
        for place in range(20):
            capture(each, length_mm=200.0 + place, sex="fm"[place % 2])
    return [run, *others]


def read_anew(run: Run, selection: Selection = WALLEYE) -> pl.DataFrame:
    """The same fish with nothing kept from before."""
    kept = dict(module._kept)
    module._kept.clear()
    found = fish_of(run.outing.programme, selection)
    module._kept.clear()
    module._kept.update(kept)
    return found


def by_sql(statement: str) -> None:
    with connection.cursor() as cursor:
        cursor.execute(statement)


def inserted(runs: list[Run]) -> None:
    shared = {"programme_id": runs[0].outing.programme_id, "recorder_id": runs[0].recorder_id, "species": "wal"}
    now = timezone.now()
    rows = [
        {"id": new_id(), "run_id": run.pk, "device_time": now, "server_time": now, "length_mm": 410.0, **shared}
        for run in runs[1:]
    ]
    insert_rows(Capture, rows)


WAYS: dict[str, Callable[[list[Run]], object]] = {
    "a new fish": lambda runs: capture(runs[1]),
    "many at once, below the ORM": inserted,
    "a mended length": lambda runs: Capture.objects.filter(run=runs[2], length_mm=205).update(length_mm=250),
    "by hand in the database": lambda runs: by_sql("UPDATE deck_capture SET mass_g = 500 WHERE length_mm = 207"),
    "taken out": lambda runs: Capture.objects.filter(run=runs[0], length_mm=203).update(deleted_at=timezone.now()),
    "another species": lambda runs: Capture.objects.filter(run=runs[0]).update(species="yep"),
    "into another run": lambda runs: Capture.objects.filter(run=runs[0], sex="f").update(run=runs[2]),
    "gone": lambda runs: Capture.objects.filter(run=runs[1]).delete(),
    "its run gone": lambda runs: runs[1].delete(),
}


@pytest.mark.parametrize("way", WAYS)
def test_every_way_of_writing_is_seen(runs: list[Run], way: str) -> None:
    programme, marked = runs[0].outing.programme, touch_fingerprint(runs[0].outing.programme, WALLEYE)
    before = fish_of(programme, WALLEYE)
    WAYS[way](runs)
    after = fish_of(programme, WALLEYE)
    assert not after.equals(before) and touch_fingerprint(programme, WALLEYE) != marked
    assert after.equals(read_anew(runs[0]))  # in the same order, too


def test_only_what_was_touched_is_read_again(runs: list[Run], django_assert_num_queries: object) -> None:
    programme = runs[0].outing.programme
    first = fish_of(programme, WALLEYE)
    with django_assert_num_queries(1) as asked:  # type: ignore[operator]
        assert fish_of(programme, WALLEYE).equals(first)
    assert "capturetally" in asked[0]["sql"]
    capture(runs[2])
    with django_assert_num_queries(2) as asked:  # type: ignore[operator]
        assert fish_of(programme, WALLEYE).height == 61
    assert asked[1]["sql"].count(str(runs[2].pk)) + asked[1]["sql"].count(runs[2].pk.hex) == 1
    assert str(runs[0].pk) not in asked[1]["sql"] and runs[0].pk.hex not in asked[1]["sql"]


def test_a_selection_of_runs_and_sexes(runs: list[Run]) -> None:
    programme = runs[0].outing.programme
    Run.objects.filter(pk=runs[1].pk).update(gear="angling")
    angled = Selection("wal", gear=("angling",), sex=("f",))
    assert fish_of(programme, angled).height == 10
    marked = touch_fingerprint(programme, angled)
    capture(runs[0])  # of no run that is selected
    assert touch_fingerprint(programme, angled) == marked
    capture(runs[1], sex="f")
    assert touch_fingerprint(programme, angled) != marked and fish_of(programme, angled).height == 11


def test_nothing_is_a_selection_too(run: Run) -> None:
    assert fish_of(run.outing.programme, Selection("bur")).height == 0
    capture(run, species="bur")
    assert fish_of(run.outing.programme, Selection("bur")).height == 1


def test_a_fingerprint_finds_room_whatever_it_sums_up(run: Run) -> None:
    CaptureTally.objects.bulk_create(
        CaptureTally(programme_id=run.outing.programme_id, species="wal", run_id=new_id(), slot=0, touch=2**64 - 1 - n,
                     present=0, taken_out=0)
        for n in range(300)
    )  # fmt: skip
    longest = FindingAnswer._meta.get_field("fingerprint").max_length
    assert len(touch_fingerprint(run.outing.programme, WALLEYE)) <= longest
    assert len(rows_fingerprint(run.outing.programme, WALLEYE)) <= longest


def test_what_nobody_asked_for_longest_goes(runs: list[Run], monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "_MOST_ROWS", 61)
    programme = runs[0].outing.programme
    for code in ("yep", "bur"):
        capture(runs[0], species=code)
    for code in ("yep", "bur", "wal"):
        fish_of(programme, Selection(code))
    kept = [species for key, species in module._kept if key == programme.pk]
    assert kept == ["bur", "wal"]


def test_many_touched_runs_are_read_at_once(runs: list[Run], monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "_MOST_RUNS", 1)
    programme = runs[0].outing.programme
    fish_of(programme, WALLEYE)
    inserted(runs)
    assert fish_of(programme, WALLEYE).equals(read_anew(runs[0]))


def slot_here() -> int:
    """Which of the tally's rows this connection counts in."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT CONNECTION_ID() MOD 16")
        (slot,) = cursor.fetchone()
    return int(slot)


@pytest.mark.django_db(transaction=True)
def test_a_commit_that_was_overtaken_is_seen(runs: list[Run]) -> None:
    """One tablet writes first and commits last; meanwhile somebody looked."""
    programme = runs[0].outing.programme
    wrote, may_commit = threading.Event(), threading.Event()
    of_desk = slot_here()

    def first_tablet() -> None:
        # of one slot (one pair of connections in sixteen) the second would wait for the first, which is as it should be
        while slot_here() == of_desk:
            connection.close()
        with transaction.atomic():
            Capture.objects.filter(run=runs[0], length_mm=200).update(length_mm=700)
            wrote.set()
            assert may_commit.wait(20)
        connections.close_all()

    tablet = threading.Thread(target=first_tablet)
    tablet.start()
    assert wrote.wait(20)
    Capture.objects.filter(run=runs[0], length_mm=201).update(length_mm=701)
    seen = fish_of(programme, WALLEYE)["length_mm"].max()
    may_commit.set()
    tablet.join(20)
    assert (seen, fish_of(programme, WALLEYE)["length_mm"].sort()[-2:].to_list()) == (701, [700, 701])


def test_a_site_told_to_another_reach_has_another_fingerprint(runs: list[Run]) -> None:
    """Groups go by the zone of the site: an answer by zone is another one now, though no fish was touched."""
    programme = runs[0].outing.programme
    before = touch_fingerprint(programme, WALLEYE), rows_fingerprint(programme, WALLEYE)
    Site.objects.filter(pk=runs[0].site_id).update(
        zone=zone_called(Site.objects.get(pk=runs[0].site_id).water, "Upper river")
    )
    after = touch_fingerprint(programme, WALLEYE), rows_fingerprint(programme, WALLEYE)
    assert before[0] != after[0] and fingerprints_differ(before[1], after[1])


def test_a_fingerprint_from_before_runs_were_told_still_holds(runs: list[Run]) -> None:
    now = rows_fingerprint(runs[0].outing.programme, WALLEYE)
    n, fish, *_ = now.split("-")
    assert not fingerprints_differ(f"{n}-{fish}", now) and fingerprints_differ(f"{n}-{int(fish) ^ 1}", now)
