"""How much of a sweep is tried: a part of it by turns in every run, all of it with ``bin/test --thorough``."""

from __future__ import annotations

import os
from collections.abc import Sequence
from typing import TypeVar
from zlib import crc32

THOROUGH = bool(os.environ.get("NAILWRIGHT_TEST_THOROUGH"))
_T = TypeVar("_T")


def some(values: Sequence[_T], n: int, of: str = "") -> tuple[_T, ...]:
    """``n`` of the values, others for another ``of``: over many of them every value has its turn."""
    if THOROUGH or n >= len(values):
        return tuple(values)
    first = crc32(of.encode())
    return tuple(values[(first + step * len(values) // n) % len(values)] for step in range(n))
