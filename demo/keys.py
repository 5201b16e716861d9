"""Keys from the seed."""

from __future__ import annotations

import uuid
from datetime import datetime

import numpy as np


class Keys:
    """UUIDv7s from the seed: their time is the row's, so they sort as if made on the day."""

    def __init__(self, rng: np.random.Generator) -> None:
        self.rng = rng

    def at(self, moment: datetime) -> uuid.UUID:
        """A fresh key of that moment."""
        tail = int.from_bytes(self.rng.bytes(10), "big")
        number = (int(moment.timestamp() * 1000) << 80) | tail
        number = number & ~(0xF << 76) | (7 << 76)
        return uuid.UUID(int=number & ~(0x3 << 62) | (0x2 << 62))
