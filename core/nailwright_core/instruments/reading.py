"""One thing that an instrument said."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Reading:
    """What was read.

    Attributes:
        kind: "pit" (``text`` is the number), "length" (mm), "mass" (g), "position" (degrees), "water" (codes of the deck's
            readings with their values).
        values: figures by name; ``stable`` false where the instrument says that they still move.
    """

    kind: str
    text: str = ""
    values: Mapping[str, float] = field(default_factory=dict)
    stable: bool = True
