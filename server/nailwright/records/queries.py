"""What is known of files."""

from __future__ import annotations

from uuid import UUID

from nailwright.records.models import Import


def import_of(key: UUID | str) -> Import | None:
    """A file by its key, without its content."""
    return Import.objects.select_related("programme", "person", "job").defer("packed", "rejects").filter(pk=key).first()
