"""What every row of the record shares: a key its maker chose, two clocks, and a delete that can be undone."""

from __future__ import annotations

import uuid

from django.db import models
from django.utils import timezone
from uuid6 import uuid7


def new_id() -> uuid.UUID:
    """A UUIDv7: made anywhere without asking, sorted by the time it was made."""
    return uuid.UUID(int=uuid7().int)


class Keyed(models.Model):
    """A row with a UUIDv7 key."""

    id = models.UUIDField(primary_key=True, default=new_id, editable=False)

    class Meta:
        abstract = True


class PresentManager(models.Manager):
    """Only rows that are not marked as deleted."""

    def get_queryset(self) -> models.QuerySet:
        return super().get_queryset().filter(deleted_at=None)


class Recorded(Keyed):
    """A row made on the deck: when the device says it happened, when it reached the server, whether it was deleted."""

    device_time = models.DateTimeField(default=timezone.now)
    server_time = models.DateTimeField(default=timezone.now)
    deleted_at = models.DateTimeField(null=True)

    objects = models.Manager()
    present = PresentManager()

    class Meta:
        abstract = True
