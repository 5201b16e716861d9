"""The file of a form."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from rest_framework.request import Request

from nailwright_core.common.errors import CoreError


def uploaded(request: Request) -> Any:
    """The file in the form's field ``file``.

    Raises:
        CoreError: ``file_too_large``, ``file_missing``.
    """
    upload = request.FILES.get("file")  # which reads the body, and marks it where it was cut off
    if request.META.get("nailwright.upload_too_large"):
        most = settings.MAX_UPLOAD_BYTES / 1024 / 1024
        raise CoreError(
            "file_too_large", f"The file has more than {most:.0f} MB. Bring it in as several files.", "file"
        )
    if upload is None:
        raise CoreError("file_missing", "Expected a file in the form's field 'file'; got none.", "file")
    return upload
