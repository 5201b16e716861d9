"""Fish from catches in which marks were let go and looked for."""

from __future__ import annotations

import math
import re

import numpy as np
import pytest
from scipy import stats

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance.marked_catches import from_marks, marks_sentence, shares_marked, with_shares
from nailwright_core.findings.abundance.marks import petersen
from nailwright_core.findings.abundance.occasions import schnabel, schumacher_eschmeyer

#: Fourteen catches with marks going out at each (made up; the published ones are in tests/published).
CAUGHT = [10, 27, 17, 7, 1, 5, 6, 15, 9, 18, 16, 5, 7, 19]
MET = [0, 0, 0, 0, 0, 0, 2, 1, 5, 5, 4, 2, 2, 3]
AT_LARGE = [0, 10, 37, 54, 60, 61, 66, 70, 84, 88, 101, 113, 116, 121]


def test_two_catches_are_chapman_and_more_are_schnabel() -> None:
    two = from_marks([109, 177], [0, 57], [0, 109], 14)
    assert (two.best.name, two.best.n) == ("Chapman", petersen(109, 177, 57).n)
    more = from_marks(CAUGHT, MET, AT_LARGE, 14)
    assert (more.best.name, more.best.n) == ("Schnabel", schnabel(CAUGHT, MET, AT_LARGE).n)
    assert more.others[0].n == schumacher_eschmeyer(CAUGHT, MET, AT_LARGE).n


def test_models_are_told_where_every_fish_was_known() -> None:
    rng = np.random.default_rng(2)
    x = (rng.random((120, 4)) < 0.3).astype(int)
    x = x[x.any(axis=1)]
    caught = x.sum(axis=0)
    before = np.cumsum(x, axis=1) - x
    met = ((x == 1) & (before > 0)).sum(axis=0)
    at_large = (before > 0).sum(axis=0)
    found = from_marks(caught, met, at_large, 10, x)
    assert {"M0", "Mt", "At least (Chao)"} <= {each.name for each in found.others}
    assert found.others[-1].name == "At least (Chao)"
    assert found.best.n.lower <= 120 <= found.best.n.upper


@pytest.mark.parametrize(("days", "verdict"), [(20, "not checked"), (90, "doubtful"), (800, "fails")])
def test_a_water_is_not_closed_for_long(days: float, verdict: str) -> None:
    found = from_marks([109, 177], [0, 57], [0, 109], days)
    assert found.assumptions[0].verdict == verdict
    assert ("too far apart" in marks_sentence(found, "pike", 2, 286, 57)) == (verdict == "fails")


def test_the_factor_is_said_in_words() -> None:
    wide = marks_sentence(from_marks([87, 14], [0, 7], [0, 87], 5), "pike", 2, 101, 7)
    assert wide.startswith("About 164 pike (")
    assert "There could be a third fewer or" in wide
    assert "There could be a fifth fewer or a quarter more." in marks_sentence(
        from_marks([109, 177], [0, 57], [0, 109], 5), "pike", 2, 286, 57
    )


def test_marks_that_have_not_mixed_are_seen() -> None:
    mixed, fine = shares_marked({"low": (200, 20), "high": (180, 17)})
    assert fine.verdict == "not refuted"
    assert mixed[0].share.value == pytest.approx(0.1)
    _, apart = shares_marked({"low": (200, 40), "high": (180, 2)})
    assert apart.verdict == "fails"
    assert "20.0 % of the fish had a mark in low, 1.1 % in high" in apart.detail
    assert shares_marked({"low": (200, 40)})[1].verdict == "not checked"
    found = with_shares(from_marks([109, 177], [0, 57], [0, 109], 5), apart)
    assert found.assumptions[1] == apart


def test_few_fish_at_many_sites_are_compared_with_random_tables() -> None:
    """Fisher's exact test of scipy for two sites; of tables of like sites of few fish one in twenty is called unlike at most."""
    table = {"a": (9, 5), "b": (8, 0)}
    p = float(re.search(r"p = ([\d.]+)", shares_marked(table, part="site")[1].detail)[1])  # type: ignore[index]
    assert p == pytest.approx(stats.fisher_exact([[5, 4], [0, 8]]).pvalue, abs=0.01)
    rng, called = np.random.default_rng(3), 0
    for _ in range(200):
        sites = {str(site): (n, int(rng.binomial(n, 0.15))) for site, n in enumerate(rng.integers(1, 9, 8))}
        called += shares_marked(sites)[1].verdict == "fails"
    assert called <= 200 * 0.05 + 3 * (200 * 0.05 * 0.95) ** 0.5


def test_what_says_nothing_is_refused() -> None:
    with pytest.raises(CoreError, match="any number of fish"):
        from_marks([50, 60], [0, 0], [0, 50], 5)
    with pytest.raises(CoreError, match="before a later catch"):
        from_marks([50, 60], [0, 0], [0, 0], 5)
    with pytest.raises(CoreError, match="two catches"):
        from_marks([50], [0], [0], 5)
    assert math.isnan(from_marks([109, 177], [0, 57], [0, 109], 5).best.weight)
