"""How many fish: from marks, from removal, from catch and effort."""

from nailwright_core.findings.abundance.depletion import DepletionEstimate, leslie
from nailwright_core.findings.abundance.marks import (
    MarkEstimate,
    chapman,
    chapman_intervals,
    petersen,
    repeated_catches,
)
from nailwright_core.findings.abundance.occasions import schnabel, schumacher_eschmeyer
from nailwright_core.findings.abundance.removal import RemovalEstimate, removal, removal_many

__all__ = [
    "DepletionEstimate", "MarkEstimate", "RemovalEstimate", "chapman", "chapman_intervals", "leslie", "petersen", "removal",
    "removal_many", "repeated_catches", "schnabel", "schumacher_eschmeyer",
]  # fmt: skip
