"""Numbers of tags as they are stored."""

from __future__ import annotations

import re

from nailwright.tags.models import TagKind
from nailwright_core.common.errors import CoreError
from nailwright_core.tags.pit import parse_pit


def read_number_of(kind: str, text: str) -> str:
    """The number as it is stored: 15 digits for PIT, capitals and digits for every other kind.

    Raises:
        CoreError: as ``parse_pit``; ``tag_number_unreadable``, ``tag_kind_unknown``.
    """
    if kind not in TagKind.values:
        raise CoreError(
            "tag_kind_unknown", f"Expected a kind of {', '.join(TagKind.values)}; got '{kind[:20]}'.", "kind"
        )
    if kind == TagKind.PIT:
        return parse_pit(text).decimal15
    number = text.strip().lstrip("#").upper()
    if not re.fullmatch(r"[A-Z0-9][A-Z0-9-]{1,15}", number):
        raise CoreError(
            "tag_number_unreadable",
            f"Expected a number of 2 to 16 letters and digits on a tag of kind {TagKind(kind).label}; got '{text[:40]}'.",
            "number",
        )
    return number
