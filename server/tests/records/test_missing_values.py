"""Cells of old files that say that they hold nothing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from nailwright.deck.models import Capture
from nailwright.records.missing import MISSING, is_missing
from server.tests.records.test_imports import PLAIN, bring

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.mark.parametrize("text", [*sorted(MISSING), " N/A ", "K.A."])
def test_it_says_nothing(text: str) -> None:
    assert is_missing(text)


@pytest.mark.parametrize("text", ["none", "0", "-5", "1.", "wal", "a-b"])
def test_it_says_something(text: str) -> None:
    assert not is_missing(text)


def test_a_file_with_dashes_comes_in_as_if_they_were_empty(
    upload: Callable[..., Any],
    go: Callable[..., Any],
) -> None:
    head, first, *rows = PLAIN.splitlines()
    told = dict(zip(head.split(","), first.split(","), strict=True)) | {"mass_g": "-", "sex": "k.A."}
    brought = bring(upload, go, "\n".join([head, ",".join(told.values()), *rows]))
    assert (brought["result"]["good"], brought["result"]["bad"]) == (4, 0)
    fish = Capture.objects.get(length_mm=463)
    assert (fish.mass_g, fish.sex) == (None, "u")
