"""Where a tag may go from where it is: one table; anything else is refused."""

from __future__ import annotations

from collections.abc import Mapping

from nailwright.tags.models import Tag, TagState
from nailwright_core.common.errors import CoreError

_S = TagState
#: For each state those that may follow, each with the reason for which it does.
ALLOWED: Mapping[str, Mapping[str, str]] = {
    _S.STOCK: {
        _S.ISSUED: "handed out",
        _S.PLACED: "put into a fish",
        _S.SPOILED: "damaged before use",
        _S.LOST: "missing",
        _S.DESTROYED: "done away with",
    },
    _S.ISSUED: {
        _S.STOCK: "handed back",
        _S.PLACED: "put into a fish",
        _S.SPOILED: "damaged before use",
        _S.LOST: "missing",
    },
    _S.PLACED: {
        _S.STOCK: "the placement was taken back",
        _S.ISSUED: "the placement was taken back",
        _S.SHED: "the fish was met without it",
        _S.REMOVED: "taken out of the fish",
        _S.ELSEWHERE: "the placement was taken back, yet the number was read on a fish",
    },
    _S.ELSEWHERE: {_S.PLACED: "the fish that carries it is known"},
    _S.REMOVED: {_S.STOCK: "cleaned, to be used again", _S.DESTROYED: "done away with"},
    _S.SHED: {_S.PLACED: "met again with it"},
    _S.LOST: {_S.STOCK: "found again", _S.PLACED: "found in a fish"},
    _S.SPOILED: {_S.DESTROYED: "done away with", _S.STOCK: "usable after all"},
    _S.DESTROYED: {},
}


def change_state(tag: Tag, to: str) -> None:
    """Move a tag that the caller has locked to another state.

    Raises:
        CoreError: ``tag_state`` where the table does not allow it.
    """
    if tag.state == to:
        return
    check_change(tag, to)
    tag.state = to
    tag.save(update_fields=["state"])


def check_change(tag: Tag, to: str) -> None:
    """Raises CoreError ``tag_state`` where the table does not allow a tag to go there from where it is."""
    if to not in ALLOWED[tag.state]:
        then = ", ".join(TagState(each).label.lower() for each in ALLOWED[tag.state]) or "nothing"
        raise CoreError(
            "tag_state",
            f"{tag.get_kind_display()} {tag.number} is marked '{tag.get_state_display().lower()}'; from there it may become: "
            f"{then}.",
            "number",
        )
