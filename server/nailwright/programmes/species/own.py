"""Describing a species for one programme: a new one, or a shipped one as it is there."""

from __future__ import annotations

import base64
from collections.abc import Mapping
from typing import Any

from django.db import transaction
from django.db.models import F, Max

from nailwright.common.pictures import read_base64, read_picture
from nailwright.programmes.models import Programme, ProgrammeSpecies
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.species.known import species_of
from nailwright_core.common import species as shipped
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.common.species_values import read_species, species_values
from nailwright_core.deck.call_words import RESERVED


def describe_species(act: Act, programme: Programme, code: str, values: Mapping[str, Any]) -> Species:
    """From now on this is what the programme knows of a species; what it was before is kept in the history.

    Raises:
        CoreError: as ``read_species`` and ``read_picture``; ``word_taken`` where a code, name or word means something else.
    """
    require(act.person, programme, "choose_species")
    kind = read_species(code, _with_small_pictures(programme, code, values))
    with transaction.atomic():
        locked = Programme.objects.select_for_update().get(pk=programme.pk)
        _words_are_free(locked, kind)
        _keep(act, locked, code, species_values(kind))
    return kind


#: Longest side of a picture of what tells two species apart, px.
_PICTURE = 480


def _with_small_pictures(programme: Programme, code: str, values: Mapping[str, Any]) -> Mapping[str, Any]:
    """Pictures of look-alikes made small, with nothing of a camera in them; one that stands already stays as it is."""
    table = species_of(programme)
    stands = {each.picture for each in table[code].lookalikes} if code in list(table) else set()
    parts = values.get("lookalikes")
    if not isinstance(parts, list):
        return values
    small = []
    for place, part in enumerate(parts):
        picture = part.get("picture") if isinstance(part, Mapping) else None
        if picture and picture not in stands:
            field = f"lookalikes.{place}.picture"
            read = read_picture(read_base64(picture, field), field, _PICTURE)
            part = {**part, "picture": base64.b64encode(read.jpeg).decode()}
        small.append(part)
    return {**values, "lookalikes": small}


def as_shipped(act: Act, programme: Programme, code: str) -> Species:
    """Know a species as it ships again.

    Raises:
        CoreError: ``not_shipped``.
    """
    require(act.person, programme, "choose_species")
    kind = next((each for each in shipped.all_species() if each.code == code), None)
    if kind is None:
        raise CoreError(
            "not_shipped", f"'{code}' is the programme's own: it can be changed, or called no more.", "code"
        )
    with transaction.atomic():
        locked = Programme.objects.select_for_update().get(pk=programme.pk)
        _keep(act, locked, code, None)
    return kind


def _keep(act: Act, programme: Programme, code: str, values: dict[str, Any] | None) -> None:
    row = programme.species.filter(code=code).first()
    if row is None:
        last = programme.species.aggregate(last=Max("order"))["last"]
        ProgrammeSpecies.objects.create(programme=programme, code=code, order=(last or 0) + 1, own=values)
    else:
        apply_change(act, programme, row, {"own": values})
    Programme.objects.filter(pk=programme.pk).update(species_revision=F("species_revision") + 1)


def _words_are_free(programme: Programme, kind: Species) -> None:
    """No word means two things: neither a word of the call line nor another species."""
    taken = {name: code for name, code in species_of(programme).named().items() if code != kind.code}
    for word in (kind.code, kind.common_name.lower(), *kind.words):
        if word in RESERVED:
            raise CoreError(
                "word_taken", f"'{word}' means something else on the call line already. Choose another word.", "words"
            )
        if word in taken and word != kind.scientific_name.lower():
            raise CoreError(
                "word_taken",
                f"'{word}' means {species_of(programme)[taken[word]].common_name} already. Choose another word.",
                "words",
            )
