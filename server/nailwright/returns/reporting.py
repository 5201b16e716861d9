"""Taking reports in: by their finder through the public page, or by staff who were told."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from nailwright.common.fields import read_position
from nailwright.common.pictures import read_base64, read_picture
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.species.known import species_of
from nailwright.returns.matching import match_number
from nailwright.returns.models import Finder, Return, ReturnPhoto
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import parse_length, parse_mass

#: A day on the other side of the date line may be tomorrow here.
_AHEAD = timedelta(days=1)
_EARLIEST = date(1950, 1, 1)
#: A place in words or touched on a map is no fix (common practice, no source).
TOUCHED_ERROR_M = 500.0
_AS_TOLD = (
    "species", "found_on", "found_within_days", "place_text", "means", "fish_fate", "tag_fate", "remarks", "language",
)  # fmt: skip


def take_report(
    programme: Programme,
    key: UUID,
    told: Mapping[str, Any],
    channel: str = Return.Channel.WEB,
    recorder: Person | None = None,
) -> tuple[Return, bool]:
    """Keep a report under the key that its sender made; sent again it is there already.

    Args:
        told: checked values of ``ReportSerializer``.

    Returns:
        The report, and whether it is new.

    Raises:
        CoreError: ``report_empty`` without number and photo, ``day_impossible``, ``position_half``, ``consent_missing``,
            ``guardian_missing``, ``report_elsewhere``, ``species_unknown``, and as ``parse_length``, ``parse_mass``, ``read_picture``.
    """
    there = Return.objects.filter(pk=key).first()
    if there is not None:
        if there.programme_id != programme.pk:
            raise CoreError("report_elsewhere", "Another report has this key already. Send it anew.", "id")
        return there, False
    values = {**_checked(told), **as_stored(told)}
    picture = read_picture(read_base64(told["photo"], "photo"), "photo") if told.get("photo") else None
    if not values["number_text"] and picture is None:
        raise CoreError("report_empty", "Expected the number on the tag, or a photo of it; got neither.", "number")
    if values.get("species"):
        values["species"] = species_of(programme)[values["species"]].code
    finder = _finder(told.get("contact"))
    match = match_number(programme, values["number_text"])
    with transaction.atomic():
        report = Return.objects.create(
            id=key,
            programme=programme,
            channel=channel,
            recorder=recorder,
            tag=match.tag,
            fish=match.fish,
            state=Return.State.MATCHED if match.fish else Return.State.RECEIVED,
            **values,
        )
        if picture:
            ReturnPhoto.objects.create(report=report, jpeg=picture.jpeg, small=picture.small)
        if finder:
            Finder.objects.create(report=report, **finder)
    return report, True


def _checked(told: Mapping[str, Any]) -> dict[str, Any]:
    values = {name: told[name] for name in _AS_TOLD if told.get(name) not in (None, "")}
    return {**values, "number_text": str(told.get("number") or "").strip()}


def as_stored(told: Mapping[str, Any]) -> dict[str, Any]:
    """Day, place, length and mass of a report or of its correction, as far as they are told, as they are stored.

    Raises:
        CoreError: ``day_impossible``, ``position_half``, and as ``parse_length`` and ``parse_mass``.
    """
    stored: dict[str, Any] = {}
    found: date | None = told.get("found_on")
    if found is not None:
        today = timezone.now().date()
        if not _EARLIEST <= found <= today + _AHEAD:
            raise CoreError(
                "day_impossible", f"Expected a day from {_EARLIEST:%Y} until today; got {found:%d %b %Y}.", "found_on"
            )
        stored["found_on"] = found
    if "lat" in told or "lon" in told:
        lat, lon = read_position(told)
        error = told.get("error_m")
        stored |= {"lat": lat, "lon": lon, "error_m": None if lat is None else error or TOUCHED_ERROR_M}
    if "length" in told:
        text = told["length"].strip()
        length = parse_length(text) if text else None
        stored |= {
            "length_text": text,
            "length_mm": round(length.mm, 1) if length else None,
            "length_estimated": bool(told.get("length_estimated")) or bool(length and length.estimated),
        }
    if "mass" in told:
        text = told["mass"].strip()
        stored |= {"mass_text": text, "mass_g": round(parse_mass(text).g, 1) if text else None}
    return stored


def _finder(contact: Mapping[str, Any] | None) -> dict[str, Any] | None:
    if not contact:
        return None
    names = ("name", "email", "telephone", "post", "guardian")
    values = {name: str(contact.get(name) or "").strip() for name in names}
    if not any(values.values()):
        return None
    if not contact.get("consent"):
        raise CoreError(
            "consent_missing",
            "Expected your consent that we keep how to reach you; or leave name and contact empty.",
            "contact.consent",
        )
    if contact.get("under_age") and not values["guardian"]:
        raise CoreError(
            "guardian_missing", "Expected the name of the parent or guardian who agrees.", "contact.guardian"
        )
    return {**values, "consent_at": timezone.now()}
