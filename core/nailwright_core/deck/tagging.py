"""Which fish may carry a tag, and which is tagged next: species, length, state, quota, and what was drawn for the nth fish.

The Deck does this with no signal (``web/src/features/deck/rules/tagging.ts``); both are held to ``tests/shared/tagging.json``.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from nailwright_core.deck.counted import KILLED, CountedFish, within_quota


@dataclass(frozen=True)
class Quota:
    """So many tagged fish ``most`` of a species, zone (empty: any) and length; ``placed`` of them in other outings."""

    species: str
    zone: str
    from_mm: float
    to_mm: float | None
    most: int
    placed: int = 0


@dataclass(frozen=True)
class Proposal:
    """Whether a fish is to be tagged, and why.

    Attributes:
        why: "species" (none of the plan's), "small" (under the smallest that carries one), "unfit" (asked about before the tag
            goes in), "full", "quota", "drawn"; "" where nobody decided anything.
        done: fish of its quota that are tagged.
        drawn: what was drawn for it: "double", "high_reward".
    """

    tag: bool
    why: Literal["species", "small", "unfit", "full", "quota", "drawn", ""]
    done: int = 0
    drawn: tuple[str, ...] = ()


def smallest_to_tag(*limits_mm: float | None) -> float | None:
    """The one limit that holds where several stand (the plan's, the species' own, the protocol's by tag): the largest.

    Args:
        limits_mm: smallest lengths, mm; None where one says nothing.
    """
    return max((each for each in limits_mm if each is not None), default=None)


def tag_size(rows: Sequence[Mapping[str, Any]], species: str, kind: str) -> float | None:
    """The smallest length of a species that carries a kind of tag by the protocol, mm; None where it says nothing.

    The row of the species' own counts before that of any, and then the row of the tag's own kind.

    Args:
        rows: of the protocol, each with species, kind (empty: any) and ``from_mm``.
        species: code of the species.
        kind: of the tag; empty where nobody knows yet.
    """
    fit = [row for row in rows if row["species"] in (species, "") and (row["kind"] or "") in (kind, "")]
    best = max(fit, key=lambda row: (row["species"] == species, bool(row["kind"])), default=None)
    return None if best is None else float(best["from_mm"])


#: Reflexes impaired, as a share of those tried, from which a fish is asked about before it is tagged (ours, no source).
UNFIT_REFLEXES = 0.5


def unfit_for_tag(
    events: Mapping[str, Sequence[Mapping[str, Any]]], condition: int | None, fate: str
) -> tuple[str, ...]:
    """Why a fish should be looked at again before a tag goes in, the gravest first; empty where nothing was said.

    What was said last counts, but for wounds, which stay (common practice, no source).

    Args:
        events: what was recorded of it by kind of event, each in order of time.
        condition: release condition, 1 to 4; None where it was not told.
        fate: how it left, or is to leave; empty while nobody said.
    """
    last = {kind: each[-1] for kind, each in events.items() if each}
    tried, impaired = last.get("reflexes", {}).get("tried", ()), last.get("reflexes", {}).get("impaired", ())
    found = events.get("found", ())
    reasons = {
        "dying": fate in KILLED or (condition or 0) >= 3,
        "not_ready": last.get("ready", {}).get("ready") == "no",
        "gills_stopped": last.get("stage", {}).get("stage") == "6",
        "bleeding": any(each.get("what") == "bleeding" for each in found),
        "hurt": any(each.get("degree") == "heavy" for each in found),
        "hook": last.get("hook", {}).get("site") in ("gills", "deep"),
        "reflexes": bool(tried) and len(impaired) >= UNFIT_REFLEXES * len(tried),
    }
    return tuple(reason for reason, holds in reasons.items() if holds)


def quota_for(quotas: Sequence[Quota], species: str, length_mm: float, zone: str) -> Quota | None:
    """The quota that a fish falls under, were it tagged: of its species before any, of its zone before any, the first else.

    Args:
        quotas: of the protocol.
        species: code of the species.
        length_mm: length of the fish, mm.
        zone: where it was caught.
    """
    fish = CountedFish(species, length_mm, measured=True, marked=True, zone=zone)
    fit = [each for each in quotas if within_quota(each.species, each.zone, each.from_mm, each.to_mm, fish)]
    return max(fit, key=lambda each: 2 * bool(each.species) + bool(each.zone), default=None)


def place_in_draw(tagged: Sequence[CountedFish], wanted: Sequence[str] = ()) -> int:
    """Which of the plan's fish the next one is, from 1: those of other species have no place in its draw.

    Args:
        tagged: fish of this outing that have a tag already.
        wanted: species that the plan tags; empty: any.
    """
    return 1 + sum(not wanted or each.species in wanted for each in tagged)


def drawn_for(nth: int, before: int, double: Sequence[int], high_reward: Sequence[int]) -> tuple[str, ...]:
    """What the draw gave to the nth fish that this outing tags, after ``before`` of other outings.

    Args:
        nth: place among the fish that this outing tags, from 1.
        before: fish tagged on other outings.
        double: places that get two tags.
        high_reward: places that get a tag of high reward.
    """
    place = before + nth
    return (*(("double",) if place in double else ()), *(("high_reward",) if place in high_reward else ()))


def propose(
    species: str,
    length_mm: float,
    zone: str,
    tagged: Sequence[CountedFish],
    quotas: Sequence[Quota] = (),
    from_mm: float | None = None,
    drawn: tuple[str, ...] = (),
    wanted: Sequence[str] = (),
    unfit: Sequence[str] = (),
) -> Proposal:
    """Whether a fish is to be tagged: the one rule of the board, the call line, the question before a tag, and the tag panel.

    Args:
        length_mm: its length. zone: where it was caught.
        tagged: fish of this outing that have a tag already.
        from_mm: as ``smallest_to_tag``.
        drawn: as ``drawn_for``.
        wanted: species that the plan tags; empty: any.
        unfit: as ``unfit_for_tag``.
    """
    if wanted and species not in wanted:
        return Proposal(False, "species")
    if from_mm is not None and length_mm < from_mm:
        return Proposal(False, "small")
    if unfit:
        return Proposal(False, "unfit")
    quota = quota_for(quotas, species, length_mm, zone)
    if quota is None:
        return Proposal(bool(drawn), "drawn" if drawn else "", drawn=drawn)
    here = [each for each in tagged if within_quota(quota.species, quota.zone, quota.from_mm, quota.to_mm, each)]
    done = quota.placed + len(here)
    return Proposal(False, "full", done) if done >= quota.most else Proposal(True, "quota", done, drawn)
