"""Words that open a door once: long enough not to be guessed, kept only as digests."""

from __future__ import annotations

import hashlib
import secrets

#: Without those that are mistaken for each other when they are read aloud or copied by hand.
_LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"


def long_key() -> str:
    """256 bits, for a link or a program."""
    return secrets.token_urlsafe(32)


def spoken_code(groups: int = 3) -> str:
    """Groups of four letters and figures, 20 bits each, to be typed by hand."""
    return "-".join("".join(secrets.choice(_LETTERS) for _ in range(4)) for _ in range(groups))


def digest(word: str) -> str:
    """What is kept of a word."""
    return hashlib.sha256(word.encode()).hexdigest()


def digest_of_code(typed: str) -> str:
    """As ``digest``, of a code however it was typed: in small letters, without its strokes."""
    return digest("".join(each for each in typed.upper() if each in _LETTERS))


def same_code(typed: str, kept: str) -> bool:
    """Whether a typed code is the one of which the digest was kept."""
    return secrets.compare_digest(digest_of_code(typed), kept)
