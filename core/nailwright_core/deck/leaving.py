"""How a fish left, once more is said of it. The Deck says it with no signal: ``web/src/features/deck/rules/leaving.ts``,
``tests/shared/leaving.json``."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from nailwright_core.common.errors import CoreError

#: What may be said of a fish that left in one way alone.
FITS = {"strength": "released", "reason": "released", "taken_to": "taken"}
#: What a fate has of which nothing was said.
NOTHING_SAID: Mapping[str, Any] = {"strength": None, "reason": "", "taken_to": "", "word": ""}


def left_as(standing: str | None, fate: str | None, changes: Mapping[str, Any]) -> dict[str, Any]:
    """What changes of how a fish left.

    Args:
        standing: the fate that stands; None while the fish is aboard.
        fate: the one that is said; None where only more is said of the one that stands.
        changes: ``strength``, ``reason``, ``taken_to``, ``word``, those that are said.

    Returns:
        The fate and the fields that it or what is said sets: a new fate has nothing of the old one's, under the same one what was
        not said stays.

    Raises:
        CoreError: ``fate_missing`` where nothing says how it left, ``fate_does_not_fit``.
    """
    now = fate or standing
    if now is None:
        raise CoreError(
            "fate_missing", "Say first how the fish left: released, dead, kept, escaped or taken to.", "fate"
        )
    for field, of in FITS.items():
        if changes.get(field) and now != of:
            raise CoreError(
                "fate_does_not_fit",
                f"{field.replace('_', ' ').capitalize()} is said of a fish that was {of}; this one is {now}.",
                field,
            )
    return {**(NOTHING_SAID if now != standing else {}), "fate": now, **changes}
