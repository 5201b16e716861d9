"""Species of one's own: what goes in comes out, and what cannot be is refused at its place."""

from __future__ import annotations

import copy
import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.common import species
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import LENGTH_SPELLINGS, MASS_SPELLINGS
from nailwright_core.common.species import LegalSize, Lookalike
from nailwright_core.common.species_values import read_species, species_values
from nailwright_core.deck.call_words import RESERVED

CHAR: dict[str, Any] = {
    "common_name": "Tarn char", "scientific_name": "Salvelinus sp.", "words": ["char"], "length_type": "FL",
    "least_mm": 30, "usual_from_mm": 80, "usual_to_mm": 500, "most_mm": 700,
    "line": {"log10_a": -5.1, "b": 3.05, "sd": 0.06, "source": "fitted, 214 fish"},
    "standard_weight": None,
    "categories": {"stock": 150, "quality": 220, "preferred": 300, "memorable": 380, "trophy": 450, "source": "ours"},
    "conversions": [
        {"from_type": "TL", "to_type": "FL", "intercept_mm": -2.1, "slope": 0.94, "residual_sd_mm": 3.2, "source": "ours, 90 fish"}
    ],
    "legal": {"min_mm": 250, "max_mm": None, "bag": 5, "source": "local rule"},
    "smallest_to_tag_mm": 180, "lookalikes": [{"code": "bkt", "check": "pale fin edges without a black line"}],
    "special_interest": True,
    "places_hidden": True,
    "swim_bladder": "open",
}  # fmt: skip


@pytest.mark.parametrize("kind", species.all_species(), ids=lambda kind: kind.code)
def test_every_shipped_species_goes_out_and_in(kind: species.Species) -> None:
    through_json = json.loads(json.dumps(species_values(kind)))
    assert read_species(kind.code, through_json) == kind


def test_a_species_of_ones_own() -> None:
    kind = read_species("tch", CHAR)
    assert (kind.code, kind.length_range_mm, kind.length_bounds_mm) == ("tch", (80, 500), (30, 700))
    assert kind.legal == LegalSize(250, None, 5, "local rule") and kind.words == ("char",)
    assert kind.lookalikes == (Lookalike("bkt", "pale fin edges without a black line"),) and kind.special_interest
    conversion = kind.conversion_from("TL")
    assert conversion and conversion.residual_sd_mm == 3.2 and kind.conversion_from("SL") is None
    assert read_species("tch", species_values(kind)) == kind


@pytest.mark.parametrize(
    ("place", "value", "code", "field"),
    [
        (("common_name",), " ", "value_missing", "common_name"),
        (("length_type",), "XL", "species_value_wrong", "length_type"),
        (("usual_from_mm",), 600, "lengths_out_of_order", "usual_from_mm"),
        (("least_mm",), float("nan"), "number_out_of_range", "least_mm"),
        (("line",), None, "species_value_wrong", "line"),
        (("line", "b"), 1.2, "number_out_of_range", "line.b"),
        (("line", "sd"), 0, "number_out_of_range", "line.sd"),
        (("line", "source"), "", "value_missing", "line.source"),
        (("standard_weight",), {"a": -5, "b": 3.1, "min_mm": "x", "source": "s"}, "number_out_of_range", "standard_weight.min_mm"),
        (("categories", "quality"), 150, "categories_out_of_order", "categories.stock"),
        (("conversions", 0, "residual_sd_mm"), 0, "conversion_without_sd", "conversions.0.residual_sd_mm"),
        (("conversions", 0, "residual_sd_mm"), None, "conversion_without_sd", "conversions.0.residual_sd_mm"),
        (("conversions", 0, "from_type"), "FL", "species_value_wrong", "conversions.0.from_type"),
        (("conversions", 0, "to_type"), "SL", "species_value_wrong", "conversions.0.to_type"),
        (("conversions", 0), "TL", "species_value_wrong", "conversions.0"),
        (("legal", "max_mm"), 200, "legal_out_of_order", "legal.min_mm"),
        (("legal", "bag"), -1, "number_out_of_range", "legal.bag"),
        (("words", 0), "43", "species_value_wrong", "words"),
        (("smallest_to_tag_mm",), True, "number_out_of_range", "smallest_to_tag_mm"),
        (("lookalikes", 0, "check"), "", "value_missing", "lookalikes.0.check"),
        (("lookalikes", 0, "photo"), "yes", "species_value_wrong", "lookalikes.0.photo"),
        (("lookalikes", 0, "picture"), "A" * 120_001, "text_too_long", "lookalikes.0.picture"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_at_its_place(place: tuple[Any, ...], value: Any, code: str, field: str) -> None:
    values: Any = copy.deepcopy(CHAR)
    part = values
    for step in place[:-1]:
        part = part[step]
    part[place[-1]] = value
    with pytest.raises(CoreError) as refused:
        read_species("tch", values)
    assert (refused.value.code, refused.value.field) == (code, field)
    assert (
        refused.value.message.startswith(("Expected", "A conversion needs")) or ": expected " in refused.value.message
    )


@pytest.mark.parametrize("code", ["", "t", "TCH", "tc1", "a very long one", "-ab"])
def test_codes_that_cannot_be_called(code: str) -> None:
    with pytest.raises(CoreError, match="2 to 8 small letters"):
        read_species(code, CHAR)


def test_words_of_the_call_line_are_told_to_the_tablet_too() -> None:
    shared = json.loads((Path(__file__).resolve().parents[3] / "tests" / "shared" / "call-words.json").read_text())
    assert set(shared) == RESERVED and {*LENGTH_SPELLINGS, *MASS_SPELLINGS} < RESERVED
