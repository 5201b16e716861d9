"""Answers that were worked out by other code are worked out anew."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Run
from nailwright.findings import code_fingerprint
from nailwright.findings import computing as asking
from nailwright.findings.models import FindingAnswer


def test_the_mark_is_that_of_the_source() -> None:
    assert (
        len(code_fingerprint.code_fingerprint()) == 64
        and code_fingerprint.code_fingerprint() == code_fingerprint.code_fingerprint.__wrapped__()
    )


def test_an_answer_of_an_earlier_version_is_not_shown(
    client_as: Callable[[str], APIClient], run: Run, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Its shape may be another one, and the screen would break on it."""
    Capture.objects.create(
        programme=run.outing.programme, run=run, species="wal", length_mm=400, length_type="TL", length_basis="measured",
        recorder=run.recorder,
    )  # fmt: skip
    address = f"/api/v1/programmes/{run.outing.programme_id}/findings/size"
    client = client_as("biologist")
    first = client.get(address, {"species": "wal"}).data
    FindingAnswer.objects.update(result={"sentence": "of another shape"})
    assert client.get(address, {"species": "wal"}).data == {
        "sentence": "of another shape"
    }  # kept, as long as the code is
    monkeypatch.setattr(asking, "code_fingerprint", lambda: "another")
    assert client.get(address, {"species": "wal"}).data == first
