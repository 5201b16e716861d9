"""Which kind of tag can answer the question, for which fish, how long, and for how much.

What each kind gives and cannot tell: common practice, no source. Prices and masses are the user's own.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import LengthMassLine, Species
from nailwright_core.tags.burden import CLASSIC_BURDEN, PIT_FROM_MM, minimum_length_mm

#: Prices and masses in air (g) from which the choosing aid starts; a programme knows its own (ours, no source).
PRICES = {"visible": 1.2, "pit": 3.0, "acoustic": 350.0, "radio": 220.0, "satellite": 3800.0, "archival": 420.0}
MASSES_G = {"visible": 0.3, "pit": 0.1, "acoustic": 9.0, "radio": 8.0, "satellite": 60.0, "archival": 15.0}
#: Kinds that are put in by surgery.
IMPLANTED = ("acoustic", "radio", "archival")
QUESTIONS = ("harvest", "abundance", "growth", "home range", "survival", "depth", "far movement")


@dataclass(frozen=True)
class TagKind:
    """A kind of tag: what it is good for, how long it lasts at most (years), what it cannot tell."""

    code: str
    name: str
    answers: frozenset[str]
    years: float
    cannot: str
    needs: str
    burden_matters: bool


KINDS = (
    TagKind("visible", "Visible numbered tag", frozenset({"harvest", "abundance", "growth"}), 5,
            "Says nothing between two catches; is shed over the years.", "Anglers who report; a double-tagged share.", False),
    TagKind("pit", "PIT tag", frozenset({"abundance", "growth", "survival", "harvest"}), 50,
            "Nobody sees it: without a reader within centimetres there is no record.", "A reader at every catch, or a gate antenna.", False),
    TagKind("acoustic", "Acoustic transmitter", frozenset({"home range", "survival", "depth", "far movement"}), 10,
            "Hears only near receivers; a still tag may be a dead fish.", "Receivers, surgery under licence.", True),
    TagKind("radio", "Radio transmitter", frozenset({"home range", "survival"}), 4,
            "Silent in deep or salt water.", "Antenna; shallow fresh water; surgery under licence.", True),
    TagKind("satellite", "Satellite pop-up tag", frozenset({"far movement", "depth", "survival"}), 2,
            "Places are rough (often 100 km); one track a tag.", "Large fish; money.", True),
    TagKind("archival", "Archival tag", frozenset({"depth", "growth", "far movement"}), 10,
            "Tells nothing unless it comes back.", "A high rate of return; a reward.", True),
)  # fmt: skip


@dataclass(frozen=True)
class TagVerdict:
    """One kind for one plan: whether it fits, why not, how many the budget buys, the smallest fish, what it cannot tell."""

    kind: TagKind
    fits: bool
    against: tuple[str, ...]
    affordable: int
    smallest_mm: float | None


def compare_kinds(
    question: str,
    species: Species,
    fish_mm: float,
    years: float,
    budget: float,
    prices: dict[str, float],
    masses_g: dict[str, float],
    fresh_water: bool = True,
    burden: float = CLASSIC_BURDEN,
    line: LengthMassLine | None = None,
) -> tuple[TagVerdict, ...]:
    """Every kind side by side, those that fit first.

    Args:
        fish_mm: length of the smallest fish that shall carry one.
        prices: of one tag of each kind (its code), in any one currency. masses_g: in air.

    Raises:
        CoreError: ``question_unknown``, ``budget_out_of_range``, and as ``minimum_length_mm``.
    """
    if question not in QUESTIONS:
        raise CoreError(
            "question_unknown", f"Expected a question of {', '.join(QUESTIONS)}; got '{question}'.", "question"
        )
    if budget < 0 or not fish_mm > 0 or not years > 0:
        raise CoreError("budget_out_of_range", "Expected a budget of 0 or more, a length and years above 0.", "budget")
    verdicts = []
    for kind in KINDS:
        against = []
        if question not in kind.answers:
            against.append(f"It does not answer the question about {question}.")
        if years > kind.years:
            against.append(f"It lasts about {kind.years:g} years at most; {years:g} are wanted.")
        if kind.code == "radio" and not fresh_water:
            against.append("Radio does not carry through salt water.")
        smallest = None
        if kind.code == "pit":
            smallest = PIT_FROM_MM[12]
        elif kind.burden_matters:
            smallest = minimum_length_mm(species, masses_g.get(kind.code, 10.0), burden, line).upper
        if smallest is not None and fish_mm < smallest:
            against.append(
                f"It is too heavy or long for fish under {smallest:.0f} mm; the smallest here is {fish_mm:.0f} mm."
            )
        price = prices.get(kind.code, 0.0)
        affordable = math.floor(budget / price + 1e-9) if price > 0 else 0
        if price > 0 and affordable < 1:
            against.append("The budget does not buy one.")
        verdicts.append(TagVerdict(kind, not against, tuple(against), affordable, smallest))
    return tuple(sorted(verdicts, key=lambda verdict: (not verdict.fits, len(verdict.against))))


@dataclass(frozen=True)
class Share:
    """What one fish of a batch gets: ``double`` a second tag, ``high_reward`` a tag that promises a high reward."""

    double: bool
    high_reward: bool


def draw_shares(n: int, double: float, high_reward: float, seed: int = 0) -> tuple[Share, ...]:
    """For n fish in the order of tagging, which get two tags and which a high-reward tag: exact shares, random places.

    Args:
        n: fish that will be tagged.
        double: share that gets two tags, 0 to 1.
        high_reward: share that gets a high-reward tag, 0 to 1.
        seed: of the draw.

    Raises:
        CoreError: ``share_out_of_range``, ``count_out_of_range``.
    """
    if not 0 <= n <= 100_000:
        raise CoreError("count_out_of_range", f"Expected 0 to 100,000 fish; got {n}.", "n")
    for name, share in (("double", double), ("high_reward", high_reward)):
        if not 0 <= share <= 1:
            raise CoreError("share_out_of_range", f"Expected a share from 0 to 1; got {share:g}.", name)
    rng = np.random.default_rng(seed)
    picks = [set(rng.permutation(n)[: round(n * share)].tolist()) for share in (double, high_reward)]
    return tuple(Share(place in picks[0], place in picks[1]) for place in range(n))
