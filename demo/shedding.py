"""Which T-bar tags of the river's walleye held, and what crews said of them when the fish was met again by its PIT.

Truth: of tags placed well 97 % hold the first days and 12 % go a year; of the others 85 % and 35 %.
"""

from __future__ import annotations

from collections import defaultdict
from datetime import timedelta
from typing import Any
from uuid import UUID

import numpy as np

from demo.keys import Keys
from demo.marks import Marking
from demo.truth import SEED
from nailwright.programmes.models import Change, Programme
from nailwright.tags.models import Placement, Scan, TagKind, TagState

HOLDS_AT_ONCE = {"good": 0.97, "second": 0.85, "doubtful": 0.85}
LOSS_A_YEAR = {"good": 0.12, "second": 0.35, "doubtful": 0.35}
QUALITIES, SHARES = ("good", "second", "doubtful"), (0.86, 0.08, 0.06)
#: How often a crew reads a tag that is there, and writes down that one is gone.
READS, WRITES = 0.86, 0.92


def shed_tags(programme: Programme, marking: Marking) -> list[Change]:
    """Quality and fate of each T-bar tag: adds what was read to the scans, marks those that were seen to be gone, and gives their history."""
    rng, keys = np.random.default_rng(SEED + 16), Keys(np.random.default_rng(SEED + 17))
    met: dict[UUID, list[Scan]] = defaultdict(list)
    for scan in sorted(marking.scans, key=lambda each: each.device_time):
        if scan.fish_id:
            met[scan.fish_id].append(scan)
    changes: list[Change] = []
    for placement in marking.placements:
        if placement.tag.kind != TagKind.T_BAR:
            continue
        placement.quality = str(rng.choice(QUALITIES, p=SHARES))
        placement.body_site = "dorsal"
        holds = rng.random() < HOLDS_AT_ONCE[placement.quality]
        years = float(rng.exponential(1 / LOSS_A_YEAR[placement.quality])) if holds else 0.0
        lost_at = placement.device_time + timedelta(days=365.25 * years)
        for scan in met[placement.fish_id]:
            if scan.device_time < lost_at:
                if rng.random() < READS:
                    marking.scans.append(_read(scan, placement, keys))
            elif rng.random() < WRITES:
                changes += _gone(programme, placement, scan, keys)
                break
    return changes


def _read(scan: Scan, placement: Placement, keys: Keys) -> Scan:
    return Scan(
        id=keys.at(scan.device_time), programme=scan.programme, source_id=scan.source_id, kind=TagKind.T_BAR, number=placement.tag.number,
        fish_id=scan.fish_id, result=Scan.Result.KNOWN, recorder=scan.recorder, device_time=scan.device_time, server_time=scan.server_time,
    )  # fmt: skip


def _gone(programme: Programme, placement: Placement, scan: Scan, keys: Keys) -> list[Change]:
    placement.living_tag = None
    placement.tag.state = TagState.SHED
    told: tuple[tuple[str, Any, dict[str, Any], dict[str, Any]], ...] = (
        ("tag", placement.tag_id, {"state": TagState.PLACED}, {"state": TagState.SHED}),
        ("placement", placement.pk, {"living_tag": str(placement.tag_id)}, {"living_tag": None}),
    )
    at = scan.device_time
    return [
        Change(
            id=keys.at(at), programme=programme, table=table, row=row, person=scan.recorder, device_time=at, server_time=at,
            before=before, after=after,
        )
        for table, row, before, after in told
    ]  # fmt: skip
