"""Uploads are bounded."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.files.uploadhandler import FileUploadHandler, StopUpload
from rest_framework.request import Request

from nailwright_core.common.errors import CoreError


class BoundedUpload(FileUploadHandler):
    """Lets a file through up to ``MAX_UPLOAD_BYTES``; then marks the request and drops the rest."""

    taken = 0

    def receive_data_chunk(self, raw_data: bytes, start: int) -> bytes:
        self.taken += len(raw_data)
        if self.taken > settings.MAX_UPLOAD_BYTES:
            assert self.request is not None
            self.request.META["nailwright.upload_too_large"] = True
            raise StopUpload(connection_reset=False)
        return raw_data

    def file_complete(self, file_size: int) -> Any:
        return None


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
