"""Which species a programme calls, in what order."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from nailwright.programmes.models import Programme, ProgrammeSpecies
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import OTHER


def set_species(act: Act, programme: Programme, codes: Sequence[str]) -> list[ProgrammeSpecies]:
    """Call these species from now on, in this order.

    One that is left out is not offered any more; its fish stay in the record and in findings, and it can come back.

    Raises:
        CoreError: ``species_unknown``, ``species_twice``.
    """
    require(act.person, programme, "choose_species")
    known = species_of(programme)
    wrong = next((code for code in codes if code not in known or code == OTHER.code), None)
    if wrong is not None:
        raise CoreError("species_unknown", f"Expected codes of species that are known here; got '{wrong}'.", "codes")
    if len(set(codes)) < len(codes):
        raise CoreError("species_twice", "A species stands twice in the list.", "codes")
    with transaction.atomic():
        Programme.objects.select_for_update().get(pk=programme.pk)  # one list at a time
        there = {row.code: row for row in programme.species.all()}
        for order, code in enumerate(codes):
            row = there.get(code)
            if row is None:
                ProgrammeSpecies.objects.create(programme=programme, code=code, order=order)
            else:
                apply_change(act.part(row.pk), programme, row, {"order": order, "retired_at": None})
        for code, row in there.items():
            if code not in codes and row.retired_at is None:
                apply_change(act.part(row.pk), programme, row, {"retired_at": act.device_time})
    return list(programme.listed_species)
