"""How every estimated quantity and every checked assumption is reported."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

#: "not refuted": a test found nothing against it; its words say what it would have found.
Verdict = Literal["holds", "not refuted", "doubtful", "fails", "not checked"]


@dataclass(frozen=True)
class Estimate:
    """An estimate with its uncertainty, in the unit of the quantity.

    Attributes:
        value: the point estimate (nan where there is none).
        se: its standard error (nan where the method gives none).
        lower, upper: the interval's ends.
        level: the interval's confidence level, for instance 0.95.
        interval: the name of the method that made the interval.
        n: number of observations behind it.
    """

    value: float
    se: float
    lower: float
    upper: float
    level: float
    interval: str
    n: int


@dataclass(frozen=True)
class Assumption:
    """Something a method takes for granted, and whether these data agree with it."""

    name: str
    verdict: Verdict
    detail: str
