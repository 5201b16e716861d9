"""Under which licence a programme's data go out, and how they are to be cited."""

from __future__ import annotations

from typing import Any

from nailwright.programmes.models import Programme

#: Where the licences that are offered can be read; any other is written as the programme wrote it.
LICENCES = {
    "CC0-1.0": "https://creativecommons.org/publicdomain/zero/1.0/",
    "CC-BY-4.0": "https://creativecommons.org/licenses/by/4.0/",
    "CC-BY-NC-4.0": "https://creativecommons.org/licenses/by-nc/4.0/",
    "ODbL-1.0": "https://opendatacommons.org/licenses/odbl/1-0/",
}


def in_each_line(programme: Programme) -> dict[str, str]:
    """Columns that stand in each line of a file, so that they are still there when lines of several are put together."""
    return {name: text for name, text in (("licence", programme.licence), ("citation", programme.citation)) if text}


def licence_of(programme: Programme) -> dict[str, Any]:
    """What a Data Package says of licence and citation; nothing where the programme has said nothing."""
    told: dict[str, Any] = {}
    if programme.licence:
        path = LICENCES.get(programme.licence)
        told["licenses"] = [{"name": programme.licence, **({"path": path} if path else {})}]
    if programme.citation:
        told["citation"] = programme.citation
    return told
