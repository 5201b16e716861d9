"""The day's ledger: what came aboard, how it left, what is not complete yet."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db.models import Exists, OuterRef, Sum
from django.template.loader import render_to_string

from nailwright.common.printing import font, page_size, pdf_of
from nailwright.deck.handling.handled import handled_lines
from nailwright.deck.handling.releases import count_aboard
from nailwright.deck.models import Capture, Event, Outing, Photo, Release, Run, WaterReading
from nailwright.deck.outing.signatures import checklists_of, unsigned_of
from nailwright.deck.outing.today import count_done
from nailwright.deck.queries import readings_asked
from nailwright.deck.runs.effort import effort_of_run
from nailwright.deck.runs.tracks import let_go_off_water
from nailwright.deck.tagging.quotas import marked
from nailwright.programmes.places import EVERYWHERE, Places
from nailwright.programmes.protocols import protocol_in
from nailwright.programmes.species.known import species_of
from nailwright.tags.models import TagIssue, TagState
from nailwright_core.deck.gears import EFFORTS, FIGURES, asked_at_end
from nailwright_core.deck.ledger import deaths_among
from nailwright_core.deck.readings import READINGS, USUAL
from nailwright_core.protocol import word_for

FATES = Release.Fate.values


def ledger_of(outing: Outing) -> dict[str, Any]:
    """Fish by species and by how they left; counted fish by their count. It balances when nothing is aboard.

    Deaths are told of those that were not kept on purpose and have left.
    """
    called = Capture.present.filter(run__outing=outing, run__deleted_at=None)
    counts: dict[str, dict[tuple[str, int | None], int]] = {}
    told = called.values_list("species", "release__fate", "release__strength", "release__deleted_at")
    for species, fate, strength, taken_back, fish in told.annotate(fish=Sum("count")).order_by():
        left = (fate, strength) if fate and taken_back is None else ("", None)
        row = counts.setdefault(species, {})
        row[left] = row.get(left, 0) + fish
    names = species_of(outing.programme)
    rows = [
        _row(code, names[code].common_name, counts[code])
        for code in sorted(counts, key=lambda each: -sum(counts[each].values()))
    ]
    everything: dict[tuple[str, int | None], int] = {}
    for row in counts.values():
        for left, fish in row.items():
            everything[left] = everything.get(left, 0) + fish
    return {
        "rows": rows,
        "total": _row("", "All species", everything),
        "open": open_lines(outing),
        "done": done_lines(outing),
        "handled": handled_lines(outing),
    }


def _row(code: str, name: str, counts: dict[tuple[str, int | None], int]) -> dict[str, Any]:
    fates = {fate: sum(fish for (each, _), fish in counts.items() if each == fate) for fate in ("", *FATES)}
    left = sum(fates[fate] for fate in FATES if fate != Release.Fate.KEPT)
    return {
        "species": code,
        "name": name,
        "came": sum(counts.values()),
        "aboard": fates[""],
        **{fate: fates[fate] for fate in FATES},
        "strengths": [counts.get((Release.Fate.RELEASED, strength), 0) for strength in (1, 2, 3, 4)],
        "deaths": deaths_among(fates[Release.Fate.DEAD], left).line() if left else "",
    }


def _runs_to_complete(outing: Outing) -> list[str]:
    """Figures that the protocol wants of each run and an ended one has not."""
    wanted = protocol_in(outing.protocol).rows("run_figures")
    lacking: dict[str, list[str]] = {}
    for run in Run.present.filter(outing=outing).exclude(ended_at=None).order_by("number") if wanted else ():
        for name in asked_at_end(wanted, run.gear, {each: getattr(run, each) for each in FIGURES}):
            lacking.setdefault(name, []).append(str(run.number))
    return [f"{FIGURES[name].title} is missing of run {', '.join(runs)}." for name, runs in lacking.items()]


def open_lines(outing: Outing) -> list[str]:
    """What is not complete yet, in sentences."""
    called = Capture.present.filter(run__outing=outing, run__deleted_at=None)
    found = []
    if going := Run.present.filter(outing=outing, ended_at=None).count():
        found.append(f"{going} run has not ended." if going == 1 else f"{going} runs have not ended.")
    found += _runs_to_complete(outing)
    if aboard := count_aboard(outing):
        found.append(f"{aboard} fish came aboard and have not left.")
    if unweighed := called.filter(length_mm__isnull=False, mass_g=None).count():
        found.append(f"{unweighed} fish {'is' if unweighed == 1 else 'are'} measured and not weighed.")
    if doubts := called.filter(questions__icontains="not asked").count():
        found.append(f"{doubts} fish have a doubt that nobody was asked about.")
    for code, kind in species_of(outing.programme).items():
        if any(each.photo for each in kind.lookalikes):
            bare = called.filter(~Exists(Photo.present.filter(capture=OuterRef("pk"))), species=code).count()
            if bare:
                found.append(
                    f"{bare} {kind.common_name} have no photo, which is asked for since they are taken for others."
                )
    waiting = Event.present.filter(
        outing=outing, kind="mass_waits", details__waits="yes", capture__mass_g=None, capture__deleted_at=None
    )
    if n := waiting.values("capture").distinct().count():
        found.append(f"{n} fish were to be weighed later and have no mass.")
    put_in = Event.present.filter(
        outing=outing,
        kind="step",
        details__step="tag-in",
        details__done="done",
        capture__deleted_at=None,
        capture__run__deleted_at=None,
    ).exclude(capture__in=called.filter(marked()))
    if n := put_in.values("capture").distinct().count():
        found.append(f"{n} fish {'was' if n == 1 else 'were'} given a tag by surgery whose number is not recorded.")
    if off := let_go_off_water(outing):
        found.append(
            f"{off} fish {'was' if off == 1 else 'were'} let go at a position that is not on {outing.water.name}: the receiver or its drawing is wrong."
        )
    missing = TagIssue.objects.filter(outing_id=outing.pk, returned_at=None, tag__state=TagState.ISSUED)
    if numbers := list(missing.order_by("tag__number").values_list("tag__number", flat=True)):
        found.append(
            f"{len(numbers)} tags went out and are neither in a fish nor back: {', '.join(numbers[:8])}{'...' if len(numbers) > 8 else ''}."
        )
    if unsigned := unsigned_of(outing):
        found.append(f"Not signed: {', '.join(code.replace('_', ' ') for code in unsigned)}.")
    read = {name for row in outing.water_readings.filter(deleted_at=None) for name in _read(row)}
    unread = [
        _within_sentence(each["title"])
        for each in readings_asked(protocol_in(outing.protocol))
        if each["asked"] and each["name"] not in read
    ]
    conductivity = {"ambient_us_cm", "specific_us_cm"} & read  # it is read one way or the other
    unread = [title for title in unread if not (conductivity and title.startswith("conductivity"))]
    if unread:
        found.append(f"Not read: {', '.join(unread)}.")
    return found


def done_lines(outing: Outing) -> list[str]:
    """What was done against what was wanted, in sentences."""
    names = species_of(outing.programme)
    called = Capture.present.filter(run__outing=outing, run__deleted_at=None)
    return [
        f"{names[each.species].common_name}{f' of {each.from_mm:g} mm or more' if each.from_mm else ''}"
        f"{f', {each.zone_name}' if each.zone_name else ''}: {done:,} of {each.wanted:,} {each.get_what_display()}."
        for each in outing.targets.select_related("zone").order_by("species", "what")
        for done in [count_done(called, each.species, each.what, each.from_mm, each.zone_name)]
    ]


def _read(row: WaterReading) -> set[str]:
    return {name for name in USUAL if getattr(row, name) is not None} | set(row.more)


def day_pdf(outing: Outing, paper: str, today: date, places: Places = EVERYWHERE) -> bytes:
    """The day in plain words, for whoever asks; without the runs at sites that ``places`` does not show.

    Raises:
        CoreError: ``paper_unknown``.
    """
    runs = outing.runs.filter(deleted_at=None).select_related("site", "recorder", "outing__water").order_by("number")
    protocol = protocol_in(outing.protocol)
    caught = dict(
        Capture.present.filter(run__outing=outing).values_list("run").annotate(n=Sum("count")).order_by()
    )  # fmt: skip
    recorders = (
        Capture.present.filter(run__outing=outing).order_by().values_list("recorder__name", flat=True).distinct()
    )
    page = {
        "paper": page_size(paper),
        "font": font(),
        "outing": outing,
        "programme": outing.programme,
        "made": today,
        "crew": sorted({run.recorder.name for run in runs} | set(recorders)),
        "runs": [_run_line(run, caught.get(run.pk, 0)) for run in runs if places.show(run.site_id)],
        "runs_hidden": sum(not places.show(run.site_id) for run in runs),
        "readings": [_reading_line(row) for row in outing.water_readings.filter(deleted_at=None)],
        "checklists": [each for each in checklists_of(outing) if each["signature"]],
        "handovers": outing.handovers.all(),
        "strengths": [f"{strength} {word_for(protocol, 'strengths', str(strength))}" for strength in (1, 2, 3, 4)],
        **ledger_of(outing),
    }
    return pdf_of(render_to_string("deck/day.html", page))


def _run_line(run: Run, fish: int) -> dict[str, Any]:
    effort = effort_of_run(run)
    return {
        "number": run.number,
        "site": run.site.name,
        "gear": run.get_gear_display(),
        "effort": "not written down"
        if effort.value is None
        else f"{f'{effort.value:,.1f}'.removesuffix('.0')} {EFFORTS[effort.unit]}",
        "fish": fish,
    }


def _within_sentence(title: str) -> str:
    """A title within a sentence; its units keep their capitals."""
    return title[:1].lower() + title[1:]


def _reading_line(row: WaterReading) -> str:
    values = {name: getattr(row, name) for name in USUAL} | row.more
    return ", ".join(
        f"{_within_sentence(READINGS[name].title)} {value} {READINGS[name].unit}".strip()
        for name, value in values.items()
        if value is not None
    )
