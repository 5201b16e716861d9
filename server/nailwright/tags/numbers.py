"""Numbers of tags as they are stored."""

from __future__ import annotations

from nailwright.tags.models import TagKind
from nailwright_core.common.errors import CoreError
from nailwright_core.tags.numbers import NumbersRead, read_numbers, visible_number
from nailwright_core.tags.pit import parse_pit


def read_number_of(kind: str, text: str) -> str:
    """The number as it is stored: 15 digits for PIT, capitals and digits for every other kind.

    Raises:
        CoreError: as ``parse_pit`` and ``visible_number``; ``tag_kind_unknown``.
    """
    if kind not in TagKind.values:
        raise CoreError(
            "tag_kind_unknown", f"Expected a kind of {', '.join(TagKind.values)}; got '{kind[:20]}'.", "kind"
        )
    return parse_pit(text).decimal15 if kind == TagKind.PIT else visible_number(text)


def read_numbers_of(kind: str, text: str) -> NumbersRead:
    """Numbers of one kind from a list or from first and last of a row.

    Raises:
        CoreError: as core's ``read_numbers``; ``tag_kind_unknown``.
    """
    return read_numbers(text, lambda part: read_number_of(kind, part))
