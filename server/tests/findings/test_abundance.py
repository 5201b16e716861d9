"""How many fish, by marks and by passes, and how they grow; asked over HTTP."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Release, Run
from nailwright.programmes.models import Programme, ProgrammeSpecies
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from nailwright_core.findings.abundance import petersen, petersen_strata, schnabel
from server.tests.findings.basin import Basin

Ask = Callable[..., Any]


@pytest.fixture
def ask(client_as: Callable[[str], APIClient], programme: Programme) -> Ask:
    client = client_as("biologist")
    return lambda kind, **asked: client.get(
        f"/api/v1/programmes/{programme.pk}/findings/{kind}", {"species": "wal", **asked}
    )


def test_two_catches_are_chapman(ask: Ask, basin: Basin) -> None:
    first, second = basin.run("T10", "2025-05-01"), basin.run("T10", "2025-05-08")
    fish = [basin.tagged(first) for _ in range(20)]
    for each in fish[:5]:
        basin.met(second, each)
    basin.met(second, fish[0])  # twice on one evening is once
    basin.caught(second, 15, mm=None, scanned="none")
    basin.caught(second, 9, mm=None)  # nobody looked
    basin.done()
    told = ask("abundance-marks").data
    assert [(each["looked_at"], each["recaptured"], each["at_large"], each["let_go"]) for each in told["counts"]] == [
        (20, 0, 0, 20),
        (20, 5, 20, 0),
    ]
    wanted = petersen(20, 20, 5).n
    assert (told["best"]["n"]["value"], told["best"]["n"]["upper"]) == (
        pytest.approx(wanted.value),
        pytest.approx(wanted.upper),
    )
    assert told["left_out"] == [{"reason": "not looked at for a mark", "n": 1}]
    assert "15 of the fish had no mark" in told["no_models"] and told["others"] == []


def test_shares_of_marks_by_zone_or_site(ask: Ask, basin: Basin) -> None:
    """Marked at T10; met at T10 and T2 of the low zone, and at T36 of the high one without a mark."""
    fish = [basin.tagged(basin.run("T10", "2025-05-01")) for _ in range(3)]
    for site, met in (("T10", fish[:2]), ("T2", fish[2:]), ("T36", [])):
        run = basin.run(site, "2025-05-08")
        for each in met:
            basin.met(run, each)
        basin.caught(run, 4, mm=None, scanned="none")
    basin.done()

    def parts(**more: str) -> list[tuple[str, int, int]]:
        told = ask("abundance-marks", **more).data["parts"]
        return [(each["name"], each["share"]["n"], each["marked"]) for each in told]

    assert parts() == parts(by="zone") == [("high", 4, 0), ("low", 11, 3)]
    assert parts(by="site") == [("T2", 5, 1), ("T10", 6, 2), ("T36", 4, 0)]


def test_strata_of_two_catches(ask: Ask, basin: Basin) -> None:
    """Few marks and a large catch in the low zone, many marks and a small one in the high: one estimate for all is far off."""
    low, high = basin.run("T10", "2025-05-01"), basin.run("T36", "2025-05-01", number=2)
    marked = {
        "low": [basin.tagged(low, mm=300) for _ in range(12)],
        "high": [basin.tagged(high, mm=520) for _ in range(40)],
    }
    caught = {
        "low": (basin.run("T10", "2025-05-08"), 3, 60, 300),
        "high": (basin.run("T36", "2025-05-08", number=2), 10, 10, 520),
    }
    for zone, (run, again, unmarked, mm) in caught.items():
        for each in marked[zone][:again]:
            basin.met(run, each, mm=mm)
        for _ in range(unmarked):
            basin.caught(run, mm=mm, scanned="none")
    basin.done()
    wanted = petersen_strata({"high": (40, 20, 10), "low": (12, 63, 3)})
    for by, names in (("zone", ["high", "low"]), ("size", ["preferred", "stock"])):
        told = ask("abundance-marks", by=by).data
        assert sorted(each["name"] for each in told["strata"]["each"]) == sorted(names)
        assert [told["strata"]["n"][end] for end in ("value", "lower", "upper")] == [
            pytest.approx(each, abs=0.06) for each in (wanted.n.value, wanted.n.lower, wanted.n.upper)
        ]
        assert told["no_strata"] == "" and told["assumptions"][-1]["verdict"] == "fails"
    told = ask("abundance-marks", by="sex").data
    assert told["strata"] is None and told["no_strata"] == ""  # nobody looked at their sex: one part


def test_strata_are_refused_where_fish_do_not_stay(ask: Ask, basin: Basin) -> None:
    low, high = basin.run("T10", "2025-05-01"), basin.run("T36", "2025-05-01", number=2)
    fish = [basin.tagged(low) for _ in range(9)] + [basin.tagged(high) for _ in range(9)]
    again = basin.run("T36", "2025-05-08")
    for each in (fish[0], fish[10], fish[11]):
        basin.met(again, each)
    basin.caught(basin.run("T10", "2025-05-08", number=2), 12, mm=None, scanned="none")
    basin.done()
    told = ask("abundance-marks").data
    assert told["strata"] is None
    assert told["no_strata"] == "1 of 3 recaptured fish were marked in another zone: they do not stay in theirs."


def test_strata_are_refused_where_nothing_was_marked(ask: Ask, basin: Basin) -> None:
    fish = [basin.tagged(basin.run("T10", "2025-05-01")) for _ in range(9)]
    basin.met(basin.run("T10", "2025-05-08"), fish[0])
    basin.caught(basin.run("T36", "2025-05-08", number=2), 12, mm=None, scanned="none")
    basin.done()
    assert ask("abundance-marks").data["no_strata"] == "Fish were marked in one zone only."
    assert ask("abundance-marks", by="moon").status_code == 422


def test_shares_by_site_of_a_protected_species_are_not_told(
    basin: Basin, programme: Programme, client_as: Callable[[str], APIClient]
) -> None:
    hidden = {**species_values(species.get("wal")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=hidden)
    fish = [basin.tagged(basin.run("T10", "2025-05-01")) for _ in range(3)]
    basin.met(basin.run("T2", "2025-05-08"), fish[0])
    basin.done()
    address = f"/api/v1/programmes/{programme.pk}/findings/abundance-marks"
    assert client_as("viewer").get(address, {"species": "wal"}).status_code == 200
    assert client_as("viewer").get(address, {"species": "wal", "by": "site"}).status_code == 403
    assert client_as("crew").get(address, {"species": "wal", "by": "site"}).status_code == 200


def test_a_mark_that_died_is_not_at_large(ask: Ask, basin: Basin) -> None:
    runs = [basin.run("T10", f"2025-05-{day:02d}") for day in (1, 8, 15)]
    fish = [basin.tagged(runs[0]) for _ in range(12)]
    for each in fish[:3]:
        basin.met(runs[1], each)
    new = [basin.tagged(runs[1]) for _ in range(9)]
    for each in [*fish[3:6], *new[:2]]:
        basin.met(runs[2], each)
    basin.done()
    told = ask("abundance-marks").data
    assert [each["at_large"] for each in told["counts"]] == [0, 12, 21]
    assert told["best"]["n"]["value"] == pytest.approx(schnabel([12, 12, 5], [0, 3, 5], [0, 12, 21]).n.value)
    assert {each["name"] for each in told["others"]} >= {
        "M0",
        "Mt",
        "At least (Chao)",
    }  # every fish was known from the others
    dead = Capture.objects.get(fish=fish[0], run=runs[1])
    Release.objects.create(capture=dead, fate="dead", recorder=basin.person, device_time=dead.device_time)
    basin.done()
    assert [each["at_large"] for each in ask("abundance-marks").data["counts"]] == [0, 12, 20]


def test_catches_far_apart_are_no_closed_water(ask: Ask, basin: Basin) -> None:
    first, second = basin.run("T10", "2023-05-01"), basin.run("T10", "2025-05-08")
    fish = [basin.tagged(first) for _ in range(20)]
    for each in fish[:5]:
        basin.met(second, each)
    basin.done()
    told = ask("abundance-marks").data
    assert told["assumptions"][0]["verdict"] == "fails" and "too far apart" in told["sentence"]
    one = ask("abundance-marks", first="2025-01-01")
    assert one.status_code == 422 and "It takes two" in one.data["message"]


def test_no_marks_and_none_met_again(ask: Ask, basin: Basin) -> None:
    basin.caught(basin.run("T10", "2025-05-01"), scanned="none")
    assert ask("abundance-marks").data["code"] == "nobody_marked"
    for day in (2, 9):
        basin.tagged(basin.run("T10", f"2025-05-{day:02d}"))
    basin.done()
    assert ask("abundance-marks").data["code"] == "no_recaptures"


def test_passes_at_three_sites(ask: Ask, basin: Basin) -> None:
    for site, catches in (("T2", (38, 26, 12)), ("T10", (20, 8, 4)), ("T25", (9, 3, 1))):
        for number, n in enumerate(catches, 1):
            basin.caught(basin.run(site, "2025-08-01", number=number, distance_m=100), n, mm=None)
    basin.run("T36", "2025-08-01")
    told = ask("abundance-removal").data
    assert [each["catches"] for each in told["sites"]] == [[38, 26, 12], [20, 8, 4], [9, 3, 1]]
    assert told["sites"][0]["alike"]["value"] == 91  # Carle and Strub 1978
    assert told["sites"][0]["n"]["value"] == pytest.approx(128, abs=1)
    assert told["sites"][0]["minutes"] == [15, 15, 15] and told["sites"][0]["leslie"]["value"] == pytest.approx(
        97.8, abs=0.1
    )
    assert told["sites"][0]["delury"]["value"] == pytest.approx(93.9, abs=0.1)
    assert told["density"]["unit"] == "fish per 100 m" and told["density"]["n"] == 3
    assert told["left_out"] == [{"reason": "visits of one pass", "n": 1}]
    assert ask("abundance-removal", species="nop").data["code"] == "no_fish"
    Run.objects.filter(outing__date="2025-08-01", site__name="T2", number=2).update(current_on_s=1800)
    longer = ask("abundance-removal").data["sites"][0]
    assert longer["minutes"] == [15, 30, 15] and longer["leslie"]["value"] != told["sites"][0]["leslie"]["value"]
    Run.objects.filter(outing__date="2025-08-01", site__name="T2", number=2).update(current_on_s=0)
    unknown = ask("abundance-removal").data["sites"][0]
    assert (unknown["minutes"], unknown["leslie"], unknown["alike"]["value"]) == ([], None, 91)


def test_one_pass_says_nothing(ask: Ask, basin: Basin) -> None:
    basin.caught(basin.run("T2", "2025-08-01"), 5, mm=None)
    refused = ask("abundance-removal")
    assert (refused.status_code, refused.data["code"]) == (422, "no_passes")


def test_growth_of_fish_that_were_measured_twice(ask: Ask, basin: Basin) -> None:
    """Growth of 80 mm a year at 280 mm and 25 at 460, a third more or less from fish to fish."""
    rng = np.random.default_rng(9)
    tagging, again = basin.run("T10", "2024-05-01"), basin.run("T10", "2025-05-01", number=2)
    soon = basin.run("T10", "2024-05-20", number=3)
    for length in rng.uniform(250, 480, 40).round():
        fish = basin.tagged(tagging, length)
        grown = (80 - (length - 280) * 55 / 180) * (1 + 0.3 * rng.standard_normal())
        basin.met(again, fish, round(length + grown))
    basin.met(soon, basin.tagged(tagging, 300), 301)
    forked = basin.met(again, basin.tagged(tagging, 400), 360)  # as a fork length: it has not shrunk
    Capture.objects.filter(pk=forked.pk).update(length_type="FL")
    basin.done()
    told = ask("recapture-growth").data
    assert told["n"] == 40 and told["left_out"] == [
        {"reason": "measured again in less than 90 days", "n": 1},
        {"reason": "lengths of another type, or not by a crew", "n": 1},
    ]
    for each in told["at"]:
        truth = 80 - (float(each["name"].split()[0]) - 280) * 55 / 180
        assert each["lower"] < truth < each["upper"]
    assert [each["name"] for each in told["groups"]] == ["unknown"]
    assert ask("recapture-growth", error_mm=5).data["estimated_error_mm"] == 5
    few = ask("recapture-growth", days=365, species="nop")
    assert few.status_code == 422 and "0 northern pike were measured twice" in few.data["message"]
