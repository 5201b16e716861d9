"""The answers of core's sample sizes for one question."""

from __future__ import annotations

from typing import Any

import numpy as np

from nailwright_core.plan.effort import sites_for_cv
from nailwright_core.plan.sample_size import (
    ACCURACIES,
    catch_for_marks,
    fish_for_difference,
    fish_for_mean,
    fish_for_proportion,
    fish_to_tell_mortality,
)

_MARKS = 60


def show_enough(asked: dict[str, Any]) -> dict[str, Any]:
    """Sites for a CV, fish for a PSD, a mean and a difference, fish that tell two death rates, and the nomogram of marks.

    Raises:
        CoreError: what is out of range, with its field.
    """
    population = asked["population"]
    marks = np.unique(np.geomspace(10, max(population * 0.6, 20), _MARKS).round())
    curves = [(name, accuracy, catch_for_marks(population, marks, accuracy)) for name, accuracy in ACCURACIES.items()]
    return {
        "sites": sites_for_cv(asked["catch_mean"], asked["catch_variance"], asked["cv"], asked["frame_size"]),
        "fish_psd": fish_for_proportion(asked["psd"] / 100, asked["psd_half"] / 100),
        "fish_mean": fish_for_mean(asked["sd_mm"], asked["mean_half_mm"]),
        "fish_difference": fish_for_difference(asked["psd"] / 100, asked["psd_other"] / 100),
        "fish_mortality": fish_to_tell_mortality(asked["death_low"] / 100, asked["death_high"] / 100),
        "marks": marks.tolist(),
        "curves": [
            {
                "name": name,
                "accuracy": accuracy,
                "catch": [None if np.isnan(catch) else float(catch) for catch in curve.catch],
            }
            for name, accuracy, curve in curves
        ],
    }
