"""Doubts about reports of tags."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from nailwright_core.tags.plausibility import LastKnown, Reported, doubts_of_report

FISH = LastKnown(
    species="wal",
    tagged=date(2026, 5, 1),
    met=date(2026, 5, 1),
    lat=44.9,
    lon=-31.6,
    error_m=500,
    length_mm=412,
    measured=date(2026, 5, 1),
)
REPORT = Reported(species="wal", found=date(2026, 8, 1), lat=44.95, lon=-31.55, error_m=500, length_mm=430)


def codes(fish: LastKnown = FISH, **told: object) -> list[str]:
    return [each.code for each in doubts_of_report(fish, replace(REPORT, **told))]  # type: ignore[arg-type]


def test_an_ordinary_report_raises_none() -> None:
    assert codes() == []


def test_what_is_unknown_raises_none() -> None:
    assert doubts_of_report(LastKnown("wal"), Reported()) == ()
    assert doubts_of_report(FISH, Reported()) == ()


def test_another_species() -> None:
    assert codes(species="nop") == ["species_differs"]
    assert codes(species="") == []


def test_found_before_it_was_tagged_unless_the_day_may_be_off() -> None:
    early = date(2026, 4, 28)
    assert "before_tagging" in codes(found=early, length_mm=None)
    assert "before_tagging" not in codes(found=early, within_days=3, length_mm=None)


def test_after_the_record_ended_it() -> None:
    gone = replace(FISH, gone=date(2026, 6, 1), tag_gone=date(2026, 6, 15))
    assert codes(gone) == ["fish_gone", "tag_gone"]
    assert codes(gone, found=date(2026, 5, 20)) == []


def test_three_thousand_kilometres_in_a_day() -> None:
    # 27 degrees of latitude are 3,000 km (a degree is 111.2 km on the sphere)
    assert codes(found=date(2026, 5, 2), lat=44.9 + 27, length_mm=None) == ["too_fast"]
    assert codes(found=date(2026, 8, 1), lat=44.9 + 27, length_mm=None) == []


def test_within_the_position_error_it_has_not_moved() -> None:
    assert codes(found=date(2026, 5, 1), lat=47.9, error_m=400_000, length_mm=None) == []


@pytest.mark.parametrize(
    ("length", "estimated", "code"),
    [
        (395, False, None),
        (385, False, "shrunk"),
        (385, True, None),
        (320, True, "shrunk"),
        (600, False, "grown_too_fast"),
    ],
)
def test_growth(length: float, estimated: bool, code: str | None) -> None:
    assert codes(length_mm=length, estimated=estimated) == ([code] if code else [])


def test_on_land_beyond_the_error_of_its_place() -> None:
    assert codes(off_water_m=4000.0) == ["on_land"]
    assert codes(off_water_m=400.0) == []


def test_the_same_event_told_twice() -> None:
    near, far = REPORT.found + timedelta(days=2), REPORT.found + timedelta(days=30)  # type: ignore[operator]
    assert codes(other_days=(near, far)) == ["same_event"]
    assert "1 other report of" in doubts_of_report(FISH, replace(REPORT, other_days=(near,)))[0].text
    assert codes(other_days=(far,)) == []
