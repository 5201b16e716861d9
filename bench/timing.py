"""Repeating and printing."""

from __future__ import annotations

import time
from collections.abc import Callable
from statistics import median


def seconds(work: Callable[..., object], repeats: int = 5, *given: object) -> float:
    """Median seconds of ``work(*given)``, after one run that warms caches."""
    work(*given)
    taken = []
    for _ in range(repeats):
        began = time.perf_counter()
        work(*given)
        taken.append(time.perf_counter() - began)
    return median(taken)


def show(what: str, value: str, against: str = "") -> None:
    """One line of the report."""
    print(f"{what:<58} {value:>16}  {against}", flush=True)  # noqa: T201
