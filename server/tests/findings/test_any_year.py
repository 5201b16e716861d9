"""Whether a question is about the years that were fished, or about the water in any year."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

import numpy as np
import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Outing, Run
from nailwright.waters.models import Site


@pytest.fixture
def fished(run: Run, outing: Outing, site: Site) -> None:
    """Thirty weighed walleye at each of four sites in each of two years; those of the second are longer."""
    rng = np.random.default_rng(6)
    before = Outing.objects.create(
        programme=outing.programme, water=site.water, name="Before", date=date(2025, 10, 12), gear=outing.gear
    )
    sites = [site, *(Site.objects.create(water=site.water, name=f"N{n}", river_km=n) for n in range(3))]
    for year, of in enumerate((before, outing)):
        for number, at in enumerate(sites):
            here = Run.objects.create(
                outing=of, site=at, number=10 + number, gear=run.gear, started_at=run.started_at, recorder=run.recorder
            )
            mm = rng.normal(360 + 25 * year + 5 * number, 50, 30).clip(200).round()
            g = (10 ** (-5.4 + 3.15 * np.log10(mm) + rng.normal(0, 0.03, 30))).round(1)
            Capture.objects.bulk_create(
                Capture(programme=outing.programme, run=here, species="wal", length_mm=a, length_type="TL", length_basis="measured",
                        length_text=f"{a:g}", mass_g=b, mass_basis="measured", mass_text=f"{b:g}", recorder=run.recorder)
                for a, b in zip(mm, g, strict=True)
            )  # fmt: skip


def test_a_question_on_one_group_may_be_about_any_year(
    client_as: Callable[[str], APIClient], fished: None, outing: Outing
) -> None:
    """Over sites an answer says that it is about the years that were fished; over sites and years it is wider, and says so."""
    client = client_as("biologist")

    def ask(kind: str, **query: Any) -> Any:
        return client.get(f"/api/v1/programmes/{outing.programme_id}/findings/{kind}", {"species": "wal", **query})

    these = ask("size").data
    any_year = ask("size", over="years").data
    told = [each["name"] for each in these["assumptions"]]
    assert "The question is about the 2 years that were fished" in told
    assert not any(
        name.startswith("The question is about") for name in (each["name"] for each in any_year["assumptions"])
    )
    assert (
        any_year["median"]["interval"].endswith("sites and 2 years")
        and these["median"]["value"] == any_year["median"]["value"]
    )
    width = [each["median"]["upper"] - each["median"]["lower"] for each in (these, any_year)]
    assert width[1] >= width[0]
    assert " in 2 years)" in any_year["sentence"] and " in 2 years)" not in these["sentence"]
    line = ask("condition", over="years").data["line"][1]
    assert line["interval"].endswith("and 2 years")
    assert ask("size-compared", by="year", over="years").data["field"] == "over"  # groups are over sites or fish
