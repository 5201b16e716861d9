"""Kept findings."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Run
from nailwright.findings.models import SavedFinding
from nailwright.programmes.models import Programme


@pytest.fixture
def fish(run: Run) -> list[Capture]:
    return [
        Capture.objects.create(programme=run.outing.programme, run=run, species="wal", length_mm=280.0 + 20 * place, length_type="TL",
                               length_basis="measured", mass_g=150.0 + 60 * place, mass_basis="measured", sex="fm"[place % 2], recorder=run.recorder)
        for place in range(20)
    ]  # fmt: skip


@pytest.fixture
def keep(client_as: Callable[[str], APIClient], run: Run) -> Callable[..., Any]:
    client = client_as("biologist")
    address = f"/api/v1/programmes/{run.outing.programme_id}/saved-findings"

    def post(kind: str = "size", **query: Any) -> Any:
        return client.post(
            address,
            {"id": str(new_id()), "kind": kind, "query": {"species": "wal", **query}, "title": "for review"},
            format="json",
        )

    post.all = lambda: client.get(address).data  # type: ignore[attr-defined]
    return post


@pytest.mark.parametrize(
    ("kind", "query"),
    [
        ("size", {"bin_mm": 10}),
        ("condition", {}),
        ("size-compared", {"by": "sex"}),
        ("condition-compared", {"by": "sex"}),
        ("cohorts", {"start": [300, 500]}),
    ],
)
def test_every_kind_is_kept_with_question_answer_and_seed(
    keep: Any, fish: list[Capture], kind: str, query: dict[str, Any]
) -> None:
    response = keep(kind, **query)
    assert response.status_code == 201, response.data
    (kept,) = keep.all()
    assert kept["query"] == {"species": "wal", **query} and kept["sentence"] == kept["result"]["sentence"]
    assert not kept["changed"] and kept["saved_by"] == "Biologist"
    assert (kept["seed"] is None) == (kind in ("size", "condition-compared"))


def test_a_finding_is_marked_when_a_row_behind_it_changes(keep: Any, fish: list[Capture], run: Run) -> None:
    keep("size")
    keep("size", sex=["m"])
    Capture.objects.filter(pk=fish[0].pk).update(length_mm=281.0)  # a female
    changed = {tuple(each["query"].get("sex", [])): each["changed"] for each in keep.all()}
    assert changed == {(): True, ("m",): False}
    Capture.objects.filter(pk=fish[0].pk).update(length_mm=280.0)
    assert not any(each["changed"] for each in keep.all())
    Capture.objects.filter(pk=fish[1].pk).update(deleted_at=run.started_at)
    assert all(each["changed"] for each in keep.all())


def test_keeping_twice_keeps_once(client_as: Callable[[str], APIClient], fish: list[Capture], run: Run) -> None:
    lead, body = client_as("lead"), {"id": str(new_id()), "kind": "size", "query": {"species": "wal"}}
    address = f"/api/v1/programmes/{run.outing.programme_id}/saved-findings"
    assert [lead.post(address, body, format="json").status_code for _ in range(2)] == [201, 201]
    assert SavedFinding.objects.count() == 1


@pytest.mark.parametrize(
    ("kind", "query", "code"),
    [
        ("mood", {}, "kind_unknown"),
        ("size", {"species": "bur"}, "no_lengths"),
        ("size", {"species": {"a": 1}}, "query_unreadable"),
        ("size", {"bin_mm": "wide"}, "invalid"),
    ],
)
def test_what_cannot_be_kept(keep: Any, fish: list[Capture], kind: str, query: dict[str, Any], code: str) -> None:
    response = keep(kind, **query)
    assert (response.status_code, response.data["code"]) == (422, code)
    assert SavedFinding.objects.count() == 0


def test_a_selection_too_long_for_an_address_has_a_short_key(
    client_as: Callable[[str], APIClient], programme: Programme, run: Run
) -> None:
    for mm in (310, 410, 480):
        Capture.objects.create(
            programme=programme, run=run, species="wal", length_mm=mm, length_type="TL", length_basis="measured",
            recorder=run.recorder,
        )  # fmt: skip
    lead = client_as("lead")
    base = f"/api/v1/programmes/{programme.pk}"
    query = {"species": "wal", "outing": [str(run.outing_id), *(str(new_id()) for _ in range(120))]}
    first, again = (lead.post(f"{base}/selections", {"query": query}, format="json").data["key"] for _ in range(2))
    assert first == again and len(first) == 16
    assert lead.get(f"{base}/selections/{first}").data["query"] == query
    spelt = lead.get(f"{base}/findings/size", {**query, "bin_mm": 20}).data
    short = lead.get(f"{base}/findings/size", {"chosen": first, "bin_mm": 20}).data
    assert spelt == short and short["n"] == 3
    assert lead.get(f"{base}/register", {"chosen": first}).data["total"] == 3
    assert b"410" in b"".join(lead.get(f"{base}/captures.csv", {"chosen": first}).streaming_content)
    # what stands beside the key goes first
    assert lead.get(f"{base}/register", {"chosen": first, "species": "yep"}).data["total"] == 0
    unknown = lead.get(f"{base}/findings/size", {"chosen": "0" * 16})
    assert (unknown.status_code, unknown.data["code"]) == (422, "selection_unknown")
    for wrong in ({"species": "wal", "sex": ["x"]}, {"species": "wal", "outing": {"a": 1}}, {"first": "x"}):
        assert lead.post(f"{base}/selections", {"query": wrong}, format="json").status_code == 422
