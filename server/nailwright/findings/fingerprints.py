"""Fingerprints of the rows behind a finding, by which it is seen that one of them changed.

``touch_fingerprint`` costs little and differs after every change, also after one that was taken back: for answers that would
only be computed anew. ``rows_fingerprint`` reads every row and is the same for the same rows: for what somebody kept.
"""

from __future__ import annotations

import hashlib

from django.db.models import Count, Sum

from nailwright.common.row_sums import BitXor, sum_over
from nailwright.findings.selections import Selection, captures_in, runs_in, tally_of
from nailwright.programmes.models import Programme

_OF_CAPTURE = (
    "id",
    "species",
    "run_id",
    "count",
    "length_mm",
    "length_type",
    "length_basis",
    "mass_g",
    "mass_basis",
    "sex",
)
#: What fish are chosen and grouped by.
_OF_RUN = ("pk", "gear", "outing__date", "outing__water__name", "site__name", "site__zone__name")

#: What zones stand in order by. Not among the rows of what somebody kept: those that are kept were told without it.
_OF_ORDER = ("site__zone__start_m", "site__zone__end_m")


def tally_fingerprint(programme: Programme, selection: Selection) -> str:
    """A fingerprint that differs as soon as a capture of a selection was touched."""
    touches = tally_of(programme, selection).aggregate(n=Count("slot"), sum=Sum("touch"), folded=BitXor("touch"))
    return f"{touches['n']}-{touches['sum'] or 0}-{touches['folded'] or 0}"


def touch_fingerprint(programme: Programme, selection: Selection) -> str:
    """A fingerprint that differs as soon as a capture or a run of a selection was touched, or a zone of theirs lies elsewhere."""
    order = sum_over(runs_in(programme, selection).order_by(), ("pk", *_OF_ORDER))
    told = f"{tally_fingerprint(programme, selection)}-{_runs_fingerprint(programme, selection)}-{order}"
    return hashlib.sha256(told.encode()).hexdigest()[:40]


def rows_fingerprint(programme: Programme, selection: Selection) -> str:
    """A fingerprint that differs as soon as a capture or a run of a selection does: their numbers, and sums over them."""
    told = (*_OF_CAPTURE, "fish_id", "device_time") if selection.once else _OF_CAPTURE
    return f"{sum_over(captures_in(programme, selection), told)}-{_runs_fingerprint(programme, selection)}"


def fingerprints_differ(kept: str, now: str) -> bool:
    """Whether rows have changed since ``kept`` was made. One from before 0.3 says nothing of the runs."""
    return now != kept and not (kept.count("-") == 1 and now.startswith(f"{kept}-"))


def _runs_fingerprint(programme: Programme, selection: Selection) -> str:
    return sum_over(runs_in(programme, selection).order_by(), _OF_RUN)
