"""What today holds: open outings with their targets, and what waits for a person."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from django.db.models import Count, Q, QuerySet, Sum
from django.utils import timezone

from nailwright.deck.handling.releases import aboard_of
from nailwright.deck.models import Capture, Outing, Run, Target
from nailwright.deck.outing.crossed import RECENT_DAYS, crossed_of
from nailwright.deck.outing.signatures import unsigned_of
from nailwright.deck.permits import allowances_of
from nailwright.deck.queries import outings_of
from nailwright.deck.tagging.quotas import marked
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.waters.models import Site


def today_of(programme: Programme) -> dict[str, Any]:
    """The home screen of a programme."""
    outings = list(
        outings_of(programme).filter(state=Outing.State.OPEN).prefetch_related("targets", "signatures", "runs")
    )
    aboard = _aboard(outings)
    done = _done(outings)
    return {
        "outings": [
            {
                "outing": outing,
                "aboard": aboard.get(outing.pk, 0),
                "current_on_s": sum(run.current_on_s or 0 for run in _runs(outing)),
                "targets": [
                    {
                        "species": species_of(programme)[target.species].common_name,
                        "what": target.what,
                        "from_mm": target.from_mm,
                        "reach": target.reach,
                        "wanted": target.wanted,
                        "done": done[target.pk],
                    }
                    for target in sorted(outing.targets.all(), key=lambda each: (each.what, each.species))
                ],
            }
            for outing in outings
        ],
        "waiting": [
            each
            for each in (
                *_stale(outings),
                *_unsigned(outings),
                *_older_protocols(programme, outings),
                _doubts(programme),
                _foreign(programme),
                _crossed(programme),
                *_permits(programme),
                _beyond(programme),
            )
            if each
        ],
        "steps": steps_of(programme),
        "recent": outings_of(programme).filter(state=Outing.State.CLOSED)[:5],
    }


def steps_of(programme: Programme) -> list[dict[str, Any]]:
    """What a programme needs before its first outing, each done or not; empty once it has been out."""
    if programme.outings.exists():
        return []
    sites = Site.objects.filter(water__programme=programme, retired_at=None).exists()
    invited = programme.invitations.filter(withdrawn_at=None).exists()
    return [
        {"code": "water", "done": programme.waters.exists() and sites},
        {"code": "species", "done": programme.listed_species.exists()},
        {"code": "people", "done": invited or programme.memberships.count() > 1},
        {"code": "outing", "done": False},
    ]


def _runs(outing: Outing) -> list[Run]:
    return [run for run in outing.runs.all() if run.deleted_at is None]


def _aboard(outings: list[Outing]) -> dict[UUID, int]:
    """Fish still in the live well, by outing."""
    counted = aboard_of(outings).values_list("run__outing").annotate(fish=Sum("count")).order_by()
    return {outing: int(fish or 0) for outing, fish in counted}


def _done(outings: list[Outing]) -> dict[UUID, int]:
    """How far each target is, in one question for all of them."""
    targets = [target for outing in outings for target in outing.targets.all()]
    called = Capture.present.filter(run__outing__in={each.outing_id for each in targets}, run__deleted_at=None)
    counts = called.aggregate(
        **{
            f"n{place}": Count(
                "pk", filter=Q(run__outing=each.outing_id) & _towards(each.species, each.what, each.from_mm, each.reach)
            )
            for place, each in enumerate(targets)
        }
    )
    return {each.pk: counts[f"n{place}"] for place, each in enumerate(targets)}


def _towards(species: str, what: str, from_mm: float | None, reach: str) -> Q:
    """What counts towards a target: core's ``deck.counted.towards_target``."""
    wanted = Q(species=species) & (Q(length_basis="measured") if what == Target.What.MEASURED else Q(marked()))
    if from_mm is not None:
        wanted &= Q(length_mm__gte=from_mm)
    return wanted & Q(run__site__reach__iexact=reach) if reach else wanted


def count_done(captures: QuerySet[Capture], species: str, what: str, from_mm: float | None, reach: str = "") -> int:
    """How many of the captures count towards a target."""
    return captures.filter(_towards(species, what, from_mm, reach)).count()


def _older_protocols(programme: Programme, outings: list[Outing]) -> list[dict[str, Any]]:
    """Open outings that go by an earlier version than the one that holds now."""
    standing = programme.protocols.first()
    return [
        {
            "code": "protocol_older",
            "text": f"{outing.name} goes by version {outing.protocol.number} of the protocol; version {standing.number} holds since.",
            "outing": outing.pk,
            "n": 1,
        }
        for outing in outings
        if standing and outing.protocol and outing.protocol.number < standing.number
    ]


def _stale(outings: list[Outing]) -> list[dict[str, Any]]:
    """Outings still open from an earlier day."""
    today = timezone.now().date()
    return [
        {
            "code": "outing_open",
            "text": f"{outing.name} of {outing.date:%d %b %Y} is still open: account for its fish and close it.",
            "outing": outing.pk,
            "n": 1,
        }
        for outing in outings
        if (today - outing.date).days > 1
    ]


def _unsigned(outings: list[Outing]) -> list[dict[str, Any]]:
    """Outings on which current flowed although a checklist was neither signed nor passed over: another tablet's work."""
    worked = [outing for outing in outings if any((run.current_on_s or 0) > 0 for run in _runs(outing))]
    return [
        {
            "code": "checklists_unsigned",
            "text": f"{outing.name}: current was on with {n} {'checklist' if n == 1 else 'checklists'} unsigned. "
            "Read and sign, or say why not.",
            "outing": outing.pk,
            "n": n,
        }
        for outing in worked
        if (n := len(unsigned_of(outing)))
    ]


def _doubts(programme: Programme) -> dict[str, Any] | None:
    """Doubts that nobody was asked, because the call came from elsewhere than the Deck."""
    captures = _recent(programme).filter(questions__icontains='"not asked"')
    return _newest(
        captures,
        "doubt_unasked",
        "{n} fish with a doubt that nobody has answered: look, then correct or confirm.",
    )


def _foreign(programme: Programme) -> dict[str, Any] | None:
    """Marks that this programme never gave out."""
    captures = _recent(programme).filter(scanned=Capture.Scanned.FOREIGN)
    return _newest(captures, "mark_foreign", "{n} fish with a mark that is not ours: find out whose it is.")


def _crossed(programme: Programme) -> dict[str, Any] | None:
    """Corrections of two people that do not agree."""
    crossed = crossed_of(programme)
    if not crossed:
        return None
    n = len({each.row for each in crossed})
    text = "that two people put right differently: the later word stands; look whether it is the right one."
    entries = f"{n} {'entry' if n == 1 else 'entries'}"
    return {"code": "corrections_crossed", "text": f"{entries} {text}", "outing": crossed[0].outing, "n": n}


def _permits(programme: Programme) -> list[dict[str, Any]]:
    """Permits of which four fifths or more are used up."""
    words = {"near": "is nearly used up", "last": "is used up", "over": "is overdrawn: tell whoever issued it"}
    return [
        {
            "code": f"permit_{each['standing']}",
            "text": f"{each['permit']}: {each['counted']:,} of {each['most']:,} {each['species_name']} {each['what']} until "
            f"{each['last']:%d %b %Y}; it {words[each['standing']]}.",
            "outing": None,
            "n": each["counted"],
        }
        for each in allowances_of(programme, timezone.now().date())  # what has run out is not counted at each look
        if each["standing"] != "open"
    ]


def _beyond(programme: Programme) -> dict[str, Any] | None:
    """Fish that were kept on the Deck beyond what a permit allows, each with its reason in the note."""
    captures = _recent(programme).filter(questions__icontains='"permit_over"')
    return _newest(
        captures, "permit_over_kept", "{n} fish beyond a permit, each with its reason: read them, then tell the agency."
    )


def _recent(programme: Programme) -> QuerySet[Capture]:
    since = date.fromordinal(timezone.now().date().toordinal() - RECENT_DAYS)
    return Capture.present.filter(programme=programme, run__outing__date__gte=since)


def _newest(captures: QuerySet[Capture], code: str, text: str) -> dict[str, Any] | None:
    """One line for all of them, leading to the outing of the newest."""
    newest = captures.order_by("-device_time").values_list("run__outing_id", flat=True).first()
    if newest is None:
        return None
    n = captures.count()
    return {"code": code, "text": text.format(n=n), "outing": newest, "n": n}
