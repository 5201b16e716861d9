"""How many fish: from marks, from removal, from catch and effort."""

from nailwright_core.findings.abundance.depletion import DepletionEstimate, delury, leslie
from nailwright_core.findings.abundance.marks import (
    MarkEstimate,
    chapman,
    chapman_intervals,
    petersen,
    repeated_catches,
)
from nailwright_core.findings.abundance.occasions import schnabel, schumacher_eschmeyer
from nailwright_core.findings.abundance.passes import PassesSoFar, passes_so_far
from nailwright_core.findings.abundance.removal import RemovalEstimate, removal, removal_many
from nailwright_core.findings.abundance.removal_falling import (
    FALLS,
    FallingRemoval,
    removal_falling,
    removal_falling_many,
)
from nailwright_core.findings.abundance.removal_sites import SiteRemoval, removal_sites
from nailwright_core.findings.abundance.strata import StratifiedMarks, petersen_strata, strata_of_two_catches

__all__ = [
    "FALLS",
    "DepletionEstimate",
    "FallingRemoval",
    "MarkEstimate",
    "PassesSoFar",
    "RemovalEstimate",
    "SiteRemoval",
    "StratifiedMarks",
    "chapman",
    "chapman_intervals",
    "delury",
    "leslie",
    "passes_so_far",
    "petersen",
    "petersen_strata",
    "removal",
    "removal_falling",
    "removal_falling_many",
    "removal_many",
    "removal_sites",
    "repeated_catches",
    "schnabel",
    "schumacher_eschmeyer",
    "strata_of_two_catches",
]  # fmt: skip
