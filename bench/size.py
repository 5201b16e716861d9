"""How much is measured and tried: all of it, or a part, by which the tests see that every part still runs."""

from __future__ import annotations

import os
from collections.abc import Sequence
from typing import TypeVar
from zlib import crc32

#: Set by the tests (tests/browser/test_bench.py).
SMALL = bool(os.environ.get("NAILWRIGHT_BENCH_SMALL"))
#: Set by ``bin/test --thorough``.
THOROUGH = bool(os.environ.get("NAILWRIGHT_TEST_THOROUGH"))
_T = TypeVar("_T")


def size(whole: int, taste: int) -> int:
    """So many, or in a smoke so many."""
    return taste if SMALL else whole


def some(values: Sequence[_T], n: int, of: str = "") -> tuple[_T, ...]:
    """``n`` values of a test's sweep, others for another ``of``: over many of them every value has its turn; all with ``bin/test --thorough``."""
    if THOROUGH or n >= len(values):
        return tuple(values)
    first = crc32(of.encode())
    return tuple(values[(first + step * len(values) // n) % len(values)] for step in range(n))
