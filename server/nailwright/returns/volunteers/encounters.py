"""A card as an encounter of its fish."""

from __future__ import annotations

from datetime import datetime, time
from zoneinfo import ZoneInfo

from nailwright.returns.days import day_of
from nailwright.returns.models import Card
from nailwright.tags.encounters import replace_encounters
from nailwright.tags.models import Encounter

#: A position whose error nobody told (common practice, no source: a mile on a chart).
UNTOLD_ERROR_M = 1600.0
_HALF_A_DAY_S = 43_200.0


def renew_card(card: Card) -> int:
    """Make the encounter of a card true: one where its fish is known. How many rows that took."""
    now = [encounter_of_card(card)] if card.fish_id and not card.deleted_at else []
    return replace_encounters(Encounter.Kind.CARD, [card.pk], now)


def moment_of(card: Card) -> tuple[datetime, float]:
    """When the fish was in hand, and how far that may be off, s: by the phone where the card is of that very day, else its day's noon."""
    if card.channel == Card.Channel.PHONE and card.caught_on in (None, day_of(card.programme, card.device_time)):
        return card.device_time, 0.0
    if card.caught_on is None:
        return card.device_time, _HALF_A_DAY_S
    return datetime.combine(card.caught_on, time(12), ZoneInfo(card.programme.time_zone)), _HALF_A_DAY_S


def encounter_of_card(card: Card) -> Encounter:
    """What a card says: the fish was let go where it was caught. A length by eye is no measurement."""
    assert card.fish_id is not None
    at, at_error_s = moment_of(card)
    measured = card.length_basis == Card.Basis.MEASURED
    error = None if card.lat is None else card.error_m if card.error_m is not None else UNTOLD_ERROR_M
    return Encounter(
        fish_id=card.fish_id,
        kind=Encounter.Kind.CARD,
        source_id=card.pk,
        at=at,
        at_error_s=at_error_s,
        lat=card.lat,
        lon=card.lon,
        error_m=error,
        length_mm=card.length_mm if measured else None,
        disposition=Encounter.Disposition.RELEASED,
        let_go_at=at,
        let_go_lat=card.lat,
        let_go_lon=card.lon,
        let_go_error_m=error,
    )


def rebuild_cards() -> int:
    """Make the encounters of all cards true; 0 over true tables."""
    cards = Card.objects.exclude(fish=None).select_related("programme")
    known = sum(map(renew_card, cards.iterator()))
    told = set(Encounter.objects.filter(kind=Encounter.Kind.CARD).values_list("source_id", flat=True))
    return known + replace_encounters(Encounter.Kind.CARD, told - set(cards.values_list("pk", flat=True)), [])
