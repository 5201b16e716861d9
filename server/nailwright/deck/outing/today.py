"""What today holds: open outings with their targets, and what waits for a person."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import Count, Q, QuerySet

from nailwright.deck.handling.aboard import aboard_now
from nailwright.deck.models import Capture, Outing, Target
from nailwright.deck.outing.attention import attention_lines, runs_in
from nailwright.deck.queries import outings_of
from nailwright.deck.tagging.quotas import marked
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.waters.models import Site


def today_of(programme: Programme) -> dict[str, Any]:
    """The home screen of a programme."""
    outings = list(
        outings_of(programme).filter(state=Outing.State.OPEN).prefetch_related("targets__zone", "signatures", "runs")
    )
    aboard = aboard_now(outings)
    done = _done(outings)
    return {
        "outings": [
            {
                "outing": outing,
                "aboard": aboard[outing.pk].fish,
                "in_well": aboard[outing.pk].in_well,
                "to_call": aboard[outing.pk].to_call,
                "current_on_s": sum(run.current_on_s or 0 for run in runs_in(outing)),
                "targets": [
                    {
                        "species": species_of(programme)[target.species].common_name,
                        "what": target.what,
                        "from_mm": target.from_mm,
                        "zone": target.zone_name,
                        "wanted": target.wanted,
                        "done": done[target.pk],
                    }
                    for target in sorted(outing.targets.all(), key=lambda each: (each.what, each.species))
                ],
            }
            for outing in outings
        ],
        "waiting": attention_lines(programme, outings),
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
        {"code": "protocol", "done": programme.protocols.exclude(person=None).exists()},
        {"code": "permit", "done": programme.permits.exists()},
        {"code": "plan", "done": programme.surveys.exists()},
        {"code": "tags", "done": programme.tags.exists()},
        {"code": "outing", "done": False},
    ]


def _done(outings: list[Outing]) -> dict[UUID, int]:
    """How far each target is, in one question for all of them."""
    targets = [target for outing in outings for target in outing.targets.all()]
    called = Capture.present.filter(run__outing__in={each.outing_id for each in targets}, run__deleted_at=None)
    counts = called.aggregate(
        **{
            f"n{place}": Count(
                "pk",
                filter=Q(run__outing=each.outing_id) & _towards(each.species, each.what, each.from_mm, each.zone_name),
            )
            for place, each in enumerate(targets)
        }
    )
    return {each.pk: counts[f"n{place}"] for place, each in enumerate(targets)}


def _towards(species: str, what: str, from_mm: float | None, zone: str) -> Q:
    """What counts towards a target: core's ``deck.counted.towards_target``."""
    wanted = Q(species=species) & (Q(length_basis="measured") if what == Target.What.MEASURED else Q(marked()))
    if from_mm is not None:
        wanted &= Q(length_mm__gte=from_mm)
    return wanted & Q(run__site__zone__name__iexact=zone) if zone else wanted


def count_done(captures: QuerySet[Capture], species: str, what: str, from_mm: float | None, zone: str = "") -> int:
    """How many of the captures count towards a target."""
    return captures.filter(_towards(species, what, from_mm, zone)).count()
