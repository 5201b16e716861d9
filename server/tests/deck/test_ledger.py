"""The day's ledger balances, says what the deaths say, and names what is not complete; the day goes out as PDF."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pypdfium2
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Outing, Release, Run, WaterReading

Called = Callable[..., dict[str, Any]]


def left(run: Run, n: int, fate: str, species: str = "wal", **more: Any) -> Capture:
    fish = Capture.objects.create(
        programme=run.outing.programme, run=run, species=species, count=n, recorder=run.recorder
    )
    Release.objects.create(capture=fish, fate=fate, recorder=run.recorder, **more)
    return fish


def ledger(client: APIClient, outing: Outing) -> Any:
    return client.get(f"/api/v1/outings/{outing.pk}/ledger").data


def test_every_fish_stands_in_it_once(crew: APIClient, outing: Outing, run: Run) -> None:
    left(run, 90, "released", strength=1)
    left(run, 6, "released", strength=3)
    left(run, 4, "released")
    left(run, 3, "dead")
    left(run, 2, "kept")
    left(run, 1, "escaped")
    left(run, 5, "taken", taken_to="pen")
    left(run, 40, "released", species="yep")
    aboard = left(run, 7, "released", species="yep")
    Release.objects.filter(capture=aboard).update(deleted_at=run.started_at)  # taken back: it is aboard
    out = left(run, 9, "dead")
    Capture.objects.filter(pk=out.pk).update(deleted_at=run.started_at)
    told = ledger(crew, outing)
    (walleye, perch), total = told["rows"], told["total"]
    assert {name: walleye[name] for name in ("came", "released", "dead", "kept", "escaped", "taken", "aboard")} == {
        "came": 111, "released": 100, "dead": 3, "kept": 2, "escaped": 1, "taken": 5, "aboard": 0,
    }  # fmt: skip
    assert walleye["strengths"] == [90, 0, 6, 0]
    assert walleye["deaths"].startswith("3 of 109 died: 2.8 %")  # those kept on purpose are not among them
    assert (perch["came"], perch["aboard"]) == (47, 7) and perch["deaths"].startswith("None of 40 died")
    assert (
        total["came"] == 158 == sum(total[name] for name in ("released", "dead", "kept", "escaped", "taken", "aboard"))
    )
    assert "7 fish came aboard and have not left." in told["open"]


def test_what_is_not_complete_is_named(crew: APIClient, outing: Outing, run: Run) -> None:
    Capture.objects.create(
        programme=outing.programme, run=run, species="wal", length_mm=400, recorder=run.recorder,
        questions=[{"code": "marks_disagree", "answer": "not asked"}],
    )  # fmt: skip
    Outing.objects.update(checklists=["boat"])
    outing.refresh_from_db()
    told = " ".join(ledger(crew, outing)["open"])
    for words in ("1 run has not ended", "not weighed", "a doubt", "Not signed: boat", "Not read: temperature"):
        assert words in told
    WaterReading.objects.create(
        outing=outing, recorder=run.recorder, temperature_c=9, specific_us_cm=200, oxygen_mg_l=9, secchi_m=2
    )
    assert "Not read" not in " ".join(ledger(crew, outing)["open"])  # conductivity is read one way or the other


def test_an_outing_of_nothing(crew: APIClient, outing: Outing) -> None:
    told = ledger(crew, outing)
    assert told["rows"] == [] and told["total"]["came"] == 0 and told["total"]["deaths"] == ""
    assert crew.get(f"/api/v1/outings/{outing.pk}/day.pdf").status_code == 200


def test_the_day_as_pdf_in_plain_words(crew: APIClient, outing: Outing, run: Run) -> None:
    left(run, 143, "released", strength=1)
    Run.objects.create(
        outing=outing, site=run.site, number=2, gear="seine", hauls=3, started_at=run.started_at, recorder=run.recorder
    )
    WaterReading.objects.create(outing=outing, recorder=run.recorder, temperature_c=9.5, more={"sky": "overcast"})
    response = crew.get(f"/api/v1/outings/{outing.pk}/day.pdf?paper=letter")
    page = pypdfium2.PdfDocument(response.content)[0].get_textpage().get_text_bounded().replace("\r\n", " ")
    for words in (
        "Tonight",
        "None of 143 died; true rate up to 2.1 %",
        "3 hauls",
        "temperature 9.5 °C, sky overcast",
    ):
        assert words in page, page
    assert crew.get(f"/api/v1/outings/{outing.pk}/day.pdf?paper=napkin").status_code in (400, 422)
