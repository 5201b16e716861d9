"""A survey rehearsed on simulated fish before the money is spent."""

from nailwright_core.plan.rehearsal.designs import Design, MarksDesign, RemovalDesign, TrendDesign, vary
from nailwright_core.plan.rehearsal.running import (
    BLOCK,
    GOOD_USELESS,
    GOOD_WITHIN,
    MAX_REPLICATES,
    Rehearsal,
    n_blocks,
    rehearse,
    rehearse_sweep,
)

__all__ = [
    "BLOCK", "GOOD_USELESS", "GOOD_WITHIN", "MAX_REPLICATES", "Design", "MarksDesign", "Rehearsal", "RemovalDesign",
    "TrendDesign", "n_blocks", "rehearse", "rehearse_sweep", "vary",
]  # fmt: skip
