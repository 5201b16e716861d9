"""What a permit asks to be told: what was allowed, what was caught, handled, tagged and killed, out of the record itself."""

from __future__ import annotations

import csv
import io
from datetime import date
from typing import Any

from django.db.models import QuerySet, Sum
from django.template.loader import render_to_string

from nailwright.common.printing import font, page_size, pdf_of
from nailwright.common.spreadsheets import harmless
from nailwright.deck.models import Capture
from nailwright.permits.counting import COUNTS, allowances_of
from nailwright.permits.models import Allowance, Permit
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.returns.volunteers.counting import card_days
from nailwright_core.common.errors import CoreError
from nailwright_core.common.intervals import exact_binomial
from nailwright_core.deck.permits import COUNTED

LEVEL = 0.95


def report_on(permit: Permit) -> dict[str, Any]:
    """A permit's report over the time that its allowances span.

    Deaths are told as a share of those captured, with the exact binomial (Clopper and Pearson 1934) interval: none of n still
    allows some.

    Raises:
        CoreError: ``permit_without_allowance``.
    """
    programme = permit.programme
    allowances = [each for each in allowances_of(programme) if each["permit_id"] == permit.pk]
    if not allowances:
        raise CoreError(
            "permit_without_allowance",
            f"'{permit.name}' has no allowance to report on. Add what it allows first.",
            "permit",
        )
    first, last = min(each["first"] for each in allowances), max(each["last"] for each in allowances)
    fish = Capture.present.filter(
        programme=programme, run__deleted_at=None, run__outing__date__range=(first, last)
    )  # fmt: skip
    wanted = {each["species"] for each in allowances}
    cards = list(card_days(programme, [] if "" in wanted else wanted, first, last))
    if "" not in wanted:
        fish = fish.filter(species__in=wanted)
    counted = {what: Sum("count", filter=COUNTS[what]) for what in COUNTED[1:]} | {"captured": Sum("count")}
    by_day: QuerySet[Any, Any] = fish.values(
        "species", "run__outing", "run__outing__date", "run__outing__name", "run__outing__water__name"
    )
    beyond = fish.filter(questions__icontains='"permit_over"').select_related("programme", "run__outing", "recorder")
    return {
        "programme": programme,
        "permit": permit.name,
        "number": permit.number,
        "first": first,
        "last": last,
        "allowances": allowances,
        "species": [_species_row(programme, row) for row in _with_cards(fish.values("species").annotate(**counted), cards)],
        "days": [
            {
                "date": row["run__outing__date"],
                "outing": row["run__outing__name"],
                "water": row["run__outing__water__name"],
                "species": species_of(programme)[row["species"]].common_name,
                **{what: row[what] or 0 for what in COUNTED},
            }
            for row in by_day.annotate(**counted).order_by("run__outing__date", "species")
        ]
        + [
            {
                "date": row["day"],
                "outing": "Cards of volunteers",
                "water": "",
                "species": species_of(programme)[row["species"]].common_name,
                **{what: row[what] for what in COUNTED},
            }
            for row in cards
        ],
        "people": programme.permits.filter(
            kind=Permit.Kind.CERTIFICATE, first__lte=last, last__gte=first
        ).order_by("holder", "name", "first"),
        "beyond": _beyond(beyond),
    }  # fmt: skip


def _beyond(fish: QuerySet[Capture]) -> list[dict[str, Any]]:
    """Fish that were kept on the deck beyond what the permit allows, with the reasons that were given."""
    return [
        {
            "date": each.run.outing.date,
            "species": species_of(each.programme)[each.species].common_name,
            "n": each.count,
            "reason": each.note,
            "by": each.recorder.name,
        }
        for each in fish.order_by("device_time")
    ]


def _with_cards(rows: QuerySet[Any, Any], cards: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """What captures count by species, with what cards count, in order of codes."""
    sums: dict[str, dict[str, Any]] = {row["species"]: {what: row[what] or 0 for what in COUNTED} for row in rows}
    for card in cards:
        total = sums.setdefault(card["species"], dict.fromkeys(COUNTED, 0))
        for what in COUNTED:
            total[what] += card[what]
    return [{"species": code, **sums[code]} for code in sorted(sums)]


def _species_row(programme: Programme, row: dict[str, Any]) -> dict[str, Any]:
    numbers = {what: row[what] or 0 for what in COUNTED}
    lower, upper = exact_binomial(min(numbers["killed"], numbers["captured"]), numbers["captured"], LEVEL)
    kind = species_of(programme)[row["species"]]
    return {
        "species": kind.common_name,
        "scientific": kind.scientific_name,
        **numbers,
        "died_percent": 100 * numbers["killed"] / numbers["captured"],
        "lower": 100 * lower,
        "upper": 100 * upper,
    }


def report_csv(report: dict[str, Any]) -> str:
    """A line for each species on each outing."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(["permit", "date", "outing", "water", "species", *COUNTED])
    for day in report["days"]:
        told = (
            report["permit"],
            day["date"],
            day["outing"],
            day["water"],
            day["species"],
            *(day[what] for what in COUNTED),
        )
        writer.writerow([harmless(each) for each in told])
    return text.getvalue()


def report_pdf(report: dict[str, Any], paper: str, today: date) -> bytes:
    """The report on paper, "a4" or "letter".

    Raises:
        CoreError: ``paper_unknown``.
    """
    page = {**report, "paper": page_size(paper), "font": font(), "made": today, "what": dict(Allowance.What.choices)}
    return pdf_of(render_to_string("permits/report.html", page))
