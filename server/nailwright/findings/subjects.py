"""What findings ask: each subject with the fingerprints by which it is seen that one of its rows changed.

``touched`` costs little and differs after every change, also after one that was taken back: for answers that would only be computed
anew. ``fingerprint`` is the same for the same rows: for what somebody kept. A finding is served from what was kept as long as they stand,
so that whatever a kind reads must be in those of its subject.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass

from django.db.models import QuerySet

from nailwright.common.row_sums import sum_over
from nailwright.deck.models import Capture, Event
from nailwright.findings.filters import Of
from nailwright.findings.fingerprints import rows_fingerprint, touch_fingerprint
from nailwright.findings.selections import Selection, captures_in, filters, runs_in
from nailwright.programmes.models import Programme
from nailwright.returns.models import Return
from nailwright.tags.models import Encounter, Occasion, Placement, Scan
from nailwright.waters.models import Site, Water


@dataclass(frozen=True)
class Subject:
    """A kind of row that findings are computed from, of those that a selection holds; ``of`` says which filters choose among them."""

    name: str
    of: frozenset[Of]
    touched: Callable[[Programme, Selection], str]
    fingerprint: Callable[[Programme, Selection], str]

    @property
    def filters(self) -> list[str]:
        """Names of the filters that it has; a species every one."""
        return [name for name, each in filters().items() if name == "species" or each.of in self.of]


#: Measured fish, and the runs in which they were caught.
CAPTURES = Subject("captures", frozenset(("runs", "captures", "sizes")), touch_fingerprint, rows_fingerprint)


def events_in(programme: Programme, selection: Selection) -> QuerySet[Event]:
    """What was said on the outings of a selection's runs, of fish and of baths. Whose fish those are, its captures say."""
    outings = runs_in(programme, selection).order_by().values_list("outing", flat=True).distinct()
    return Event.present.filter(outing__programme=programme, outing__in=list(outings)).order_by()


def _of_events(of_captures: Callable[[Programme, Selection], str]) -> Callable[[Programme, Selection], str]:
    def of_events(programme: Programme, selection: Selection) -> str:
        events = sum_over(events_in(programme, selection), ("id", "kind", "details", "device_time", "capture_id"))
        return hashlib.sha256(f"{of_captures(programme, selection)}-{events}".encode()).hexdigest()[:40]

    return of_events


#: Events of handling, the fish that they are of, and their runs.
HANDLING = Subject(
    "handling", frozenset(("runs", "captures")), _of_events(touch_fingerprint), _of_events(rows_fingerprint)
)


#: What effort is reckoned from, and where along its water a run lies.
_OF_EFFORT = (
    "pk",
    "current_on_s",
    "distance_m",
    "rods",
    "nets",
    "hauls",
    "started_at",
    "ended_at",
    "site_id",
    "site__river_km",
    "outing__water__time_zone",
)


def _with_effort(of_captures: Callable[[Programme, Selection], str]) -> Callable[[Programme, Selection], str]:
    def with_effort(programme: Programme, selection: Selection) -> str:
        spent = sum_over(runs_in(programme, selection).order_by(), _OF_EFFORT)
        return hashlib.sha256(f"{of_captures(programme, selection)}-{spent}".encode()).hexdigest()[:40]

    return with_effort


#: Runs with their effort, whether a fish was caught or none, and the fish.
CATCHES = Subject(
    "catches", frozenset(("runs", "captures")), _with_effort(touch_fingerprint), _with_effort(rows_fingerprint)
)


def _with_marks(of_captures: Callable[[Programme, Selection], str]) -> Callable[[Programme, Selection], str]:
    def with_marks(programme: Programme, selection: Selection) -> str:
        looked = sum_over(captures_in(programme, selection), ("pk", "fish_id", "scanned", "count"))
        met = Encounter.objects.filter(fish__programme=programme, fish__species=selection.species).order_by()
        ended = sum_over(met, ("pk", "source_id", "disposition"))
        return hashlib.sha256(f"{of_captures(programme, selection)}-{looked}-{ended}".encode()).hexdigest()[:40]

    return with_marks


#: Fish that were looked at for marks, and which of them were known.
LOOKED_AT = Subject(
    "looked-at", frozenset(("runs", "captures")), _with_marks(touch_fingerprint), _with_marks(rows_fingerprint)
)


def _of_marks(programme: Programme, selection: Selection) -> str:
    """Of tags in fish of the species, what was read on them, where they were met, and what finders reported of them."""
    of = {"fish__programme": programme, **({"fish__species": selection.species} if selection.species else {})}
    parts = (
        (
            Placement.present.filter(**of),
            ("pk", "fish_id", "capture_id", "device_time", "living_tag", "quality", "body_site", "tag__state", "tag__batch__name", "tag__batch__colour", "tag__batch__reward"),
        ),
        (Encounter.objects.filter(**of), ("pk", "kind", "at", "disposition")),
        (Scan.present.filter(programme=programme), ("pk", "source_id", "kind", "number")),
        (Return.objects.filter(programme=programme), ("pk", "state", "tag_id", "found_on")),
    )  # fmt: skip
    told = "-".join(sum_over(rows.order_by(), columns) for rows, columns in parts)
    return hashlib.sha256(told.encode()).hexdigest()[:40]


#: Tags in fish, and every time that one of these fish was met.
MARKS = Subject("marks", frozenset(), _of_marks, _of_marks)


def _of_encounters(programme: Programme, selection: Selection) -> str:
    """Every time that a fish of the species was met, what was fished in the whole programme, and where its waters and zones lie."""
    of = {"fish__programme": programme, **({"fish__species": selection.species} if selection.species else {})}
    parts = (
        (
            Encounter.objects.filter(**of),
            ("pk", "fish_id", "kind", "at", "site_id", "lat", "lon", "error_m", "length_mm", "disposition", "let_go_at", "let_go_lat", "let_go_lon", "let_go_error_m"),
        ),
        (Placement.present.filter(**of), ("pk", "fish_id", "tag__kind")),
        (Capture.present.filter(**of), ("pk", "fish_id", "sex", "length_type")),
        (Occasion.objects.filter(programme=programme), ("pk", "site_id", "day", "effort", "effort_unit")),
        (Site.objects.filter(water__programme=programme), ("pk", "name", "river_km", "zone_id", "zone__name", "zone__start_m")),
        (Water.objects.filter(programme=programme), ("pk", "kind", "name", "geometry")),
    )  # fmt: skip
    told = "-".join(sum_over(rows.order_by(), columns) for rows, columns in parts)
    return hashlib.sha256(told.encode()).hexdigest()[:40]


#: Every time that a fish was met, and where and how long was fished.
ENCOUNTERS = Subject("encounters", frozenset(), _of_encounters, _of_encounters)
