"""Compared findings, cohorts, one fish and its correction, and the home screen."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import numpy as np
import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Run, Target
from nailwright.programmes.models import Change
from nailwright.tags.models import Fish, Placement, Tag
from nailwright.waters.models import Site, Zone
from nailwright.waters.zones import zone_called
from nailwright_core.findings.group_trend import group_trend
from nailwright_core.findings.line_comparison import compare_lines
from nailwright_core.findings.size_structure import compare_lengths

Ask = Callable[..., Any]


@pytest.fixture
def groups(run: Run, outing: Outing, site: Site) -> dict[str, tuple[np.ndarray, np.ndarray]]:
    """Forty weighed walleye at K15 and forty thinner, longer ones at K40."""
    rng = np.random.default_rng(4)
    other = Site.objects.create(water=site.water, name="K40", zone=zone_called(site.water, "Upper river"), river_km=40)
    second = Run.objects.create(
        outing=outing, site=other, number=2, gear="angling", started_at=run.started_at, recorder=run.recorder
    )
    made = {}
    for at, mean, factor in ((run, 380, 1.0), (second, 430, 0.9)):
        mm = rng.normal(mean, 50, 40).clip(200).round()
        g = (factor * 10 ** (-5.4 + 3.15 * np.log10(mm) + rng.normal(0, 0.02, 40))).round(1)
        made[at.site.name] = mm, g
        Capture.objects.bulk_create(
            Capture(programme=outing.programme, run=at, species="wal", length_mm=a, length_type="TL", length_basis="measured",
                    length_text=f"{a:g}", mass_g=b, mass_basis="measured", mass_text=f"{b:g}", recorder=run.recorder)
            for a, b in zip(mm, g, strict=True)
        )  # fmt: skip
    return made


@pytest.fixture
def ask(client_as: Callable[[str], APIClient], run: Run) -> Ask:
    client = client_as("biologist")
    base = f"/api/v1/programmes/{run.outing.programme_id}/findings"

    def get(kind: str, **query: Any) -> Any:
        return client.get(f"{base}/{kind}", {"species": "wal", **query})

    return get


def test_lengths_compared_are_cores_answer(ask: Ask, groups: dict[str, Any]) -> None:
    found = ask("size-compared", by="site").data
    core = compare_lengths(groups["K15"][0], groups["K40"][0])  # each group is one site: over fish
    (pair,) = found["pairs"]
    assert (pair["first"], pair["second"], pair["ks"]) == ("K15", "K40", pytest.approx(core.ks))
    assert (pair["shift"]["value"], pair["shift"]["lower"]) == (core.shift.value, core.shift.lower)
    assert [sum(group["counts"]) for group in found["groups"]] == [40, 40]
    assert all(len(group["counts"]) == len(found["edges"]) - 1 for group in found["groups"])
    assert "longest in K40" in found["sentence"]
    assert ask("size-compared", by="site").data == found


def test_condition_compared_is_cores_answer(ask: Ask, groups: dict[str, Any]) -> None:
    found = ask("condition-compared", by="zone").data
    core = compare_lines({"Lower river": groups["K15"], "Upper river": groups["K40"]})
    (pair,) = found["line_pairs"]
    assert found["at_mm"] == pytest.approx(core.at_mm)
    assert [each["value"] for each in pair["differences"]] == pytest.approx(
        [each.value for each in core.pairs[0].differences]
    )
    assert pair["differences"][1]["value"] == pytest.approx(-10, abs=2) and pair["p_holm"] < 0.01
    assert [group["name"] for group in found["groups"]] == ["Lower river", "Upper river"]
    assert "weigh" in found["sentence"] and found["wr_pairs"]
    assert {"S-Q", "Q-P"} <= {each["category"] for each in found["category_pairs"]}
    assert {each["name"] for each in found["groups"][0]["wr_by_category"]} >= {"S-Q", "Q-P"}


@pytest.fixture
def years(run: Run, outing: Outing, site: Site) -> dict[str, list[tuple[np.ndarray, np.ndarray]]]:
    """Weighed walleye of two years at the same four sites; fish of one site are alike."""
    rng = np.random.default_rng(5)
    before = Outing.objects.create(
        programme=outing.programme, water=outing.water, name="A year ago", gear=outing.gear,
        date=outing.date - timedelta(days=365),
    )  # fmt: skip
    sites = [
        site,
        *(
            Site.objects.create(
                water=site.water, name=f"K2{n}", zone=zone_called(site.water, "Lower river"), river_km=20 + n
            )
            for n in range(3)
        ),
    ]
    made: dict[str, list[tuple[np.ndarray, np.ndarray]]] = {}
    for when in (before, outing):
        for number, at in enumerate(sites, 10):
            there = Run.objects.create(
                outing=when,
                site=at,
                number=number,
                gear="boat_electrofishing",
                started_at=run.started_at,
                recorder=run.recorder,
            )
            mm = rng.normal(340 + 25 * number - 250, 40, 12).clip(200).round()
            g = (10 ** (-5.4 + 3.15 * np.log10(mm) + rng.normal(0, 0.02, 12))).round(1)
            made.setdefault(str(when.date.year), []).append((mm, g))
            Capture.objects.bulk_create(
                Capture(
                    programme=outing.programme,
                    run=there,
                    species="wal",
                    length_mm=a,
                    length_type="TL",
                    length_basis="measured",
                    length_text=f"{a:g}",
                    mass_g=b,
                    mass_basis="measured",
                    mass_text=f"{b:g}",
                    recorder=run.recorder,
                    sex="f" if when is before else "m",
                )
                for a, b in zip(mm, g, strict=True)
            )
    return made


def test_intervals_are_over_sites_unless_fish_are_asked_for(ask: Ask, years: dict[str, Any]) -> None:
    (first, a), (second, b) = sorted(years.items())
    both = [np.concatenate([mm for mm, _ in each]) for each in (a, b)]
    sites = np.repeat(np.arange(4), 12)
    over_sites = compare_lengths(*both, sites=(sites, sites))
    found = ask("size-compared", by="year").data
    (pair,) = found["pairs"]
    assert (pair["first"], pair["second"], pair["ks_p"]) == (first, second, pytest.approx(over_sites.ks_p))
    assert any(each["name"] == "Fish of one site may be alike" for each in found["assumptions"])
    over_fish = ask("size-compared", by="year", over="fish").data
    assert over_fish["pairs"][0]["ks_p"] == pytest.approx(compare_lengths(*both).ks_p)

    size, plain = ask("size").data, ask("size", over="fish").data
    assert "from 4 sites" in size["sentence"] and "sites" not in plain["sentence"]
    width, narrow = (each["median"]["upper"] - each["median"]["lower"] for each in (size, plain))
    assert width > 1.3 * narrow and size["median"]["value"] == plain["median"]["value"]
    condition = ask("condition").data
    assert (
        condition["line"][1]["interval"] == "t over 4 sites"
        and ask("condition", over="fish").data["line"][1]["interval"] == "t"
    )
    assert all(low < mean < high for low, mean, high in zip(
        condition["curve"]["mean_lower_g"], condition["curve"]["mass_g"], condition["curve"]["mean_upper_g"], strict=True))  # fmt: skip
    assert ask("size", over="boats").data["field"] == "over"


def test_years_and_zones_in_order_are_asked_for_a_trend_first(ask: Ask, run: Run, outing: Outing, site: Site) -> None:
    """Five years of which no two differ by themselves and whose lengths fall year by year; zones by their place along the water."""
    rng = np.random.default_rng(8)
    zones = [
        Zone.objects.create(water=site.water, name=f"zone {at}", start_m=1000.0 * at, end_m=1000.0 * at + 900)
        for at in range(5)
    ]
    for n in range(5):
        for at, zone in enumerate(zones):
            there, _ = Site.objects.get_or_create(water=site.water, name=f"S{at}", defaults={"zone": zone})
            day = outing.date.replace(year=2018 + n)
            visit, _ = Outing.objects.get_or_create(
                programme=outing.programme,
                water=outing.water,
                date=day,
                defaults={"name": f"Year {n}", "gear": outing.gear},
            )
            fished = Run.objects.create(
                outing=visit,
                site=there,
                number=at + 1,
                gear="angling",
                started_at=run.started_at,
                recorder=run.recorder,
            )
            Capture.objects.bulk_create(
                Capture(programme=outing.programme, run=fished, species="wal", length_mm=mm, length_type="TL", length_basis="measured",
                        mass_g=round(mm**3 / 1e5), mass_basis="measured", recorder=run.recorder)
                for mm in (430 - 6 * n + rng.normal(0, 60, 12)).round()
            )  # fmt: skip
    found = ask("size-compared", by="year").data
    medians = [each["median"]["value"] for each in found["groups"]]
    core = group_trend(medians, range(2018, 2023), "a year", "over the years")
    assert core is not None
    assert found["trend"]["slope"]["value"] == pytest.approx(core.slope.value) and found["trend"]["p"] == pytest.approx(
        core.p
    )
    assert found["sentence"].startswith("Over the years the median length of walleye changes by -")
    assert found["trend"]["slope"]["name"] == "Over the years, a year"
    assert ask("condition-compared", by="year").data["trend"]["slope"]["unit"] == "%"
    assert ask("size-compared", by="zone").data["trend"]["slope"]["name"] == "Along the water, 10 km upstream"
    zones[0].start_m = None
    zones[0].save()
    assert ask("size-compared", by="zone").data["trend"] is None
    assert ask("size-compared", by="site").data["trend"] is None


def test_groups_of_unlike_boards_are_compared_on_the_coarser_one_or_refused(
    ask: Ask, groups: dict[str, Any], run: Run
) -> None:
    """The second site's crew read to centimetres, then to inches while the first read to centimetres."""
    for fish in Capture.objects.exclude(run=run):
        Capture.objects.filter(pk=fish.pk).update(length_mm=round(fish.length_mm / 10) * 10)
    found = ask("size-compared", by="site").data
    read = next(each for each in found["assumptions"] if each["name"] == "All groups are read to one step")
    assert read["verdict"] == "doubtful" and read["detail"] == "K40 to 10 mm, finer in K15: all are compared to 10 mm."
    assert all(each["median"]["value"] % 5 == 0 for each in found["groups"])
    for fish in Capture.objects.filter(run=run):
        Capture.objects.filter(pk=fish.pk).update(length_mm=round(fish.length_mm / 25.4) * 25.4)
    refused = ask("size-compared", by="site")
    assert refused.status_code == 422 and refused.data["code"] == "steps_do_not_nest"
    assert ask("condition-compared", by="site").status_code == 200


def test_groups_that_were_sampled_unlike_are_told(ask: Ask, years: dict[str, Any]) -> None:
    for kind in ("size-compared", "condition-compared"):
        found = {each["name"]: each for each in ask(kind, by="year").data["assumptions"]}
        assert found["Groups are alike in sex"]["verdict"] == "doubtful"
        assert "Groups are alike in zone" not in found  # all of one reach: nothing to tell apart


def test_a_fish_caught_again_counts_once_where_asked(ask: Ask, years: dict[str, Any], run: Run) -> None:
    programme = run.outing.programme
    marked = Fish.objects.create(programme=programme, species="wal")
    now = timezone.now()
    rows = list(Capture.objects.order_by("length_mm")[:3])
    for age, row in enumerate(rows):
        Capture.objects.filter(pk=row.pk).update(fish=marked, device_time=now - timedelta(days=age))
    every, once = ask("size").data, ask("size", once="true").data
    assert (every["n"], once["n"]) == (96, 94)
    assert {"reason": "caught again later", "n": 2} in once["left_out"]
    assert every["left_out"] == []
    # the last capture is the one that counts, and one that was taken out counts for none
    Capture.objects.filter(pk=rows[0].pk).update(deleted_at=now)
    assert ask("size", once="true").data["n"] == 94
    assert ask("condition", once="true").data["n"] == 94
    assert ask("size-compared", by="year", once="true").data["n"] == 94


@pytest.mark.parametrize("by", ["year", "season", "water", "sex"])
def test_one_group_is_nothing_to_compare(ask: Ask, groups: dict[str, Any], by: str) -> None:
    for kind in ("size-compared", "condition-compared"):
        response = ask(kind, by=by)
        assert (response.status_code, response.data["code"], response.data["field"]) == (422, "too_few_groups", "by")


@pytest.mark.parametrize("kind", ["size", "condition", "size-compared", "condition-compared", "cohorts"])
def test_a_selection_with_no_fish_is_answered_plainly(ask: Ask, groups: dict[str, Any], kind: str) -> None:
    response = ask(kind, last="1999-01-01")
    assert response.status_code == 422 and "selection" in response.data["message"]


def test_gear_and_sex_make_groups(ask: Ask, groups: dict[str, Any]) -> None:
    assert {each["name"] for each in ask("size-compared", by="gear").data["groups"]} == {
        "Angling",
        "Boat electrofishing",
    }
    Capture.objects.filter(run__number=2).update(sex="f")
    assert {each["name"] for each in ask("size-compared", by="sex").data["groups"]} == {"Female", "Unknown"}


def test_two_groups_of_one_fish_are_refused_plainly(ask: Ask, groups: dict[str, Any]) -> None:
    keep = [Capture.objects.filter(run__number=number).values_list("pk", flat=True)[0] for number in (1, 2)]
    Capture.objects.exclude(pk__in=keep).delete()
    assert ask("size-compared", by="site").data["code"] == "too_few_fish"
    assert ask("condition-compared", by="site").data["code"] == "too_few_lengths"


@pytest.mark.parametrize(
    ("kind", "query", "field"),
    [
        ("size-compared", {"by": "mood"}, "by"),
        ("cohorts", {"spread": "wide"}, "spread"),
        ("cohorts", {"k": "many"}, "k"),
        ("cohorts", {"k": "9"}, "k"),
        ("cohorts", {"start": "-5"}, "start.0"),
        ("cohorts", {"bin_mm": "0"}, "bin_mm"),
        ("cohorts", {"species": "bur"}, "selection"),
    ],
)
def test_questions_that_cannot_be_answered(
    ask: Ask, groups: dict[str, Any], kind: str, query: dict[str, str], field: str
) -> None:
    response = ask(kind, **query)
    assert (response.status_code, response.data["field"]) == (422, field)


def test_cohorts_by_bic_and_by_hand(ask: Ask, groups: dict[str, Any]) -> None:
    found = ask("cohorts").data
    assert found["k"] == len(found["cohorts"]) and sum(found["counts"]) == found["n"] == 80
    dragged = ask("cohorts", start=["300", "450"]).data
    assert dragged["k"] == 2 and len(dragged["curves"]) == 2 and len(dragged["curves"][0]) == len(dragged["at_mm"])
    area = sum(map(sum, dragged["curves"])) * (dragged["at_mm"][1] - dragged["at_mm"][0]) / dragged["bin_mm"]
    assert area == pytest.approx(80, rel=0.05)


def test_lengths_of_many_dates_are_told_so_and_the_latest_visit_is_offered(ask: Ask, groups: dict[str, Any]) -> None:
    last = Outing.objects.get()
    first = Outing.objects.create(
        programme=last.programme, water=last.water, name="Spring", gear=last.gear, date=last.date - timedelta(days=180)
    )
    Run.objects.filter(number=2).update(outing=first)
    found = ask("cohorts", k="1").data
    visit = found["latest_visit"]
    assert visit["last"] == last.date.isoformat() > visit["first"] > first.date.isoformat()
    assert found["assumptions"][0]["verdict"] == "doubtful" and "mixture of dates" in found["assumptions"][0]["detail"]
    alone = ask("cohorts", k="1", first=visit["first"], last=visit["last"]).data
    assert alone["latest_visit"] is None and alone["n"] < found["n"]
    assert alone["assumptions"][0]["name"] == "Cohorts stand apart" and alone["step_mm"] > 0


def test_all_lengths_equal_have_no_cohorts(ask: Ask, groups: dict[str, Any]) -> None:
    Capture.objects.update(length_mm=400.0)
    assert ask("cohorts").data["code"] == "lengths_all_equal"
    assert ask("size-compared", by="site").data["pairs"][0]["ks"] == 0


def test_a_correction_changes_the_fish_keeps_history_and_the_finding_follows(
    ask: Ask, groups: dict[str, Any], client_as: Callable[[str], APIClient], outing: Outing
) -> None:
    Outing.objects.update(state=Outing.State.CLOSED)
    fish = Capture.objects.filter(run__number=1).first()
    assert fish is not None
    biologist = client_as("biologist")
    change = {"id": str(new_id()), "reason": "digits swapped on the sheet", "length": "18 1/2 in"}
    response = biologist.post(f"/api/v1/captures/{fish.pk}", change, format="json")
    assert response.status_code == 200
    assert response.data["capture"]["length_mm"] == 469.9 and response.data["capture"]["mass_g"] == fish.mass_g
    assert biologist.post(f"/api/v1/captures/{fish.pk}", change, format="json").status_code == 200
    assert Change.objects.get().reason == "digits swapped on the sheet"
    assert 469.9 in ask("condition").data["points"]["length_mm"]


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"reason": ""}, "reason_missing"),
        ({"reason": "why not", "length": "12 13"}, "length_unreadable"),
        ({"reason": "why not", "length": "9000"}, "length_impossible"),
        ({"reason": "why not", "sex": "x"}, "invalid"),
        ({"reason": "why not", "species": "zzz"}, "species_not_in_programme"),
    ],
)
def test_corrections_that_cannot_be(
    groups: dict[str, Any], client_as: Callable[[str], APIClient], change: dict[str, str], code: str
) -> None:
    fish = Capture.objects.first()
    assert fish is not None
    body = {"id": str(new_id()), "length": "400", **change}
    response = client_as("lead").post(f"/api/v1/captures/{fish.pk}", body, format="json")
    assert (response.status_code, response.data["code"]) == (422, code)
    assert Change.objects.count() == 0


def test_today_shows_targets_and_what_waits(crew: APIClient, run: Run, outing: Outing) -> None:
    Outing.objects.update(date=timezone.now().date() - timedelta(days=3))
    Target.objects.create(outing=outing, species="wal", what="measured", wanted=10)
    Target.objects.create(outing=outing, species="wal", what="marked", wanted=5, from_mm=250)
    fish = [
        Capture.objects.create(programme=outing.programme, run=run, species="wal", length_mm=mm, length_basis=basis, recorder=run.recorder,
                               scanned=scanned, questions=questions)
        for mm, basis, scanned, questions in (
            (300.0, "measured", "none", []),
            (310.0, "estimated", "foreign", []),
            (320.0, "measured", "", [{"code": "mass_off", "answer": "not asked"}]),
        )
    ]  # fmt: skip
    tag = Tag.objects.create(programme=outing.programme, kind="pit", number="999000000000101", state="placed")
    marked = Fish.objects.create(programme=outing.programme, species="wal")
    Placement.objects.create(tag=tag, fish=marked, capture_id=fish[0].pk, living_tag=tag.pk, recorder=run.recorder)
    today = crew.get(f"/api/v1/programmes/{outing.programme_id}/today").data
    (open_outing,) = today["outings"]
    assert {(each["what"], each["done"], each["wanted"]) for each in open_outing["targets"]} == {
        ("measured", 2, 10),
        ("marked", 1, 5),
    }
    assert open_outing["aboard"] == 3
    assert [each["code"] for each in today["waiting"]] == ["outing_open", "doubt_unasked", "mark_foreign"]
