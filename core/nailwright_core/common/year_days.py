"""Days of the year, whichever year: seasons go by them."""

from __future__ import annotations

from datetime import date

from nailwright_core.common.errors import CoreError


def check_year_day(text: str, field: str) -> None:
    """Refuse what is no day of the year as MM-DD; 29 February is one.

    Args:
        text: as it was typed.
        field: that it was typed into.

    Raises:
        CoreError: ``day_impossible``.
    """
    try:
        # the day has to read as it was written: the standard's weeks ("W10-1") are days as well
        right = f"{date.fromisoformat(f'2024-{text}'):%m-%d}" == text  # a leap year has every day
    except ValueError:
        right = False
    if not right:
        raise CoreError("day_impossible", f"Expected a day of the year as MM-DD, such as 03-15; got '{text}'.", field)


def within_year(day: str, first: str, last: str) -> bool:
    """Whether a day lies from one day to another, both included; a stretch that runs over the new year ends in the next.

    Args:
        day: "MM-DD".
        first: "MM-DD".
        last: "MM-DD".
    """
    return first <= day <= last if first <= last else day >= first or day <= last
