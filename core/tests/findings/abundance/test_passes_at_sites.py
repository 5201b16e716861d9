"""Fish at sites that were fished in passes, and over them."""

from __future__ import annotations

import math

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance.depletion import delury, leslie
from nailwright_core.findings.abundance.passes_at_sites import SitePasses, from_passes, passes_sentence
from nailwright_core.findings.abundance.removal import removal
from nailwright_core.findings.abundance.removal_falling import removal_falling
from nailwright_core.findings.abundance.removal_sites import removal_sites

SITES = [SitePasses("a", (38, 26, 12), 1.0), SitePasses("b", (20, 8, 4), 0.8), SitePasses("c", (9, 3, 1), 1.2)]


def test_each_site_and_all_together_are_the_estimators_own() -> None:
    found = from_passes(SITES)
    assert found.sites[0].alike == removal([38, 26, 12]).n
    assert found.sites[0].n == removal_falling([38, 26, 12]).n
    assert found.density is not None
    assert found.density.density == removal_sites([each.catches for each in SITES], [1.0, 0.8, 1.2]).density
    assert "per 100 m (" in passes_sentence(found, "trout")


def test_without_a_distance_it_is_per_site() -> None:
    found = from_passes([SITES[0], SITES[1], SitePasses("c", (9, 3, 1), math.nan)])
    assert found.per_site
    assert "per site (" in passes_sentence(found, "trout")


def test_one_site_two_passes_and_catches_that_do_not_fall() -> None:
    one = from_passes([SITES[0]])
    assert one.density is None
    assert "About 128 trout" in passes_sentence(one, "trout")
    two = from_passes([SitePasses("a", (40, 20), 1.0)])
    ends = two.sites[0].ends
    assert two.sites[0].n is None and ends is not None and ends[0] < ends[1]
    level = from_passes([SitePasses("a", (10, 10, 11), 1.0)])
    assert level.sites[0].alike is None and level.sites[0].n is not None
    empty = from_passes([SITES[0], SitePasses("none", (0, 0, 0), 1.0)])
    assert empty.sites[1].n is None


def test_the_fall_with_effort_is_told_where_every_effort_is_known() -> None:
    passes = SitePasses("a", (38, 26, 12), 1.0, (10.0, 12.0, 9.0))
    told = from_passes([passes]).sites[0]
    assert told.by_effort == (leslie(passes.catches, passes.efforts).n, delury(passes.catches, passes.efforts).n)
    assert from_passes([SitePasses("a", (38, 26, 12), 1.0, (10.0, 12.0))]).sites[0].by_effort == (None, None)
    assert from_passes([SitePasses("a", (40, 20), 1.0, (10.0, 10.0))]).sites[0].by_effort == (None, None)
    nought = from_passes([SitePasses("a", (40, 10, 0), 1.0, (10.0, 10.0, 10.0))]).sites[0].by_effort
    assert nought[0] is not None and nought[1] is None  # a logarithm of no catch
    # twice the effort for half the catch is a steeper fall than the catches say
    unlike = from_passes([SitePasses("a", (40, 30, 22), 1.0, (10.0, 15.0, 20.0))]).sites[0]
    assert unlike.by_effort[0] and unlike.alike and unlike.by_effort[0].value < unlike.alike.value


def test_what_says_nothing_is_refused() -> None:
    with pytest.raises(CoreError, match="two passes"):
        from_passes([SitePasses("a", (4,), 1.0)])
    with pytest.raises(CoreError, match="No fish"):
        from_passes([SitePasses("a", (0, 0), 1.0)])
