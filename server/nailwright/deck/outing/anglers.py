"""Each angler's own card of the day: what was caught on whose rod, for how long they fished, what became of the fish."""

from __future__ import annotations

import csv
import io
from collections import Counter
from datetime import date
from typing import Any
from zoneinfo import ZoneInfo

from django.template.loader import render_to_string

from nailwright.common.printing import font, page_size, pdf_of
from nailwright.common.spreadsheets import harmless
from nailwright.deck.models import Capture, Event, Outing, Run
from nailwright.deck.queries import with_marks
from nailwright.programmes.places import Places
from nailwright.programmes.protocols import protocol_in
from nailwright.programmes.species.known import SpeciesTable, species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import MM_PER
from nailwright_core.deck.angling import rate_per_hour, whose_fights
from nailwright_core.deck.gears import GEARS, effort_of
from nailwright_core.protocol import word_for


def anglers_of(outing: Outing) -> list[str]:
    """Who fished by rod, as the crew said it, in the order in which they were named."""
    rods = Rods(outing)
    return list(dict.fromkeys([*(name for run in rods.runs for name in rods.names[run.pk]), *rods.whose.values()]))


class Rods:
    """What was said of the rods of an outing.

    Attributes:
        runs: by rod. captures: of them. names: of who fished, by run.
        fights: whose rod and for how many seconds, by the key of the fish, or of what was said of its loss.
        lost: how many were lost, by angler.
        whose: who caught each fish: as it was said of the fish, else by the rod it took, else whoever fished alone.
    """

    def __init__(self, outing: Outing) -> None:
        rods = [code for code, gear in GEARS.items() if gear.effort == "rod_hours"]
        self.runs = list(Run.present.filter(outing=outing, gear__in=rods).select_related("site", "outing__water"))
        self.captures = list(
            Capture.present.filter(run__in=self.runs).select_related("release", "run__site").order_by("device_time")
        )
        events = list(Event.present.filter(outing=outing).order_by("device_time", "id"))
        self.names = {run.pk: _names(events, run) for run in self.runs}
        everybody = [name for names in self.names.values() for name in names]
        self.fights: dict[Any, tuple[str, float]] = {}
        for run in self.runs:
            of_run = [each for each in events if each.run_id == run.pk and each.capture_id is None]
            ended = [each for each in self.captures if each.run_id == run.pk] + [
                each for each in of_run if each.kind == "lost"
            ]
            hooked = [
                (_time(each), _same(str(each.details.get("angler", "")), everybody) or self._alone(run))
                for each in of_run
                if each.kind == "hooked"
            ]
            by_key = {str(each.pk): each.pk for each in ended}
            paired = whose_fights(hooked, {str(each.pk): _time(each) for each in ended})
            self.fights |= {by_key[key]: fight for key, fight in paired.items()}
        self.lost = Counter(
            self.fights[each.pk][0] for each in events if each.kind == "lost" and each.pk in self.fights
        )
        named: dict[Any, str] = {
            each.capture_id: each.details.get("caught", "") for each in events if each.kind == "hands"
        }
        self.whose = {
            each.pk: _same(who, everybody)
            for each in self.captures
            if (who := named.get(each.pk) or self.fights.get(each.pk, ("", 0))[0] or self._alone(each.run))
        }

    def _alone(self, run: Run) -> str:
        names = self.names[run.pk]
        return names[0] if len(names) == 1 else ""


def _time(row: Capture | Event) -> float:
    return row.device_time.timestamp()


def _names(events: list[Event], run: Run) -> list[str]:
    details: dict[str, Any] = next(
        (each.details for each in reversed(events) if each.kind == "anglers" and each.run_id == run.pk), {}
    )
    return list(
        dict.fromkeys(name for part in str(details.get("names", "")).split(",") if (name := " ".join(part.split())))
    )


def _same(name: str, known: list[str]) -> str:
    """A name as it stands among those known, whatever its capitals."""
    name = " ".join(name.split())
    return next((each for each in known if each.casefold() == name.casefold()), name)


def card_of(outing: Outing, angler: str, places: Places) -> dict[str, Any]:
    """One angler's day. Rods of a run are shared among the anglers named for it, one for each where nobody wrote how many;
    places that are not shown are left out.

    Raises:
        CoreError: ``angler_unknown``.
    """
    rods = Rods(outing)
    kinds = species_of(outing.programme)
    known = anglers_of(outing)
    name = _same(angler, known)
    if name not in known:
        raise CoreError(
            "angler_unknown",
            f"Expected one of those who fished: {', '.join(known) or 'nobody was named'}; got '{angler[:40]}'.",
            "angler",
        )
    runs = [run for run in rods.runs if name in rods.names[run.pk]]
    hours = sum(_rod_hours(run, len(rods.names[run.pk])) for run in runs)
    own = with_marks([each for each in rods.captures if rods.whose.get(each.pk) == name])
    fish = sum(each.count for each in own)
    return {
        "angler": name,
        "outing": outing,
        "hours": hours,
        "going": any(run.ended_at is None for run in runs),
        "fish": fish,
        "rate": rate_per_hour(fish, hours) if hours > 0 else None,
        "lost": rods.lost[name],
        "longest_fight_s": max((rods.fights[each.pk][1] for each in own if each.pk in rods.fights), default=None),
        "species": [_species_row(kinds, code, own) for code in dict.fromkeys(each.species for each in own)],
        "rows": [_fish_row(each, kinds, rods.fights.get(each.pk), places, outing) for each in own],
    }


def _rod_hours(run: Run, anglers: int) -> float:
    """Of one of so many anglers; none while the run goes."""
    figures = {"rods": run.rods or anglers}
    effort = effort_of(run.gear, figures, run.started_at, run.ended_at, run.outing.water.time_zone)
    return (effort.value or 0.0) / anglers


def _species_row(kinds: SpeciesTable, code: str, own: list[Capture]) -> dict[str, Any]:
    fish = [each for each in own if each.species == code]
    fates: Counter[str] = Counter()
    for each in fish:
        fates[_fate(each)] += each.count
    legal = kinds[code].legal
    lengths = [each.length_mm for each in fish if each.length_mm is not None]
    return {
        "name": kinds[code].common_name,
        "fish": sum(each.count for each in fish),
        "released": fates["released"],
        "kept": fates["kept"],
        "died": fates["dead"],
        "bag": legal.bag if legal else None,
        "longest_mm": max(lengths, default=None),
        "longest_in": max(lengths) / MM_PER["in"] if lengths else None,
    }


def _fate(capture: Capture) -> str:
    release = getattr(capture, "release", None)
    return release.fate if release and release.deleted_at is None else ""


def _fish_row(
    capture: Capture, kinds: SpeciesTable, fight: tuple[str, float] | None, places: Places, outing: Outing
) -> dict[str, Any]:
    fate = _fate(capture)
    strength = capture.release.strength if fate else None
    words = dict(capture.release._meta.get_field("fate").choices or ()).get(fate, fate) if fate else "aboard"
    at = capture.device_time.astimezone(ZoneInfo(outing.water.time_zone))
    return {
        "date": f"{at:%Y-%m-%d}",
        "time": f"{at:%H:%M:%S}",
        "site": places.name(capture.run.site_id, capture.run.site.name, capture.species),
        "species": kinds[capture.species].common_name,
        "count": capture.count,
        "length_mm": capture.length_mm,
        "length_in": capture.length_mm / MM_PER["in"] if capture.length_mm is not None else None,
        "mass_g": capture.mass_g,
        "fight_s": round(fight[1]) if fight else None,
        "fate": fate,
        "left": f"{words}, {word_for(protocol_in(outing.protocol), 'strengths', str(strength))}" if strength else words,
        "met_again": ", ".join(each.number for each in capture.scans if each.result == "known"),
        "tagged": ", ".join(each.tag.number for each in capture.placed),
    }


COLUMNS = ("date", "time", "water", "site", "angler", "species", "count", "length_mm", "mass_g", "fight_s", "left", "met_again", "tagged")  # fmt: skip


def card_csv(card: dict[str, Any]) -> str:
    """A line for each fish; lengths in mm, masses in g, fights in s, times on the water's clock."""
    outing: Outing = card["outing"]
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(COLUMNS)
    for row in card["rows"]:
        told = {**row, "water": outing.water.name, "angler": card["angler"]}
        writer.writerow(["" if told[name] is None else harmless(told[name]) for name in COLUMNS])
    return text.getvalue()


def card_pdf(card: dict[str, Any], paper: str, today: date, report: bool = False) -> bytes:
    """The card on paper, "a4" or "letter"; or the catch report that a licence asks for, to be signed.

    Raises:
        CoreError: ``paper_unknown``.
    """
    template = "deck/catch_report.html" if report else "deck/angler.html"
    retained = any(row["fate"] == "kept" for row in card["rows"])
    told = {**card, "retained": retained, "paper": page_size(paper), "font": font(), "made": today}
    return pdf_of(render_to_string(template, told))
