"""Which fish is to be tagged next: quotas of the protocol, the smallest fish of the plan, and what was drawn for the nth fish.

The Deck does this with no signal (``web/src/features/deck/rules/tagging.ts``); both are held to ``tests/shared/tagging.json``.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from nailwright_core.deck.counted import CountedFish, within_quota


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
        why: "small" (under the plan's length), "full", "quota", "drawn"; "" where nobody decided anything.
        done: fish of its quota that are tagged.
        drawn: what was drawn for it: "double", "high_reward".
    """

    tag: bool
    why: Literal["small", "full", "quota", "drawn", ""]
    done: int = 0
    drawn: tuple[str, ...] = ()


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
) -> Proposal:
    """Whether a fish is to be tagged.

    Args:
        length_mm: its length. zone: where it was caught.
        tagged: fish of this outing that have a tag already.
        from_mm: the smallest length that the plan tags; None where it says none.
        drawn: as ``drawn_for``.
    """
    if from_mm is not None and length_mm < from_mm:
        return Proposal(False, "small")
    quota = quota_for(quotas, species, length_mm, zone)
    if quota is None:
        return Proposal(bool(drawn), "drawn" if drawn else "", drawn=drawn)
    here = [each for each in tagged if within_quota(quota.species, quota.zone, quota.from_mm, quota.to_mm, each)]
    done = quota.placed + len(here)
    return Proposal(False, "full", done) if done >= quota.most else Proposal(True, "quota", done, drawn)
