"""How many reports one sender may make, and how many are answered at once: nobody learns which numbers there are by trying.

A number that fits no fish gets the same words as one that a person has to look at. Who has missed a few times, or has been told a
few stories, is told no more that day: their reports are kept, and answered by a person.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta

from django.conf import settings
from django.db.models import Count, Q
from django.utils import timezone
from django.utils.crypto import salted_hmac

from nailwright.common.errors import Refused
from nailwright.programmes.models import Programme
from nailwright.returns.models import PublicTry

HOUR, DAY = timedelta(hours=1), timedelta(days=1)
#: Reports taken of one sender, and of all through one page, within an hour; stories told to one sender in a day, and in all within an
#: hour; misses of one sender in a day after which no more are told.
OF_SENDER, OF_ALL, TOLD_TO_SENDER, TOLD_TO_ALL, MISSES = 60, 600, 12, 120, 3


@dataclass(frozen=True)
class Room:
    """Whether the page may tell this sender a story now."""

    sender: str
    may_tell: bool


def sender_of(address: str) -> str:
    """An address as it is counted: a digest, so that none is kept. All of an IPv6 network of a household count as one."""
    network = ":".join(address.split(":")[:4]) if ":" in address else address
    return salted_hmac("returns.sender", network, secret=settings.SECRET_KEY, algorithm="sha256").hexdigest()


def room_for(programme: Programme, address: str) -> Room:
    """What a sender may have now.

    Raises:
        Refused: ``too_many_reports``.
    """
    now, sender = timezone.now(), sender_of(address)
    tries = PublicTry.objects.filter(programme=programme)
    hour = tries.filter(at__gt=now - HOUR).aggregate(
        all=Count("pk"), told=Count("pk", filter=Q(told=True)), own=Count("pk", filter=Q(sender=sender))
    )
    if hour["own"] >= OF_SENDER or hour["all"] >= OF_ALL:
        raise Refused(
            "too_many_reports",
            "Very many reports are coming in at this moment. Try again in an hour, or reach us by telephone or mail; keep the tag.",
        )
    day = tries.filter(sender=sender, at__gt=now - DAY).aggregate(
        told=Count("pk", filter=Q(told=True)), missed=Count("pk", filter=Q(missed=True))
    )
    few = day["told"] < TOLD_TO_SENDER and day["missed"] < MISSES and hour["told"] < TOLD_TO_ALL
    return Room(sender, few)


def count_try(programme: Programme, sender: str, told: bool, missed: bool) -> None:
    """Write one report down as far as it counts, and forget those that count no more."""
    PublicTry.objects.create(programme=programme, sender=sender, told=told, missed=missed)
    PublicTry.objects.filter(at__lt=timezone.now() - 2 * DAY).delete()
