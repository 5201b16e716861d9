"""What the deck reads."""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Any
from uuid import UUID

from django.db.models import Count, OuterRef, Q, QuerySet, Subquery, Sum
from django.db.models.functions import Coalesce

from nailwright.common.below_orm import Moment, read_rows
from nailwright.common.field_shapes import told as field_told
from nailwright.deck.calling.call import Board
from nailwright.deck.deck_species import deck_species
from nailwright.deck.handling.events import event_kinds, events_of, habitats_of, notes_of_fish
from nailwright.deck.models import Capture, Outing, Photo, Release, Run
from nailwright.deck.outing.parts import from_rooms_above
from nailwright.deck.outing.signatures import checklists_of
from nailwright.deck.own_lines import own_lines
from nailwright.deck.runs.sky import sky_over
from nailwright.deck.tagging.quotas import quotas_of
from nailwright.programmes.models import Change, Programme
from nailwright.programmes.places import Places
from nailwright.programmes.protocols import protocol_in
from nailwright.programmes.species.known import species_of
from nailwright.tags.models import Placement, Scan
from nailwright.tags.queries import marks_for_deck
from nailwright.waters.models import Site
from nailwright_core.common.quantities import G_PER, LENGTH_SPELLINGS, MASS_SPELLINGS, MM_PER
from nailwright_core.common.species import OTHER, Species
from nailwright_core.deck import surgery
from nailwright_core.deck.plausibility import UNIT_SLIPS
from nailwright_core.deck.readings import READINGS
from nailwright_core.protocol import Protocol


def outings_of(programme: Programme) -> QuerySet[Outing]:
    """Outings, newest first, each with its numbers of runs and of fish (counted ones by their count)."""
    runs = Run.present.filter(outing=OuterRef("pk")).order_by().values("outing").annotate(n=Count("pk")).values("n")
    here = Capture.present.filter(run__outing=OuterRef("pk"), run__deleted_at=None)
    fish = here.order_by().values("run__outing").annotate(n=Sum("count")).values("n")
    return (
        programme.outings.select_related("water", "protocol")
        .defer("water__geometry", "protocol__values")  # more than all the rest together, and a list tells none of it
        .annotate(n_runs=Coalesce(Subquery(runs), 0), n_fish=Coalesce(Subquery(fish), 0))
        .order_by("-date", "-server_time")
    )


def board_of(outing: Outing) -> Board:
    """What settles how a call in this outing is read."""
    return Board(outing.length_unit, outing.mass_unit, callable_species(outing.programme), own_lines(outing.programme))


def callable_species(programme: Programme) -> dict[str, Species]:
    """Every species that is or was on the programme's list, since a tablet may still know the list of before; and ``other``."""
    table = species_of(programme)
    return {code: table[code] for code in (*programme.species.values_list("code", flat=True), OTHER.code)}


def deck_of(outing: Outing) -> dict[str, Any]:
    """Everything the Deck needs to work this outing with no signal."""
    return {
        **live_of(outing),
        "sites": sites_for(outing),
        "species": deck_species(outing),
        "units": {
            "length": {"factors": dict(MM_PER), "spellings": dict(LENGTH_SPELLINGS), "compound": {"ft": "in"}},
            "mass": {"factors": dict(G_PER), "spellings": dict(MASS_SPELLINGS), "compound": {"lb": "oz"}},
        },
        "slips": [
            {"code": code, "label": label, "what": what, "factor": factor} for code, label, what, factor in UNIT_SLIPS
        ],
        "marks": _with_notes(outing.programme, marks_for_deck(outing.programme, outing.water, outing.pk)),
        "protocol": {
            "number": outing.protocol.number if outing.protocol else 0,
            # whom a letter goes to is the server's affair
            "values": {code: rows for code, rows in protocol_in(outing.protocol).as_values().items() if code != "told"},
        },
        "sky": sky_over(outing.water, outing.date),
        "readings": readings_asked(protocol_in(outing.protocol)),
        "event_kinds": event_kinds(outing),
        "habitats": habitats_of(outing),
        "surgery": {
            "version": surgery.VERSION,
            "caution": surgery.CAUTION,
            "watch_every_s": surgery.WATCH_EVERY_S,
            "steps": [{"code": code, "words": words} for code, words in surgery.STEPS],
        },
    }


def live_of(outing: Outing) -> dict[str, Any]:
    """What others may do to an outing while a tablet shows it."""
    return {
        "outing": outings_of(outing.programme).get(pk=outing.pk),
        "checklists": checklists_of(outing),
        "orders": outing.orders,
        "targets": outing.targets.select_related("zone").order_by("species", "what"),
        "runs": outing.runs.filter(deleted_at=None).select_related("outing__water"),
        "captures": called_rows(outing),
        "water_readings": outing.water_readings.filter(deleted_at=None),
        "events": events_of(outing),
        "photos": photos_of(outing),
        "quotas": quotas_of(outing),
        "handovers": outing.handovers.all(),
        **from_rooms_above(outing),
    }


def _with_notes(programme: Programme, marks: dict[str, Any]) -> dict[str, Any]:
    """Marked fish with what the crew is to know when one is met again: whose it is, how it was treated from depth."""
    notes = notes_of_fish(programme)
    return {**marks, "fish": [{**each, "notes": notes.get(str(each["id"]), [])} for each in marks["fish"]]}


def photos_of(outing: Outing) -> list[Photo]:
    """Photos of an outing, as they were taken; of fish that were taken out none."""
    shown = Photo.present.filter(outing=outing).select_related("capture__run")
    return list(shown.filter(Q(capture=None) | Q(capture__deleted_at=None)))


def with_shown_places(deck: dict[str, Any], places: Places) -> dict[str, Any]:
    """A deck as whoever may not see all places has it: without protected fish, without their sites and all that was done there."""
    if not places.hidden:
        return deck
    runs = [run for run in deck["runs"] if places.show(run.site_id)]
    there = {str(run.pk) for run in runs}
    captures = [each for each in deck["captures"] if each["run"] in there and each["species"] not in places.hidden]
    fish = {each["id"] for each in captures}
    return {
        **deck,
        **(_ground_shown(deck, places) if "marks" in deck else {}),
        "runs": runs,
        "captures": captures,
        "events": [
            each
            for each in deck["events"]
            if (each["capture"] is None or each["capture"] in fish)
            and (each["run"] is None or each["run"] in there)
            and each["details"].get("species") not in places.hidden
        ],
        "photos": [each for each in deck["photos"] if photo_shown(each, places)],
    }


def _ground_shown(deck: dict[str, Any], places: Places) -> dict[str, Any]:
    """Sites and marked fish, as ``with_shown_places`` has them."""
    marks = deck["marks"]
    marked = [each for each in marks["fish"] if each["species"] not in places.hidden]
    return {
        "sites": deck["sites"].exclude(pk__in=places.secret),
        "habitats": {site: habitat for site, habitat in deck["habitats"].items() if places.show(site)},
        "species": [
            {**each, "longest_mm": None, "last_visit_mm": [], "last_visit_groups": []}
            if each["code"] in places.hidden
            else each
            for each in deck["species"]
        ],
        "marks": {
            **marks,
            "fish": [
                {**each, "last": each["last"] if places.show(each["last"]["site"]) else {**each["last"], "site": None}}
                for each in marked
            ],
            "sites": [each for each in marks["sites"] if places.show(each["id"])],
        },
    }


def photo_shown(photo: Photo, places: Places) -> bool:
    """Whether a photo tells of no place that is hidden: one of a place, or taken anywhere on an outing, may show it."""
    if not places.hidden:
        return True
    return photo.capture is not None and places.show(photo.capture.run.site_id, photo.capture.species)


def readings_asked(protocol: Protocol) -> list[dict[str, Any]]:
    """Everything that can be read at a site, what the protocol asks for first, each with when it does."""
    asked = {row["code"]: row["when"] for row in protocol.rows("readings")}
    told = [{**field_told(each), "asked": asked.get(each.name, "")} for each in READINGS.values()]
    order = list(asked)
    return sorted(told, key=lambda each: order.index(each["name"]) if each["name"] in asked else len(order))


#: What the Deck shows of a fish, as ``serializers.CaptureSerializer`` has it.
_SHOWN = (
    "id", "run_id", "species", "count", "length_mm", "length_type", "length_basis", "length_text", "length_unit", "mass_g",
    "mass_basis", "mass_text", "mass_unit", "sex", "sex_evidence", "note", "questions", "fish_id", "scanned",
)  # fmt: skip


#: How it left: fate, strength, reason, taken to; and what those are while it is aboard.
_LEFT = ("fate", "strength", "reason", "taken_to")
NOT_LEFT = ("", None, "", "")


def called_rows(outing: Outing) -> list[dict[str, Any]]:
    """An outing's fish with their marks and how they left, in the order in which they were called.

    Plain values in the shape of ``CaptureSerializer``, read below the ORM: an outing may have many thousands (bin/bench).
    """
    called = Capture.present.filter(run__outing=outing, run__deleted_at=None)
    rows = called.order_by("device_time", "id").values_list(
        *_SHOWN, Moment("device_time"), *(f"release__{name}" for name in _LEFT), "release__deleted_at"
    )
    names = (*(name.removesuffix("_id") for name in _SHOWN), "device_time", "release", *_LEFT[1:])
    found: dict[str, dict[str, Any]] = {}
    aboard = dict(zip(names[-len(_LEFT) :], NOT_LEFT, strict=True))
    for cells in read_rows(rows):
        told = dict(zip(names, cells, strict=False))  # the last cell is no part of it
        told["questions"] = json.loads(told["questions"]) if told["questions"] != "[]" else []
        if not told["release"] or cells[-1] is not None:
            told |= aboard
        told["scans"], told["placed"] = [], []
        found[told["id"]] = told
    keys = called.order_by().values("pk")
    scans = Scan.present.filter(source_id__in=keys).order_by("device_time", "id")
    for source, kind, number, result in read_rows(scans.values_list("source_id", "kind", "number", "result")):
        found[source]["scans"].append({"kind": kind, "number": number, "result": result})
    placed = Placement.present.filter(capture_id__in=keys).order_by("device_time", "id")
    names_of_placed = ("kind", "number", "body_site", "quality")
    cells_of_placed = placed.values_list("capture_id", "tag__kind", "tag__number", "body_site", "quality")
    for capture, *of_tag in read_rows(cells_of_placed):
        found[capture]["placed"].append(dict(zip(names_of_placed, of_tag, strict=True)))
    return list(found.values())


def with_marks(captures: Iterable[Capture]) -> list[Capture]:
    """Captures, each with ``scans`` (numbers read) and ``placed`` (tags it was given)."""
    found = list(captures)
    by_key = {each.pk: each for each in found}
    for each in found:
        each.scans, each.placed = [], []
    for scan in Scan.present.filter(source_id__in=by_key):
        by_key[scan.source_id].scans.append(scan)
    for placement in (
        Placement.present.filter(capture_id__in=by_key).select_related("tag").order_by("device_time", "id")
    ):
        by_key[placement.capture_id].placed.append(placement)
    return found


def sites_for(outing: Outing) -> QuerySet[Site]:
    """Sites where the outing may work: those in use on its water, and those where it has worked."""
    here = outing.runs.values("site")
    return (
        outing.water.sites.select_related("zone")
        .filter(Q(retired_at=None) | Q(pk__in=here))
        .order_by("river_km", "name")
    )


def capture_history(programme: Programme, capture_id: UUID) -> list[Change]:
    """Changes of one fish and of how it left, newest first; a run that it was moved from or to is told by number and outing."""
    left = Release.objects.filter(capture=capture_id).values_list("pk", flat=True)
    changes = list(
        programme.changes.filter(row__in=[capture_id, *left]).select_related("person").order_by("-server_time", "-id")
    )
    sides = [side for each in changes for side in (each.before, each.after, each.late) if side.get("run_id")]
    runs = Run.objects.filter(pk__in=[side["run_id"] for side in sides]).select_related("outing")
    told = {str(run.pk): f"run {run.number} of {run.outing.name}, {run.outing.date:%d %b %Y}" for run in runs}
    for side in sides:
        side["caught_in"] = told.get(str(side.pop("run_id")), "a run that is gone")
    return changes
