"""A plan becomes an outing."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from django.db import transaction

from nailwright.deck.models import Outing, Target
from nailwright.deck.outing.outings import open_outing
from nailwright.plan.layout.actions import real_sites
from nailwright.plan.models import Survey
from nailwright.plan.outings.orders import give_orders
from nailwright.plan.progress import per_visit, targets_of
from nailwright.plan.readiness import goes_alone, missing_for
from nailwright.programmes.models import Change
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act
from nailwright.waters.zones import zone_called
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.wording import ALONE


def make_outing(act: Act, survey: Survey, outing_id: UUID, day: date) -> Outing:
    """Turn a plan into an outing: its sites become sites of the water, its targets the outing's. Asked twice with the same
    key, one outing is made; the act's reason says why it shall go out although something stands against it.

    Raises:
        CoreError: ``too_few_people``, for which no reason is good enough; ``plan_incomplete`` where permits, certificates or a season
            stand against it and no reason was given.
    """
    require(act.person, survey.programme, "open_planned")
    if goes_alone(survey):
        raise CoreError("too_few_people", ALONE, "crew")
    against = missing_for(survey, day)
    if against and len(act.reason.strip()) < 3:
        raise CoreError(
            "plan_incomplete", f"{' '.join(against)} Put it right, or say why it shall go out all the same.", "override"
        )
    with transaction.atomic():
        Survey.objects.select_for_update().get(pk=survey.pk)  # a second touch waits here, and finds the outing made
        there = survey.outings.filter(pk=outing_id).first()
        if there:
            return there
        real_sites(act, survey)
        outing = open_outing(
            act.person, survey.programme, outing_id=outing_id, water=survey.water, day=day, gear=survey.gear, more_gears=survey.more_gears,
            name=f"{survey.name}, {day:%d %b}",
        )  # fmt: skip
        survey.outings.add(outing)
        give_orders(survey, outing)
        Target.objects.bulk_create(
            Target(
                outing=outing, species=each["species"], what=each["what"], wanted=per_visit(survey, each),
                from_mm=each["from_mm"], zone=zone_called(survey.water, each["zone"]),
            )
            for each in targets_of(survey)
            if each["month"] in (None, day.month)
        )  # fmt: skip
        if against:
            Change.objects.create(
                programme=survey.programme, table="outing", row=outing.pk, person=act.person, reason=act.reason.strip(),
                before={"against": against}, after={"opened": "all the same"},
            )  # fmt: skip
    return outing
