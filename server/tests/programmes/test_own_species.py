"""Species of a programme's own, from Settings to every place where they are used."""

from __future__ import annotations

import base64
import copy
import io
from typing import Any

import pytest
from PIL import Image
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Run
from nailwright.deck.own_lines import OWN_LINE_FROM
from nailwright.programmes.models import Change, Programme
from nailwright.programmes.species.known import species_of
from nailwright_core.common import species as shipped
from nailwright_core.common.species_values import species_values
from server.tests.conftest import operation
from server.tests.deck.test_photos import picture

CHAR: dict[str, Any] = {
    "common_name": "Tarn char", "scientific_name": "Salvelinus tarnensis", "words": ["char"], "length_type": "FL",
    "least_mm": 30, "usual_from_mm": 80, "usual_to_mm": 500, "most_mm": 700,
    "line": {"log10_a": -5.1, "b": 3.05, "sd": 0.06, "source": "made up for this test"},
    "categories": {"stock": 150, "quality": 220, "preferred": 300, "memorable": 380, "trophy": 450, "source": "made up"},
    "conversions": [
        {"from_type": "TL", "intercept_mm": -2, "slope": 0.95, "residual_sd_mm": 3.2, "source": "made up, 90 fish"}
    ],
    "legal": {"min_mm": 250, "max_mm": None, "bag": 5, "source": "local rule"},
    "smallest_to_tag_mm": 180, "lookalikes": [{"code": "bkt", "check": "no black line on the fin edge"}],
    "special_interest": True,
}  # fmt: skip


def described(client: APIClient, programme: Programme, code: str = "tch", **changed: Any) -> Any:
    return client.post(f"/api/v1/programmes/{programme.pk}/species/{code}", {**CHAR, **changed}, format="json")


def test_a_new_species_is_called_judged_and_found(
    lead: APIClient, programme: Programme, run: Run, sync: Any, called: Any
) -> None:
    base = f"/api/v1/programmes/{programme.pk}"
    assert described(lead, programme).status_code == 200
    lists = lead.get(f"{base}/species").data
    assert lists["listed"][-1] == "tch" and lists["own"] == ["tch"]
    deck = lead.get(f"/api/v1/outings/{run.outing_id}/deck").data
    row = next(each for each in deck["species"] if each["code"] == "tch")
    assert (row["name"], row["words"], row["length_type"], row["legal_mm"]) == (
        "Tarn char",
        ["char"],
        "FL",
        [250, None],
    )
    assert row["lookalikes"] == [
        {"name": "brook trout", "check": "no black line on the fin edge", "unsure": "", "photo": False, "picture": ""}
    ]
    assert row["smallest_to_tag_mm"] == 180 and row["special_interest"] and row["usual_mm"] == [80, 500]
    fish = [called(species="tch", length=str(length), mass="") for length in (210, 240, 260, 310)]
    assert sync(*fish, called(species="tch", length="300", mass="", length_type="TL")).status_code == 200
    assert sync(called(species="tch", length="900", mass="")).data["code"] == "length_impossible"  # by its own bounds
    found = lead.get(f"{base}/findings/size?species=tch&over=fish").json()
    assert found["species"]["name"] == "Tarn char" and found["n"] == 5 and found["n_stock"] == 5
    assert [each["from_mm"] for each in found["categories"]] == [150, 220, 300, 380, 450]
    assert found["derived"] == [{"from_type": "TL", "n": 1, "sd_mm": 3.2, "source": "made up, 90 fish"}]
    assert found["median"]["value"] == 260 and found["left_out"] == []  # 300 mm TL is 283 mm FL
    csv = b"".join(lead.get(f"{base}/captures.csv?species=tch").streaming_content).decode()
    assert "Tarn char" in csv and ",300" in csv  # as it was measured


def test_a_shipped_species_is_changed_for_this_programme_alone_and_back(
    lead: APIClient, programme: Programme, run: Run
) -> None:
    Capture.objects.create(
        programme=programme,
        run=run,
        species="wal",
        length_mm=400,
        length_type="TL",
        length_basis="measured",
        recorder=run.recorder,
    )
    base = f"/api/v1/programmes/{programme.pk}"
    size = lambda: [each["from_mm"] for each in lead.get(f"{base}/findings/size?species=wal").json()["categories"]]  # noqa: E731
    before, values = size(), lead.get(f"{base}/species/wal").data
    ours = copy.deepcopy(values)
    ours["categories"] = {
        "stock": 200,
        "quality": 300,
        "preferred": 400,
        "memorable": 500,
        "trophy": 600,
        "source": "our board",
    }
    assert lead.post(f"{base}/species/wal", ours, format="json").status_code == 200
    assert size() == [200, 300, 400, 500, 600] != before  # the answer that was kept is not told again
    assert species_of(Programme.objects.create(name="Other"))["wal"] == shipped.get("wal")
    history = Change.objects.get(table="programmespecies", after__own__isnull=False)
    assert history.before == {"own": None} and history.after["own"]["categories"]["source"] == "our board"
    back = lead.post(f"{base}/species/wal/as-shipped")
    assert back.data == species_values(shipped.get("wal")) == values and size() == before
    assert lead.post(f"{base}/species/xyz/as-shipped").data["code"] == "not_shipped"


@pytest.mark.parametrize(
    ("code", "changed", "refusal"),
    [
        ("none", {}, "word_taken"),
        ("m", {}, "code_unreadable"),
        ("tch", {"words": ["kept"]}, "word_taken"),
        ("tch", {"words": ["wal"]}, "word_taken"),
        ("tch", {"common_name": "Walleye"}, "word_taken"),
        ("tch", {"words": ["inch"]}, "word_taken"),
        ("tch", {"conversions": [{**CHAR["conversions"][0], "residual_sd_mm": None}]}, "conversion_without_sd"),
        ("tch", {"line": {**CHAR["line"], "source": " "}}, "invalid"),
        ("tch", {"usual_from_mm": 600}, "lengths_out_of_order"),
    ],
)
def test_what_would_be_misheard_or_cannot_be(
    lead: APIClient, programme: Programme, code: str, changed: dict[str, Any], refusal: str
) -> None:
    refused = described(lead, programme, code, **changed)
    assert (refused.status_code, refused.data["code"]) == (422, refusal)
    assert not programme.species.exclude(own=None).exists()


def test_a_line_of_ones_own_fish(lead: APIClient, programme: Programme, run: Run, client_as: Any) -> None:
    address = f"/api/v1/programmes/{programme.pk}/species/wal/own-line"

    def weigh(lengths: range) -> None:
        Capture.objects.bulk_create(
            Capture(
                programme=programme, run=run, species="wal", length_mm=mm, length_type="TL", length_basis="measured",
                mass_g=10 ** (-5.4 + 3.2 * __import__("math").log10(mm)), mass_basis="measured", recorder=run.recorder,
            )
            for mm in lengths
        )  # fmt: skip

    weigh(range(300, 306))
    few = lead.get(address)
    assert (few.status_code, few.data["code"]) == (422, "too_few_fish") and "there are 6" in few.data["message"]
    weigh(range(310, 310 + OWN_LINE_FROM))
    line = lead.get(address).data
    assert line["log10_a"] == pytest.approx(-5.4, abs=1e-4) and line["b"] == pytest.approx(3.2, abs=1e-5)
    assert client_as("viewer").get(address).data == line and client_as("stranger").get(address).status_code == 404
    assert line["source"].startswith("fitted to 36 fish of Tarn study of 300 to 339 mm")


def test_a_file_names_them_by_every_word(lead: APIClient, programme: Programme, outing: Any) -> None:
    from django.core.files.uploadedfile import SimpleUploadedFile

    described(lead, programme)
    content = b"species,length\nchar,231\nTarn Char,240\nSalvelinus tarnensis,250\nperch?,99\n"
    made = lead.post(f"/api/v1/programmes/{programme.pk}/imports", {"file": SimpleUploadedFile("fish.csv", content)})
    assert made.status_code == 201, made.data
    columns = {each["header"]: each["key"] for each in made.data["answers"]["columns"]}
    assert columns["species"] == "species"


def test_a_species_that_is_not_on_the_list_is_called_and_named_later(
    lead: APIClient, programme: Programme, run: Run, sync: Any, called: Any
) -> None:
    base = f"/api/v1/programmes/{programme.pk}"
    nameless = sync(called(species="other", length="231", mass=""))
    assert nameless.data["code"] == "other_without_name" and nameless.data["field"] == "note"
    fish = [called(species="other", length=length, mass="", note=note) for length, note in
            (("231", "Tarn char, scarred"), ("240", "tarn char"), ("900", "tarn char"), ("55", "Bullhead"))]  # fmt: skip
    assert sync(*fish, called(species="other", length="", mass="", count=7, note="bullhead")).status_code == 200
    assert lead.get(f"{base}/others").data == [{"name": "bullhead", "n": 8}, {"name": "tarn char", "n": 3}]
    assert lead.post(f"{base}/others", {"name": "tarn char", "code": "tch"}, format="json").data["code"] == (
        "species_not_in_programme"
    )
    described(lead, programme)
    named = lead.post(f"{base}/others", {"name": "Tarn Char", "code": "tch"}, format="json").data
    assert named["named"] == 2 and len(named["left"]) == 1 and "900 mm" in named["left"][0]
    kept = Capture.objects.get(pk=fish[0]["id"])
    assert (kept.species, kept.note, kept.length_mm, kept.length_type) == ("tch", "Tarn char, scarred", 231, "TL")
    history = Change.objects.get(row=kept.pk)
    assert history.before["species"] == "other" and history.reason == "called as other; Tarn Char"
    assert lead.get(f"{base}/others").data == [{"name": "bullhead", "n": 8}, {"name": "tarn char", "n": 1}]
    assert lead.post(f"{base}/others", {"name": "eel", "code": "tch"}, format="json").data["code"] == "nobody_called_so"
    # back again by the desk, in one field only
    back = {"id": str(kept.pk)[:-2] + "77", "species": "other", "reason": "it was a bullhead after all"}
    assert lead.post(f"/api/v1/captures/{kept.pk}", back, format="json").status_code == 200
    kept.refresh_from_db()
    assert (kept.species, kept.note) == ("other", "Tarn char, scarred")
    deck = lead.get(f"/api/v1/outings/{run.outing_id}/deck").data
    assert deck["species"][-1]["code"] == "other"


def test_a_picture_of_what_tells_two_species_apart(
    lead: APIClient, programme: Programme, run: Run, sync: Any, called: Any
) -> None:
    def pair(**more: Any) -> list[dict[str, Any]]:
        return [{"code": "bkt", "check": "no black line", "unsure": "call it other", "photo": True, **more}]

    answer = described(lead, programme, lookalikes=pair(picture=picture(1200, 600)))
    assert answer.status_code == 200, answer.data
    deck = lead.get(f"/api/v1/outings/{run.outing_id}/deck").data
    (told,) = next(each for each in deck["species"] if each["code"] == "tch")["lookalikes"]
    assert (told["unsure"], told["photo"]) == ("call it other", True)
    with Image.open(io.BytesIO(base64.b64decode(told["picture"]))) as small:
        assert small.size == (480, 240)
    # kept again as it stands it is not squeezed anew
    described(lead, programme, lookalikes=pair(picture=told["picture"]), smallest_to_tag_mm=190)
    assert species_of(Programme.objects.get())["tch"].lookalikes[0].picture == told["picture"]
    wrong = described(lead, programme, lookalikes=pair(picture="AAAA"))
    assert (wrong.data["code"], wrong.data["field"]) == ("picture_unreadable", "lookalikes.0.picture")
    # whoever closes the outing hears that one fish has no photo
    fish = [called(species="tch", length="300"), called(species="tch", length="310")]
    sync(*fish)
    sync(operation("photo.add", outing=str(run.outing_id), capture=fish[0]["id"], shows="fin", jpeg=picture(8, 8)))
    left = " ".join(lead.get(f"/api/v1/outings/{run.outing_id}/ledger").data["open"])
    assert "1 Tarn char have no photo" in left
