"""Uploads are bounded."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.files.uploadhandler import FileUploadHandler, StopUpload


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
