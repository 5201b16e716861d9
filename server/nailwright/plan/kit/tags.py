"""Kinds of tag side by side, the smallest fish, battery, stock, shares drawn at random."""

from __future__ import annotations

from datetime import date
from typing import Any

from nailwright.deck.own_lines import own_lines
from nailwright.plan.models import Survey
from nailwright.programmes.species.known import species_of
from nailwright.tags.models import TagState
from nailwright_core.plan.parts import Tags
from nailwright_core.plan.tag_choice import MASSES_G, PRICES, compare_kinds, draw_shares
from nailwright_core.tags.battery import battery_days, collision_loss, last_ping, most_tags
from nailwright_core.tags.burden import minimum_length_mm

_LOSS = 0.2


def show_tags(survey: Survey, tags: Tags, today: date) -> dict[str, Any]:
    """Kinds side by side; smallest fish; battery; collision; how many of which stock; shares drawn at random.

    Raises:
        CoreError: as the core's tag modules.
    """
    kind = species_of(survey.programme)[survey.species[0] if survey.species else "wal"]
    line = own_lines(survey.programme).get(kind.code)
    smallest = minimum_length_mm(kind, tags.mass_g, tags.burden, line)
    days = battery_days(tags.capacity_mah, tags.sleep_ua, tags.pulse_mas, tags.interval_s)
    verdicts = compare_kinds(
        tags.question, kind, tags.fish_mm, tags.years, tags.budget, PRICES,
        MASSES_G | {tags.kind: tags.mass_g}, survey.water.kind != "coast", tags.burden, line,
    )  # fmt: skip
    stock = survey.programme.tags.filter(state=TagState.STOCK, kind="tbar" if tags.kind == "visible" else tags.kind)
    numbers = list(stock.order_by("number").values_list("number", flat=True)[: tags.n])
    drawn = draw_shares(tags.n, tags.double, tags.high_reward, tags.seed)
    return {
        "species": kind.common_name,
        "smallest_mm": smallest.value,
        "smallest_low": smallest.lower,
        "smallest_high": smallest.upper,
        "own_line": line is not None,
        "battery_days": days,
        "last_ping": last_ping(max(survey.first, today), days),
        "collision": collision_loss(tags.in_reach, tags.burst_s, tags.interval_s),
        "most_in_reach": most_tags(_LOSS, tags.burst_s, tags.interval_s),
        "in_stock": stock.count(),
        "first_number": numbers[0] if numbers else "",
        "last_number": numbers[-1] if numbers else "",
        "double": [place + 1 for place, each in enumerate(drawn) if each.double],
        "high_reward": [place + 1 for place, each in enumerate(drawn) if each.high_reward],
        "kinds": [
            {
                "code": each.kind.code,
                "name": each.kind.name,
                "fits": each.fits,
                "against": list(each.against),
                "affordable": each.affordable,
                "smallest_mm": each.smallest_mm,
                "years": each.kind.years,
                "cannot": each.kind.cannot,
                "needs": each.kind.needs,
            }
            for each in verdicts
        ],
    }
