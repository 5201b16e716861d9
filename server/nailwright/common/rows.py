"""What every row of the record shares: a key its maker chose, two clocks, and a delete that can be undone."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import models
from django.utils import timezone
from uuid6 import uuid7

from nailwright.common.fields import check_key
from nailwright_core.common.errors import CoreError


def new_id() -> uuid.UUID:
    """A UUIDv7: made anywhere without asking, sorted by the time it was made."""
    return uuid.UUID(int=uuid7().int)


class KeyField(models.UUIDField):
    """A key, refused in words where the database would refuse it in a failure, wherever it comes from."""

    def get_db_prep_value(self, value: Any, connection: Any, prepared: bool = False) -> Any:
        key = self.to_python(value)
        try:
            if key is not None:
                check_key(key)
        except ValueError as error:
            raise CoreError("key_unreadable", f"Expected a UUID as RFC 9562 has them; got {key}.") from error
        return super().get_db_prep_value(key, connection, prepared)

    def deconstruct(self) -> tuple[str, str, Any, Any]:
        name, _, args, kwargs = super().deconstruct()
        return name, "django.db.models.UUIDField", args, kwargs  # the column is the same: nothing to migrate


class Keyed(models.Model):
    """A row with a UUIDv7 key."""

    id = KeyField(primary_key=True, default=new_id, editable=False)

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
