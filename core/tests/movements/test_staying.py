"""Who stays, and from which zone to which the others go."""

from __future__ import annotations

import numpy as np
import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.movements.staying import staying, zone_matrix
from nailwright_core.movements.words import distance_words, movement_sentence, where_met_sentence


def test_seventeen_of_twenty_stay() -> None:
    """Wilson (1927), by definition: 17 of 20 is 0.640 to 0.948."""
    far = np.where(np.arange(20) < 17, 0.0, 9000.0)
    found = staying(far, np.full(20, 100.0), np.arange(20), ["x"] * 20, 2000)
    assert (found.all.stayed, found.all.fish) == (17, 20)
    assert (found.all.share.lower, found.all.share.upper) == (
        pytest.approx(0.640, abs=0.012),
        pytest.approx(0.948, abs=0.006),
    )
    assert "Half were met where they were let go" in movement_sentence(found, "pike", 7, 2000, 0, 9000, 30)


def test_a_place_that_is_known_too_roughly_says_nothing() -> None:
    found = staying([1500, 1500, 8000], [100, 900, 900], ["a", "b", "c"], ["x", "x", "y"], 2000)
    assert (found.unsure, found.all.share.n, found.all.stayed) == (1, 2, 1)
    with pytest.raises(CoreError, match="known well enough"):
        staying([1500], [900], ["a"], ["x"], 2000)


def test_journeys_of_one_fish_are_alike() -> None:
    """Ten fish of ten journeys each, that all stay or all go, say as much as ten fish."""
    fish = np.repeat(np.arange(10), 10)
    far = np.where(fish < 7, 0.0, 9000.0)
    alike = staying(far, np.zeros(100), fish, ["x"] * 100, 2000).all.share
    ten = staying(far[::10], np.zeros(10), np.arange(10), ["x"] * 10, 2000).all.share
    assert ten.upper - ten.lower <= alike.upper - alike.lower < 1.2 * (ten.upper - ten.lower)
    apart = staying(far, np.zeros(100), np.arange(100), ["x"] * 100, 2000).all.share
    assert apart.upper - apart.lower < 0.6 * (alike.upper - alike.lower)


def test_counts_over_effort_undo_where_people_looked() -> None:
    """A fish is as often in either zone; one is fished four times as long."""
    found = zone_matrix([0] * 50, [0] * 40 + [1] * 10, ("low", "high", "far"), [4.0, 1.0, 0.0])
    assert found.counts.tolist() == [[40, 10, 0], [0, 0, 0], [0, 0, 0]]
    assert found.corrected[0, :2] == pytest.approx([0.5, 0.5])
    assert np.isnan(found.corrected[0, 2])
    assert np.isnan(found.corrected[1]).all()
    with pytest.raises(CoreError, match="met in far, where no effort"):
        zone_matrix([0], [2], ("low", "high", "far"), [4.0, 1.0, 0.0])


def test_share_that_stays_is_covered() -> None:
    """300 seeded surveys of 40 fish with one to six journeys, chances that differ by fish: 93 to 97 of 100 hold the truth."""
    rng = np.random.default_rng(11)
    held = 0
    for _ in range(300):
        chance = rng.beta(6, 3, 40)
        fish = np.repeat(np.arange(40), rng.integers(1, 7, 40))
        far = np.where(rng.random(fish.size) < chance[fish], 0.0, 9000.0)
        share = staying(far, np.zeros(fish.size), fish, ["x"] * fish.size, 2000).all.share
        held += share.lower <= 2 / 3 <= share.upper
    assert 0.915 <= held / 300 <= 0.985


def test_distances_as_people_say_them() -> None:
    assert [distance_words(each) for each in (4, 347, 996, 2000, 23_440)] == ["0 m", "350 m", "1 km", "2 km", "23.4 km"]


def test_what_a_map_says() -> None:
    one = where_met_sentence(1, 1, "pike", "2025-05-01", "2025-05-01", 1, 1, ["Tarn"])
    assert one == "1 pike was met once on 2025-05-01, at 1 site on Tarn."
    many = where_met_sentence(1200, 800, "pike", "2024-05-01", "2025-05-01", 1100, 9, ["Beck", "Tarn"])
    assert many == "800 pike were met 1,200 times from 2024-05-01 to 2025-05-01, 1,100 times at 9 sites on 2 waters."
    assert where_met_sentence(2, 1, "pike", "2024-05-01", "2025-05-01", 0, 0, []).endswith("to 2025-05-01.")
