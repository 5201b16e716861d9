"""The kinds of finding, each declared in a module of its own in ``kinds``; nothing else has to know of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from importlib import import_module
from pkgutil import iter_modules
from typing import Any

from rest_framework import serializers

from nailwright.findings import kinds as package
from nailwright.findings.request_query import SelectionSerializer
from nailwright.findings.selections import Selection
from nailwright.findings.subjects import CAPTURES, Subject
from nailwright.programmes.models import Programme


@dataclass(frozen=True)
class FindingKind:
    """One kind of finding.

    Attributes:
        name: as it stands in the address.
        query: how an address is read: the selection, and what the question needs.
        question: from what was read to the question, a frozen dataclass apart from the selection.
        rows: what of the record it is computed from.
        compute: from the rows and the question to everything that is shown, its sentence first.
        shown: its shape.
        seconds: about how long computing takes for such rows, from bin/bench; whether it runs at once follows from it.
        seed: of what it draws at random.
        subject: what rows of the record it reads; their fingerprints say whether an answer still stands.
        first_species: which species to begin with; where it does not say, the programme's first.
        tells_places: whether its answer tells where fish were, whatever is asked.
    """

    name: str
    query: type[SelectionSerializer]
    question: Callable[[dict[str, Any]], Any]
    rows: Callable[[Programme, Selection, Any], Any]
    compute: Callable[[Selection, Any, Any], dict[str, Any]]
    shown: type[serializers.Serializer]
    seconds: Callable[[Any], float]
    seed: int | None = None
    subject: Subject = CAPTURES
    first_species: Callable[[Programme], str] | None = None
    tells_places: bool = False


@cache
def finding_kinds() -> Mapping[str, FindingKind]:
    """Every kind by its name."""
    modules = (import_module(f"{package.__name__}.{each.name}") for each in iter_modules(package.__path__))
    return {module.KIND.name: module.KIND for module in modules}
