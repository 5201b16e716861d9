"""Fish that were called as ``other`` get their species once it is on the list."""

from __future__ import annotations

from collections import Counter
from typing import Any

from django.db import transaction

from nailwright.deck.calling.call import name_of_other
from nailwright.deck.calling.corrections import correct_capture
from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import OTHER


def others_of(programme: Programme) -> list[dict[str, Any]]:
    """The names by which fish were called as ``other``, with how many fish, the most common first."""
    notes = Capture.present.filter(programme=programme, species=OTHER.code).values_list("note", "count")
    counts: Counter[str] = Counter()
    for note, n in notes:
        counts[name_of_other(note)] += n
    return [{"name": name, "n": n} for name, n in counts.most_common()]


def name_others(act: Act, programme: Programme, name: str, code: str) -> dict[str, Any]:
    """Say which species the fish of a name are; each keeps its note, and the history what it was called as.

    A fish that cannot be of that species (its length is impossible) stays as it is and is told.

    Raises:
        CoreError: ``nobody_called_so``; ``species_not_in_programme``.
    """
    require(act.person, programme, "correct_record")
    if not programme.listed_species.filter(code=code).exists():
        raise CoreError("species_not_in_programme", f"'{code}' is not on the list: put it there first.", "code")
    called = Capture.present.filter(programme=programme, species=OTHER.code).values_list("pk", "note")
    keys = [key for key, note in called if name_of_other(note) == name.strip().lower()]
    if not keys:
        raise CoreError("nobody_called_so", f"No fish was called as other; {name[:60]}.", "name")
    left = []
    for key in keys:
        try:
            with transaction.atomic():
                correct_capture(act.part(key), programme, key, {"species": code})
        except CoreError as refused:
            left.append(refused.message)
    return {"named": len(keys) - len(left), "left": left}
