"""Where heavy computing runs."""

from __future__ import annotations

import pytest
from distributed import LocalCluster

from nailwright.plan.rehearsal.computing import WORTH_SPREADING_S, executor_for
from nailwright.plan.rehearsal.running import designs_of, estimated_seconds
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.rehearsal import MarksDesign, RemovalDesign, rehearse

DESIGN = MarksDesign(population=600, marks=80, catch=90, heterogeneity=0.4)


def test_short_work_stays_here_and_long_work_is_spread() -> None:
    with executor_for(WORTH_SPREADING_S / 2) as executor:
        assert executor is None
    with executor_for(WORTH_SPREADING_S * 2) as executor:
        spread = rehearse(DESIGN, 300, seed=4, executor=executor)
    assert (spread.answers == rehearse(DESIGN, 300, seed=4).answers).all()


def test_a_cluster_named_by_its_address_does_it(monkeypatch: pytest.MonkeyPatch) -> None:
    with LocalCluster(n_workers=2, threads_per_worker=1, processes=True, dashboard_address=None) as cluster:
        monkeypatch.setenv("COMPUTE_URL", cluster.scheduler_address)
        with executor_for(0.1) as executor:
            found = rehearse(DESIGN, 300, seed=4, executor=executor)
    assert (found.answers == rehearse(DESIGN, 300, seed=4).answers).all()


def test_designs_are_read_with_whole_numbers_where_fish_are_counted() -> None:
    (only,) = designs_of("marks", {"population": 900.0, "marks": 60.0, "catch": 70.0, "tag_loss": 0.1}, "", [])
    assert only == MarksDesign(900, 60, 70, tag_loss=0.1) and isinstance(only.marks, int)
    swept = designs_of("removal", {"population": 90, "capture": 0.4}, "passes", [2.0, 3.2])
    assert swept == [RemovalDesign(90, 0.4, 2), RemovalDesign(90, 0.4, 3)]


@pytest.mark.parametrize(
    ("kind", "design", "code"),
    [
        ("other", {}, "design_unknown"),
        ("marks", {"population": True, "marks": 1, "catch": 1}, "design_unreadable"),
        ("marks", {"population": float("nan"), "marks": 1, "catch": 1}, "design_unreadable"),
        ("trend", {"sites": 5, "years": 2, "mean": 3, "k": 1, "change": 0}, "design_out_of_range"),
    ],
)
def test_designs_that_cannot_be_read(kind: str, design: dict[str, float], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        designs_of(kind, design, "", [])
    assert refused.value.code == code


def test_the_estimate_grows_with_the_work() -> None:
    few, many = (sum(estimated_seconds([DESIGN], n)) for n in (100, 10_000))
    assert 0 < few < many
