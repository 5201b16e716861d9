"""Beginning, changing and ending surveys."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from datetime import date
from typing import Any

from django.db import transaction

from nailwright.findings.selections import check_days
from nailwright.plan.models import PlannedSite, Survey
from nailwright.plan.outings.orders import renew_orders
from nailwright.plan.parts import TOGETHER, changed_parts
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.protocols import standing_protocol
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.waters.models import Water, Zone
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.handling import Limits
from nailwright_core.protocol import hand_limits_for


def plan_survey(person: Person, programme: Programme, water: Water, values: dict[str, Any]) -> Survey:
    """Begin a survey on one of the programme's waters; limits for fish in hand are the protocol's until they are changed."""
    require(person, programme, "plan")
    check_days(values["first"], values["last"])
    check_species(programme, values["species"])
    decided = asdict(hand_limits_for(standing_protocol(programme), "", None))
    limits = {name: value for name, value in decided.items() if value != getattr(Limits(), name)}
    return Survey.objects.create(
        programme=programme, water=water, person=person, parts={"limits": limits} if limits else {}, **values
    )


def change_survey(act: Act, survey: Survey, values: dict[str, Any], parts: dict[str, Any]) -> Survey:
    """Set some of a survey's choices; what they were is kept, and outings that are out get the new orders."""
    require(act.person, survey.programme, "plan")
    with transaction.atomic():
        locked = Survey.objects.select_for_update().select_related("water", "programme").get(pk=survey.pk)
        check_days(values.get("first", locked.first), values.get("last", locked.last))
        if "species" in values:
            check_species(locked.programme, values["species"])
        check_targets(locked, parts.get("targets", []))
        if "pilot" in parts:
            check_species(locked.programme, [parts["pilot"]["species"]])
        apply_change(act, locked.programme, locked, {**values, **changed_parts(locked.parts, parts)}, TOGETHER)
        renew_orders([locked])
    return locked


def plan_again(person: Person, survey: Survey, first: date) -> Survey:
    """The same survey from another day on: its choices and its very sites, so that the years can be compared."""
    require(person, survey.programme, "plan")
    sites = list(survey.sites.all())
    with transaction.atomic():
        again = Survey.objects.create(
            programme=survey.programme, water=survey.water, person=person, name=f"{survey.name[:113]}, {first.year}",
            first=first, last=first + (survey.last - survey.first),
            **{name: getattr(survey, name) for name in
               ("question", "species", "gear", "more_gears", "visits", "effort_s", "revisit_years")},
            parts={**survey.parts, "shifts": []},  # the weather of this survey is not the next one's
        )  # fmt: skip
        PlannedSite.objects.bulk_create(
            PlannedSite(
                survey=again, number=each.number, start_m=each.start_m, end_m=each.end_m, zone_id=each.zone_id, moved=each.moved,
                site=each.site,
            )
            for each in sites
        )  # fmt: skip
    return again


def take_out(act: Act, survey: Survey, deleted: bool) -> Survey:
    """Take a survey out of the plans, or put it back; its outings and what they brought stay in the record."""
    require(act.person, survey.programme, "plan")
    with transaction.atomic():
        locked = Survey.objects.select_for_update().select_related("programme").get(pk=survey.pk)
        if not already_done(act) and bool(locked.deleted_at) != deleted:
            apply_change(act, locked.programme, locked, {"deleted_at": act.device_time if deleted else None})
    return locked


def check_targets(survey: Survey, targets: Sequence[dict[str, Any]]) -> None:
    zones = set(survey.water.zones.filter(kind=Zone.Kind.ZONE).values_list("name", flat=True))
    wrong = next((each["zone"] for each in targets if each.get("zone") and each["zone"] not in zones), None)
    if wrong:
        raise CoreError(
            "zone_unknown", f"Expected a zone of {survey.water.name} ({', '.join(sorted(zones)) or 'it has none yet'}); got '{wrong}'.",
            "targets",
        )  # fmt: skip


def check_species(programme: Programme, codes: Sequence[str]) -> None:
    known = set(programme.species.values_list("code", flat=True))
    if not known:
        raise CoreError("no_species", "This programme calls no species yet: choose them in Settings first.", "species")
    wrong = next((code for code in codes if code not in known), None)
    if wrong or not codes:
        raise CoreError(
            "species_not_in_programme",
            f"Expected one or more species of {', '.join(sorted(known))}; got '{wrong or ''}'.",
            "species",
        )
