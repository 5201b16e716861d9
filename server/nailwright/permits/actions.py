"""Adding and renewing permits and certificates; setting and deleting what a permit allows."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction

from nailwright.permits.models import Allowance, Permit
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright_core.common.errors import CoreError


def add_permit(person: Person, programme: Programme, values: dict[str, Any]) -> Permit:
    """Add a permit or a certificate.

    Raises:
        CoreError: ``days_out_of_order``.
    """
    require(person, programme, "plan")
    _check_days(values)
    return Permit.objects.create(programme=programme, **values)


def change_permit(act: Act, permit: Permit, values: dict[str, Any]) -> Permit:
    """Renew or correct one; what it said before is kept.

    Raises:
        CoreError: ``days_out_of_order``; ``permit_has_allowances`` where it would become somebody's certificate.
    """
    require(act.person, permit.programme, "plan")
    _check_days(values)
    with transaction.atomic():
        locked = Permit.objects.select_for_update().select_related("programme").get(pk=permit.pk)
        if values.get("kind") == Permit.Kind.CERTIFICATE and Allowance.present.filter(permit=locked).exists():
            raise CoreError(
                "permit_has_allowances", f"'{locked.name}' allows fish, so it stays a permit of the programme.", "kind"
            )
        apply_change(act, locked.programme, locked, values)
    return locked


def set_allowance(
    act: Act, programme: Programme, values: dict[str, Any], allowance: Allowance | None = None
) -> Allowance:
    """Add what a permit allows, or change it; what it was is kept.

    Args:
        values: fields of an allowance; ``permit`` is the permit's key.

    Raises:
        CoreError: ``permit_unknown``, ``species_not_in_programme``, ``days_out_of_order``.
    """
    require(act.person, programme, "plan")
    _check_days(values)
    permit = permit_of(programme, values["permit"])
    if values["species"] and not programme.species.filter(code=values["species"]).exists():
        raise CoreError("species_not_in_programme", f"'{values['species']}' is not on the programme's list.", "species")
    told = {name: value for name, value in values.items() if name != "permit"} | {"permit_id": permit.pk}
    with transaction.atomic():
        if allowance is None:
            return Allowance.objects.create(**told)
        locked = Allowance.objects.select_for_update().get(pk=allowance.pk)
        apply_change(act, programme, locked, told)
    return locked


def delete_allowance(act: Act, allowance: Allowance, deleted: bool) -> Allowance:
    """Delete an allowance, or restore it."""
    programme = allowance.permit.programme
    require(act.person, programme, "plan")
    with transaction.atomic():
        locked = Allowance.objects.select_for_update().get(pk=allowance.pk)
        if bool(locked.deleted_at) != deleted:
            apply_change(act, programme, locked, {"deleted_at": act.device_time if deleted else None})
    return locked


def permit_of(programme: Programme, key: UUID) -> Permit:
    """A permit of the programme, not a certificate.

    Raises:
        CoreError: ``permit_unknown``.
    """
    permit = programme.permits.filter(pk=key, kind=Permit.Kind.PERMIT).first()
    if permit is None:
        raise CoreError("permit_unknown", "Expected one of the programme's permits. Add the permit first.", "permit")
    return permit


def _check_days(values: dict[str, Any]) -> None:
    if values["last"] < values["first"]:
        raise CoreError("days_out_of_order", "Expected the first day before the last.", "last")
