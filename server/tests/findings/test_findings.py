"""Findings over HTTP: selections, answers, rows."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Outing, Run
from nailwright.waters.models import Site
from nailwright.waters.zones import zone_called
from nailwright_core.findings.condition import fit_length_mass
from nailwright_core.findings.size_structure import proportional_size_distribution

LENGTHS = [220.0, 260.0, 300.0, 385.0, 400.0, 460.0, 520.0, 640.0]


@pytest.fixture
def biologist(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("biologist")


@pytest.fixture
def catch(run: Run) -> list[Capture]:
    """Eight weighed walleye, one judged by eye, one by fork length, one counted, and three perch."""

    def fish(**values: Any) -> Capture:
        row = {"species": "wal", "length_type": "TL", "length_basis": "measured", "recorder": run.recorder, **values}
        return Capture.objects.create(programme=run.outing.programme, run=run, **row)

    rows = [
        fish(length_mm=mm, mass_g=round(1.1e-5 * mm**2.98, 1), mass_basis="measured", length_text=f"{mm:g}")
        for mm in LENGTHS
    ]
    rows.append(fish(length_mm=700.0, length_basis="estimated"))
    rows.append(fish(length_mm=430.0, length_type="FL"))
    rows.append(fish(count=5, length_basis="", length_type=""))
    rows += [fish(species="yep", length_mm=200.0) for _ in range(3)]
    return rows


@pytest.fixture
def ask(biologist: APIClient, run: Run) -> Callable[..., Any]:
    def get(kind: str, **query: Any) -> Any:
        return biologist.get(f"/api/v1/programmes/{run.outing.programme_id}/{kind}", {"species": "wal", **query})

    return get


def test_size_is_cores_answer_over_the_rows(ask: Callable[..., Any], catch: list[Capture]) -> None:
    found = ask("findings/size").data
    core = proportional_size_distribution(
        LENGTHS, {"stock": 250, "quality": 380, "preferred": 510, "memorable": 630, "trophy": 760}
    )
    psd = next(each for each in found["distribution"] if each["name"] == "PSD")
    assert (psd["value"], psd["lower"], psd["upper"]) == pytest.approx((core.psd.value, core.psd.lower, core.psd.upper))
    assert found["n"] == 8 and sum(found["frequency"]["counts"]) == 8
    left = {each["reason"]: each["n"] for each in found["left_out"]}
    assert left["length estimated, not measured"] == 1 and left["no length taken"] == 5 and sum(left.values()) == 7


def test_what_many_fish_share_is_said_before_the_answer(
    ask: Callable[..., Any], catch: list[Capture], run: Run
) -> None:
    """Masses in kg, and a run that came in twice: the finding says so, and where the two stand."""
    assert ask("findings/condition").data["doubts"] == [] == ask("findings/size", by="site").data["doubts"]
    again = Run.objects.create(
        outing=run.outing, site=run.site, number=2, gear=run.gear, started_at=run.started_at, recorder=run.recorder
    )
    for fish in catch[:8]:
        Capture.objects.create(programme=run.outing.programme, run=again, species="wal", length_type="TL", length_basis="measured",
                               length_mm=fish.length_mm, mass_g=fish.mass_g, mass_basis="measured", recorder=run.recorder)  # fmt: skip
    (twice,) = ask("findings/size").data["doubts"]
    assert "run 1 (" in twice and "run 2 (" in twice and "the same 8 fish to the last figure" in twice
    for fish in Capture.objects.filter(run=again):
        Capture.objects.filter(pk=fish.pk).update(mass_g=fish.mass_g / 1000)
    (kilograms,) = ask("findings/condition").data["doubts"]
    assert "8 of 16 weighed fish" in kilograms and "mass in kg" in kilograms
    compared = ask("findings/condition-compared", by="gear")
    assert compared.status_code == 422 or compared.data["doubts"] == [kilograms]


def test_estimated_lengths_come_in_when_asked(ask: Callable[..., Any], catch: list[Capture]) -> None:
    assert ask("findings/size", estimated="true").data["n"] == 9


def test_condition_is_cores_answer_over_the_rows(ask: Callable[..., Any], catch: list[Capture]) -> None:
    found = ask("findings/condition").data
    masses = [row.mass_g for row in catch[:8]]
    core = fit_length_mass(LENGTHS, masses)
    assert found["line"][1]["value"] == pytest.approx(core.b.value)
    assert found["n"] == found["n_drawn"] == 8
    assert sorted(found["points"]["length_mm"]) == LENGTHS
    assert {each["reason"]: each["n"] for each in found["left_out"]}["not weighed"] == 2


def test_a_selection_narrows_by_each_of_its_parts(
    ask: Callable[..., Any], catch: list[Capture], run: Run, outing: Outing, site: Site
) -> None:
    elsewhere = Site.objects.create(water=site.water, name="K40", zone=zone_called(site.water, "Upper river"))
    later = Outing.objects.create(
        programme=outing.programme, water=site.water, name="Later", date="2026-12-01", gear="angling"
    )
    second = Run.objects.create(
        outing=later, site=elsewhere, number=1, gear="angling", started_at=run.started_at, recorder=run.recorder
    )
    Capture.objects.filter(pk__in=[row.pk for row in catch[:3]]).update(run=second, sex="f")
    for part in (
        {"outing": str(later.pk)},
        {"site": str(elsewhere.pk)},
        {"zone": "Upper river"},
        {"gear": "angling"},
        {"sex": "f"},
        {"first": "2026-11-01"},
    ):
        assert ask("findings/size", **part).data["n"] == 3, part
    assert ask("findings/size", last="2026-11-01").data["n"] == 5
    assert ask("findings/size", zone=["Upper river", "Lower river"]).data["n"] == 8
    assert ask("findings/size", water=str(site.water_id)).data["n"] == 8


def test_fish_taken_out_are_in_no_finding(ask: Callable[..., Any], catch: list[Capture], run: Run) -> None:
    Capture.objects.filter(pk=catch[0].pk).update(deleted_at=run.started_at)
    assert ask("findings/size").data["n"] == 7


@pytest.mark.parametrize(
    ("kind", "query", "code", "field"),
    [
        ("findings/size", {"species": "zzz"}, "species_unknown", "species"),
        ("findings/size", {"species": ""}, "invalid", "species"),
        ("findings/size", {"species": "bur"}, "no_lengths", "selection"),
        ("findings/size", {"bin_mm": "0"}, "bin_out_of_range", "bin_mm"),
        ("findings/size", {"bin_mm": "1e-320"}, "bin_out_of_range", "bin_mm"),
        ("findings/size", {"bin_mm": "1e308"}, "bin_out_of_range", "bin_mm"),
        ("findings/size", {"bin_mm": "-5"}, "bin_out_of_range", "bin_mm"),
        ("findings/size", {"bin_mm": "nan"}, "invalid", "bin_mm"),
        ("findings/size", {"bin_mm": "0.02"}, "bins_too_many", "bin_mm"),
        ("findings/size", {"bin_mm": "wide"}, "invalid", "bin_mm"),
        ("findings/size", {"level": "1"}, "level_out_of_range", "level"),
        ("findings/size", {"first": "2026-13-01"}, "invalid", "first"),
        ("findings/size", {"first": "2026-02-01", "last": "2026-01-01"}, "dates_reversed", "last"),
        ("findings/size", {"outing": "7"}, "invalid", "outing.0"),
        ("findings/condition", {"species": "yep"}, "no_lengths", "selection"),
        ("captures.csv", {"species": "zzz"}, "species_unknown", "species"),
    ],
)
def test_a_question_that_cannot_be_answered(
    ask: Callable[..., Any], catch: list[Capture], kind: str, query: dict[str, str], code: str, field: str
) -> None:
    response = ask(kind, **query)
    assert (response.status_code, response.data["code"], response.data["field"]) == (422, code, field)
    assert len(response.data["message"]) > 10


def test_too_few_different_lengths_for_a_line(ask: Callable[..., Any], catch: list[Capture]) -> None:
    Capture.objects.filter(species="wal").update(length_mm=400.0)
    assert ask("findings/condition").data["code"] == "too_few_lengths"
    assert ask("findings/size").status_code == 200


def test_many_fish_are_drawn_in_part_with_every_flagged_one(ask: Callable[..., Any], run: Run) -> None:
    rng = np.random.default_rng(2)
    length = rng.uniform(200, 600, 2000).round(0)
    mass = (1e-5 * length**3 * 10 ** rng.normal(0, 0.03, 2000)).round(1)
    mass[[5, 700]] *= 2
    Capture.objects.bulk_create(
        Capture(programme=run.outing.programme, run=run, species="wal", length_mm=mm, length_type="TL", length_basis="measured",
                mass_g=g, mass_basis="measured", recorder=run.recorder)
        for mm, g in zip(length, mass, strict=True)
    )  # fmt: skip
    found = ask("findings/condition").data
    assert (found["n"], found["n_drawn"]) == (2000, 1500)
    flagged = [value for value in found["points"]["studentised"] if abs(value) > 3]
    assert len(flagged) == found["n_flagged"] >= 2
    assert ask("findings/condition").data["points"] == found["points"]


def test_the_rows_behind_a_finding(biologist: APIClient, catch: list[Capture], run: Run) -> None:
    Capture.objects.filter(pk=catch[0].pk).update(note="=1+1, a formula")
    response = biologist.get(f"/api/v1/programmes/{run.outing.programme_id}/captures.csv", {"species": "wal"})
    assert response["Content-Type"].startswith("text/csv") and "captures-wal.csv" in response["Content-Disposition"]
    rows = list(csv.DictReader(io.StringIO(b"".join(response.streaming_content).decode())))
    assert len(rows) == 11
    by_id = {row["capture_id"]: row for row in rows}
    first = by_id[str(catch[0].pk)]
    assert (first["species"], first["length_mm"], first["length_as_called"], first["site"], first["date"]) == (
        "walleye",
        "220.0",
        "220",
        "K15",
        "2026-10-12",
    )
    assert first["note"] == "'=1+1, a formula"
    assert first["device_time_utc"].endswith("Z")


def test_the_options_of_a_selection(biologist: APIClient, run: Run) -> None:
    options = biologist.get(f"/api/v1/programmes/{run.outing.programme_id}/selection-options").data
    assert [each["name"] for each in options["species"]] == ["walleye", "yellow perch", "burbot"]
    assert options["waters"][0]["sites"][0]["zone"] == "Lower river"
    assert len(options["outings"]) == 1 and len(options["gears"]) == 11
