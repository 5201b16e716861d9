"""Pictures that come from outside: read, made smaller, and without what a camera writes into them."""

from __future__ import annotations

import base64
import binascii
import io
from dataclasses import dataclass
from typing import Any

from django.http import HttpResponse
from PIL import Image, ImageOps

from nailwright_core.common.errors import CoreError

#: Longest side of what is kept, of what stands in a list, px; what is larger than the last is not opened at all.
LONGEST, SMALL, MOST_PIXELS = 1600, 320, 60_000_000
#: A tablet sends less than half of this (it makes pictures smaller itself).
MOST_BYTES = 5 * 1024 * 1024
_FORMATS = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True)
class Picture:
    """JPEG with its size in px, and a small one."""

    jpeg: bytes
    small: bytes
    width: int
    height: int


def read_base64(value: Any, field: str) -> bytes:
    """Bytes from base64.

    Raises:
        CoreError: ``picture_unreadable``, ``picture_too_large``.
    """
    if not isinstance(value, str):
        raise CoreError("picture_unreadable", f"Expected {field} as base64; got {type(value).__name__}.", field)
    if len(value) > MOST_BYTES * 4 / 3 + 4:
        raise CoreError(
            "picture_too_large",
            f"Expected a picture of at most {MOST_BYTES // 1024 // 1024} MB. Send a smaller one.",
            field,
        )
    try:
        return base64.b64decode(value, validate=True)
    except (binascii.Error, ValueError) as error:
        raise CoreError("picture_unreadable", f"Expected {field} as base64.", field) from error


def read_picture(raw: bytes, field: str, longest: int = LONGEST) -> Picture:
    """A picture turned upright, made smaller, as JPEG with nothing else in it: no position, no time, no camera.

    Raises:
        CoreError: ``picture_unreadable`` where it is no JPEG, PNG or WebP, or is broken.
    """
    try:
        with Image.open(io.BytesIO(raw), formats=_FORMATS) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise ValueError(f"{opened.width} x {opened.height} px")
            if not _is_whole(raw, str(opened.format)):
                raise ValueError("it was cut off")
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except Exception as error:  # Pillow raises whatever its decoders do
        raise CoreError(
            "picture_unreadable", f"Expected a whole picture as JPEG, PNG or WebP ({str(error)[:60]}).", field
        ) from error
    upright.thumbnail((longest, longest))
    little = upright.copy()
    little.thumbnail((SMALL, SMALL))
    return Picture(_jpeg(upright), _jpeg(little), upright.width, upright.height)


def picture_response(jpeg: bytes | memoryview[int]) -> HttpResponse:
    """A stored picture over HTTP: it never changes under its key, so that it is asked for once."""
    response = HttpResponse(bytes(jpeg), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


def _is_whole(raw: bytes, form: str) -> bool:
    """Whether its end is there: Pillow fills up what is missing where another library in this process asked it to."""
    if form == "JPEG":
        return b"\xff\xd9" in raw[-1024:]
    if form == "PNG":
        return b"IEND" in raw[-64:]
    return len(raw) >= int.from_bytes(raw[4:8], "little")  # WebP


def _jpeg(image: Image.Image) -> bytes:
    out = io.BytesIO()
    # a new picture out of the pixels alone: nothing that came with the old one is copied
    bare = Image.frombytes("RGB", image.size, image.tobytes())
    bare.save(out, "JPEG", quality=82, optimize=True)
    return out.getvalue()
