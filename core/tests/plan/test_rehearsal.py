from __future__ import annotations

from concurrent.futures import ProcessPoolExecutor, ThreadPoolExecutor

import numpy as np
import pytest
from distributed import Client, LocalCluster

from nailwright_core.common.errors import CoreError
from nailwright_core.common.parallel import spread
from nailwright_core.plan.rehearsal import (
    MarksDesign,
    RemovalDesign,
    TrendDesign,
    n_blocks,
    rehearse,
    rehearse_sweep,
    vary,
)

MARKS = MarksDesign(population=3000, marks=300, catch=400, cost_mark=12, cost_catch=3)


def test_the_same_seed_gives_the_same_answer_wherever_it_runs() -> None:
    design = MarksDesign(800, 80, 100, heterogeneity=0.6)
    here = rehearse(design, 350, seed=5)
    with ProcessPoolExecutor(2) as processes:
        there = rehearse(design, 350, seed=5, executor=processes)
    assert (here.answers == there.answers).all() and here.answers.size == 350
    assert not np.array_equal(here.answers, rehearse(design, 350, seed=6).answers)


def test_on_a_dask_cluster() -> None:
    with (
        LocalCluster(n_workers=2, threads_per_worker=1, processes=False, dashboard_address=None) as cluster,
        Client(cluster) as client,
    ):
        found = rehearse(MARKS, 300, seed=5, executor=client.get_executor())
    assert (found.answers == rehearse(MARKS, 300, seed=5).answers).all()


def test_more_marks_help_and_cost() -> None:
    sweep = [each for _, each in rehearse_sweep(vary(MARKS, "marks", [50, 200, 800]), 600, seed=2) if each]
    assert [each.design.marks for each in sweep] == [50, 200, 800]  # type: ignore[union-attr]
    assert sweep[0].useless > sweep[2].useless and sweep[0].within < sweep[1].within < sweep[2].within
    assert [each.cost for each in sweep] == [50 * 12 + 1200, 200 * 12 + 1200, 800 * 12 + 1200]
    assert [each.good_enough for each in sweep] == [False, True, True]
    assert n_blocks(3, 600) == 18


def test_what_breaks_an_assumption_shows() -> None:
    fair = rehearse(MARKS, 1000)
    assert abs(fair.bias) < 0.03 and fair.coverage > 0.93
    assert rehearse(vary(MARKS, "heterogeneity", [0.8])[0], 300).bias < -0.2  # the bold are caught twice
    assert rehearse(vary(MARKS, "tag_loss", [0.2])[0], 1000).bias == pytest.approx(0.25, abs=0.05)
    assert abs(rehearse(vary(MARKS, "leaving", [0.3])[0], 1000).bias) < 0.05
    split = rehearse(vary(MARKS, "occasions", [4])[0], 1000)
    assert abs(split.bias) < 0.03


def test_removal_is_averaged_over_how_the_chance_of_capture_may_fall() -> None:
    """As the Deck and the findings tell it: too high where the chance stays, near the truth where it falls as it usually does."""
    steady, usual = (rehearse(RemovalDesign(100, 0.5, 3, fall), 400) for fall in (0.0, 0.2))
    assert steady.bias > 0.1 and abs(usual.bias) < 0.1 and usual.coverage > 0.95 > steady.coverage


def test_a_trend_is_seen_with_enough_sites_and_years() -> None:
    few, many = (rehearse(TrendDesign(sites, years, 12, 2, -0.12, 0.4), 500) for sites, years in ((4, 4), (30, 10)))
    assert few.within < 0.4 < 0.9 < many.within
    assert many.bias == pytest.approx(0, abs=0.02) and many.coverage > 0.9
    flat = rehearse(TrendDesign(20, 6, 12, 2, 0.0), 800)
    assert flat.useless == pytest.approx(0.95, abs=0.04)


@pytest.mark.parametrize(
    ("design", "field"),
    [
        (MarksDesign(5, 1, 1), "population"),
        (MarksDesign(100, 200, 10), "marks"),
        (MarksDesign(100, 20, 500), "catch"),
        (MarksDesign(100, 20, 50, heterogeneity=9), "heterogeneity"),
        (RemovalDesign(100, 0.0), "capture"),
        (RemovalDesign(100, 0.5, 1), "passes"),
        (TrendDesign(10, 2, 5, 1, 0), "years"),
        (TrendDesign(10, 5, 5, 1, -1), "change"),
    ],
)
def test_designs_that_cannot_be(design: MarksDesign | RemovalDesign | TrendDesign, field: str) -> None:
    with pytest.raises(CoreError) as refused:
        rehearse(design, 200)
    assert (refused.value.code, refused.value.field) == ("design_out_of_range", field)
    with pytest.raises(CoreError):
        vary(MARKS, "colour", [1])
    with pytest.raises(CoreError):
        rehearse(MARKS, 10)


def test_a_stop_leaves_what_has_not_begun() -> None:
    begun: list[int] = []

    def work(piece: int) -> int:
        begun.append(piece)
        return piece

    with ThreadPoolExecutor(1) as threads:
        for _, result in spread(work, range(1000), threads, ahead=4):
            if result >= 3:
                break
    assert len(begun) < 20
    assert [result for _, result in spread(work, [5, 6])] == [5, 6]
