"""A basin to put runs and fish on."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from nailwright.programmes.models import Person, Programme
from server.tests.findings.basin import Basin


@pytest.fixture
def basin(programme: Programme, person_as: Callable[[str], Person]) -> Basin:
    return Basin(programme, person_as("crew"))
