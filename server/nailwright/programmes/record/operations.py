"""The kinds of entry that a tablet or a phone may send, each declared in a module of its own.

A kind is a module in the package ``operations`` of its app that holds ``KIND``; nothing else has to know of it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib import import_module
from importlib.util import find_spec
from pkgutil import iter_modules
from typing import Any

from django.apps import apps

from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright_core.common.errors import CoreError

Row = Mapping[str, Any]


@dataclass(frozen=True)
class Waits:
    """What could be done is done, and the entry is to be sent again for the rest; ``message`` says what it waits for."""

    message: str


class NotYet(CoreError):
    """What an entry belongs to is not there: it may come from another device, so the entry waits and is not refused."""


#: True: stored; False: there was nothing left to do; Waits: not done yet, or not wholly.
Outcome = bool | Waits
Do = Callable[[Act, Programme, Row], Outcome]
DoMany = Callable[[Programme, Sequence[tuple[Act, Row]], bool], Sequence[bool | CoreError]]


@dataclass(frozen=True)
class Kind:
    """One kind of entry.

    Attributes:
        name: such as "capture.edit".
        permission: what of ``policies`` the sender needs.
        do: does it; called inside a transaction, with an act whose time is put right.
        do_many: where many at once are worth a path of their own: an answer for each; told whether all should be new.
        was: names under which earlier releases sent it. upgraded: makes a row of those releases one of today.
    """

    name: str
    permission: str
    do: Do
    do_many: DoMany | None = None
    was: tuple[str, ...] = ()
    upgraded: Callable[[Row], Row] = lambda row: row


@cache
def kinds() -> Mapping[str, Kind]:
    """Every kind by its name."""
    found: dict[str, Kind] = {}
    for app in apps.get_app_configs():
        package = f"{app.name}.operations"
        spec = find_spec(package)
        for module in iter_modules(spec.submodule_search_locations or ()) if spec else ():
            kind: Kind = import_module(f"{package}.{module.name}").KIND
            found[kind.name] = kind
    return found


def kind_named(name: str) -> Kind | None:
    """The kind of an entry by its name of today, or of an earlier release: tablets bring entries that are months old."""
    found = kinds()
    return found.get(name) or next((each for each in found.values() if name in each.was), None)
