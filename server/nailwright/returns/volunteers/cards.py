"""Volunteers' cards: recorded from their phones or from paper, their tags placed where that can be, nothing of them lost."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from django.db import transaction

from nailwright.common.fields import one_of, read_id, read_number, read_position, read_word
from nailwright.deck.rows import same_programme
from nailwright.programmes.models import Membership, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.programmes.record.effects import WITH_IT, Effects, effects_of, undo
from nailwright.programmes.record.operations import NotYet
from nailwright.programmes.species.known import species_of
from nailwright.returns.days import day_of
from nailwright.returns.matching import tags_meant
from nailwright.returns.models import Card
from nailwright.returns.volunteers.encounters import moment_of, renew_card
from nailwright.tags.actions import InHand, check_put_back, place_tag, read_since, withdraw
from nailwright.tags.models import Fish, Placement, Tag, TagIssue, TagKind
from nailwright.tags.numbers import read_number_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import parse_length
from nailwright_core.tags.cards import BLOCKS, block_of
from nailwright_core.tags.legends import readings

HOOK_KINDS = ("single", "treble", "circle", "jig")
HOOK_SITES = ("lip", "mouth", "gill", "eye", "gut", "outside")
_BLOCKS = tuple(dict.fromkeys(name for name, _ in BLOCKS))
#: How the problem of a card ends that may tell of the same meeting as another one of its day.
TOLD_TWICE = "perhaps the same fish told twice."
#: Longest fight and air exposure that are believed, s.
_MOST_FIGHT_S, _MOST_AIR_S = 6 * 3600.0, 3600.0


def record_card(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Keep a card; its key is the act's. Its tag goes into the fish where that can be, else ``problem`` says why not.

    Args:
        row: what the card tells, see ``_read``; ``tagger`` (key of a membership), ``channel``.

    Raises:
        CoreError: ``tagger_unknown``, ``key_taken``, and as the fields'. Refused: for another one's card, without ``correct_record``.
    """
    tagger = _tagger(act, programme, row)
    there = Card.objects.filter(pk=act.id).first()
    if there is not None:
        same_programme(there.programme_id, programme, "card")
        return False
    values = _read(act, programme, row, "")
    channel = one_of(row, "channel", ("", *Card.Channel.values)) or Card.Channel.PHONE
    if channel == Card.Channel.PHONE and values.get("caught_on") is None:
        here = act.device_time.astimezone(ZoneInfo(programme.time_zone))
        values |= {"caught_on": here.date(), "block": values.get("block") or block_of(here.hour)}
    card = Card(
        id=act.id,
        programme=programme,
        tagger=tagger.person,
        tagger_number=tagger.number,
        recorder=act.person,
        channel=channel,
        device_time=act.device_time,
        **values,
    )
    card.save()
    _place(act, programme, card)
    renew_card(card)
    return True


def edit_card(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Change what a ``card`` tells; only what the row tells changes. Another number moves its tag.

    Raises:
        CoreError: ``card_unknown``, ``card_deleted``, and as the fields'. Refused: for another one's card.
    """
    card = _locked(act, programme, row)
    if card.deleted_at:
        raise CoreError("card_deleted", "This card is deleted. Restore it first.", "card")
    if already_done(act):
        return False
    values = _read(act, programme, row, card.species)
    effects = Effects()
    renumbered = any(name in values and values[name] != getattr(card, name) for name in ("number_text", "tag_kind"))
    if renumbered:
        _withdraw(act, card, effects)
        card.fish_id = None
        card.save(update_fields=["fish"])
    groups = (("lat", "lon", "error_m"), ("number_text", "tag_kind"))
    changed = apply_change(act, programme, card, values, groups, also=({WITH_IT: effects.rows}, {}))
    if changed and (renumbered or "species" in values or "met_again" in values):
        _place(act, programme, card)
    if changed and "caught_on" in values:
        Placement.present.filter(capture_id=card.pk).update(device_time=moment_of(card)[0])
    renew_card(card)
    return changed


def delete_card(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Mark a ``card`` as deleted, or restore it (``deleted`` false): its tag leaves the fish, or goes into it again.

    Raises:
        CoreError: ``card_unknown``, ``tag_in_fish`` where the tag is in another fish by now. Refused: for another one's card.
    """
    card = _locked(act, programme, row)
    deleted = row.get("deleted") is not False
    if already_done(act) or bool(card.deleted_at) == deleted:
        return False
    effects = Effects()
    if deleted:
        _withdraw(act, card, effects)
    else:
        _put_back(programme, card)
    when = act.device_time if deleted else None
    apply_change(act, programme, card, {"deleted_at": when}, also=({WITH_IT: effects.rows}, {}))
    renew_card(card)
    return True


def _tagger(act: Act, programme: Programme, row: Mapping[str, Any]) -> Membership:
    found = Membership.objects.filter(pk=read_id(row, "tagger"), programme=programme).select_related("person").first()
    if found is None:
        raise CoreError("tagger_unknown", "Expected one of the programme's people as the tagger.", "tagger")
    if found.person_id != act.person.pk:
        require(act.person, programme, "correct_record")
    return found


def _locked(act: Act, programme: Programme, row: Mapping[str, Any]) -> Card:
    card = Card.objects.select_for_update().filter(pk=read_id(row, "card"), programme=programme).first()
    if card is None:
        raise NotYet("card_unknown", "This card is not here: it may come from another device.", "card")
    if card.tagger_id != act.person.pk:
        require(act.person, programme, "correct_record")
    return card


def _read(act: Act, programme: Programme, row: Mapping[str, Any], species: str) -> dict[str, Any]:
    """The fields that a row tells, checked; ``species`` is what the card said before, where the row says none."""
    values: dict[str, Any] = {}
    for name, longest in (("number_text", 40), ("place_text", 200), ("remarks", 1000)):
        if name in row:
            values[name] = read_word(row, name, longest)
    choices: dict[str, tuple[str, ...]] = {
        "tag_kind": tuple(TagKind.values), "block": _BLOCKS, "hook_kind": HOOK_KINDS, "hook_site": HOOK_SITES,
        "bleeding_landed": tuple(Card.Bleeding.values), "bleeding_released": tuple(Card.Bleeding.values),
    }  # fmt: skip
    for name, allowed in choices.items():
        if name in row:
            values[name] = one_of(row, name, ("", *allowed))
    if "species" in row:
        code = read_word(row, "species", 8)
        values["species"] = species_of(programme)[code].code if code else ""
    bounds = {"fight_s": (0.0, _MOST_FIGHT_S, "s"), "air_s": (0.0, _MOST_AIR_S, "s"), "line_kg": (0.1, 500.0, "kg")}
    for name, (low, high, unit) in bounds.items():
        if name in row:
            values[name] = read_number(row, name, low, high, unit)
    if "met_again" in row:
        values["met_again"] = row["met_again"] is True
    if "condition" in row:
        condition = read_number(row, "condition", 1, 4, "(condition)")
        values["condition"] = None if condition is None else round(condition)
    return values | _read_place(row) | _read_length(programme, row, species) | _read_day(act, programme, row)


def _read_place(row: Mapping[str, Any]) -> dict[str, Any]:
    if "lat" not in row and "lon" not in row:
        return {}
    lat, lon = read_position(row)
    error = read_number(row, "error_m", 0, 1_000_000, "m")
    return {"lat": lat, "lon": lon, "error_m": error if lat is not None else None}


def _read_length(programme: Programme, row: Mapping[str, Any], species: str) -> dict[str, Any]:
    if "length" not in row:
        return {}
    text = read_word(row, "length")
    if not text:
        return {"length_text": "", "length_mm": None, "length_type": "", "length_basis": ""}
    read = parse_length(text)
    code = read_word(row, "species", 8) or species
    kind = read_word(row, "length_type", 5) or (species_of(programme)[code].length_type if code else "")
    basis = one_of(row, "length_basis", ("", *Card.Basis.values))
    if read.estimated or not basis:
        basis = Card.Basis.ESTIMATED if read.estimated else Card.Basis.MEASURED
    return {"length_text": text, "length_mm": round(read.mm, 1), "length_type": kind, "length_basis": basis}


def _read_day(act: Act, programme: Programme, row: Mapping[str, Any]) -> dict[str, Any]:
    if "caught_on" not in row:
        return {}
    text = read_word(row, "caught_on")
    if not text:
        return {"caught_on": None}
    try:
        day = date.fromisoformat(text)
    except ValueError as error:
        raise CoreError(
            "day_unreadable", f"Expected a date such as 2026-06-01; got '{text[:20]}'.", "caught_on"
        ) from error
    here = day_of(programme, act.device_time)
    if not here - timedelta(days=36_500) <= day <= here + timedelta(days=1):
        raise CoreError("day_impossible", f"Expected a day until today; got {day:%d %b %Y}.", "caught_on")
    return {"caught_on": day}


def _withdraw(act: Act, card: Card, effects: Effects) -> None:
    """The tag that this card placed leaves its fish; read on it since, it is of some fish all the same."""
    for placement in Placement.present.filter(capture_id=card.pk).select_related("tag"):
        withdraw(placement, act, effects, misread=bool(read_since([placement])))


def _put_back(programme: Programme, card: Card) -> None:
    """Undo what deleting the card did: the one tag that left its fish then, and none that another number had replaced before."""
    effects = effects_of(card, "deleted_at") or []
    check_put_back(programme, effects)
    placements = Placement.objects.filter(tag__programme=programme, capture_id=card.pk)
    tags = Tag.objects.filter(programme=programme)
    undo(effects, {Placement: (placements, ("deleted_at", "living_tag")), Tag: (tags, ("state",))})


def _place(act: Act, programme: Programme, card: Card) -> None:
    """Give the card its fish by its number: newly tagged, or met again; what is in the way is said in ``problem``."""
    fish, problem = _fish_of(act, programme, card)
    if fish and card.species:
        _follow_species(fish, card)
    if (card.fish_id, card.problem) != (fish, problem):
        card.fish_id, card.problem = fish, problem
        card.save(update_fields=["fish", "problem"])


def _fish_of(act: Act, programme: Programme, card: Card) -> tuple[UUID | None, str]:
    if not card.number_text or not card.species:
        return card.fish_id, ""
    kind = card.tag_kind or TagKind.T_BAR
    try:
        number = _number_meant(programme, kind, card.number_text)
    except CoreError as error:
        return None, error.message[:200]
    tag = Tag.objects.filter(programme=programme, kind=kind, number=number).first()
    own = Placement.present.filter(capture_id=card.pk).first()
    if own is not None:
        return own.fish_id, card.problem
    there = Placement.present.filter(living_tag=tag.pk).first() if tag else None
    if there is not None:
        same_day = day_of(programme, there.device_time) == card.caught_on
        if same_day and not card.met_again:
            return None, f"{number} was placed that same day already: {TOLD_TWICE}"
        return there.fish_id, ""  # a recapture
    hand = InHand(card.pk, card.species, card.fish_id, True)
    try:
        with transaction.atomic():
            fish = place_tag(
                act.part("placement"), programme, hand, {"kind": kind, "number": number}, moment_of(card)[0]
            )
    except CoreError as error:
        return None, error.message[:200]
    return fish, _of_somebody_else(tag, card)


def _number_meant(programme: Programme, kind: str, text: str) -> str:
    """The number in the stock that somebody means who wrote O for 0, l for 1, blanks or a hyphen between; as written where it is none or several.

    Raises:
        CoreError: as ``read_number_of``.
    """
    if kind == TagKind.PIT or not any(sign.isalnum() for sign in text):
        return read_number_of(kind, text)
    meant = tags_meant(programme, readings(text), kind)
    return meant[0].number if len(meant) == 1 else read_number_of(kind, text)


def _of_somebody_else(tag: Tag | None, card: Card) -> str:
    issue = TagIssue.objects.filter(tag=tag, returned_at=None).select_related("person").order_by("-issued_at").first()
    if issue is None or issue.person is None or issue.person_id == card.tagger_id:
        return ""
    return f"This tag was handed out to {issue.person.name}: ask both."


def _follow_species(fish: UUID, card: Card) -> None:
    """The species of a fish that is known by this card alone is the card's."""
    if not Placement.present.filter(fish=fish).exclude(capture_id=card.pk).exists():
        Fish.objects.filter(pk=fish).exclude(species=card.species).update(species=card.species)
