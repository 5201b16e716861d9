"""Zip files from elsewhere, opened so that a small one cannot unpack into an enormous one."""

from __future__ import annotations

import io
import zipfile
import zlib

from nailwright_core.common.errors import CoreError

MAX_UNPACKED = 400 * 1024 * 1024
MAX_PIECE_RATIO = 250
MAX_PIECES = 2000
#: What unpacking a broken, locked or oddly packed piece raises.
BROKEN = (zipfile.BadZipFile, zlib.error, EOFError, ValueError, OSError, RuntimeError, NotImplementedError)


def open_zip(content: bytes) -> zipfile.ZipFile:
    """The zip, where its pieces unpack to a bearable size; sizes in a zip's own list bound what is ever unpacked.

    Raises:
        CoreError: ``zip_unreadable``, ``zip_too_large``; field ``file``.
    """
    try:
        package = zipfile.ZipFile(io.BytesIO(content))
        pieces = package.infolist()
    except (zipfile.BadZipFile, ValueError, OSError) as error:
        raise CoreError(
            "zip_unreadable", "The file is damaged: it cannot be unpacked. Save it again.", "file"
        ) from error
    unpacked = sum(piece.file_size for piece in pieces)
    worst = max((piece.file_size / max(piece.compress_size, 1) for piece in pieces), default=0)
    if unpacked > MAX_UNPACKED or len(pieces) > MAX_PIECES or (worst > MAX_PIECE_RATIO and unpacked > 50_000_000):
        raise CoreError(
            "zip_too_large",
            f"The file would unpack to {unpacked / 1e6:,.0f} MB in {len(pieces):,} pieces; at most "
            f"{MAX_UNPACKED / 1e6:,.0f} MB are taken. It was not opened. Save the fish alone in a file of their own.",
            "file",
        )
    return package


def piece_of(package: zipfile.ZipFile, name: str) -> bytes:
    """One piece of a zip.

    Raises:
        CoreError: ``zip_unreadable`` for a piece that is missing, broken or locked with a password.
    """
    try:
        return package.read(name)
    except (*BROKEN, KeyError) as error:
        raise CoreError(
            "zip_unreadable", f"'{name[:80]}' in the file is missing, damaged or locked. Save it again.", "file"
        ) from error


def names_in(content: bytes) -> set[str]:
    """Names of the pieces; none where it is no zip."""
    if not content.startswith(b"PK\x03\x04"):
        return set()
    try:
        return set(zipfile.ZipFile(io.BytesIO(content)).namelist())
    except (zipfile.BadZipFile, ValueError, OSError):
        return set()
