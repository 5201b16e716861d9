"""A taste of the grids that `bin/bench coverage --full` tries whole: each interval in one of its moderate cells."""

from __future__ import annotations

import numpy as np
import pytest

from bench.circumstances import INTERVALS
from bench.size import some
from nailwright_core.fitting.coverage import coverage

SURVEYS = 80


@pytest.mark.parametrize("name", some([*INTERVALS], 6))
def test_it_holds_about_as_often_as_it_says(name: str) -> None:
    told, survey = INTERVALS[name][0][0]
    found = coverage(survey, SURVEYS, np.random.default_rng(2))
    assert found.refused < 0.05, told
    assert found.share > 0.87, told  # 95 less three Monte Carlo errors
    assert found.below + found.above == pytest.approx(1 - found.share) and found.width > 0
