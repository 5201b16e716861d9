"""The decoders as tables, from which a tablet reads a device on its own cable: written into the screens by bin/schema.

python -m nailwright_core.instruments.tables
"""

from __future__ import annotations

import json
import sys
from typing import Any

from nailwright_core.instruments.lines import LONGEST
from nailwright_core.instruments.readers import DECODERS


def tables() -> dict[str, Any]:
    """The longest line, and for each instrument its name, title, seconds of silence (or None) and how its lines are read."""
    decoders = [decoder() for decoder in DECODERS.values()]
    return {
        "longest": LONGEST,
        "instruments": [
            {"name": each.name, "title": each.title, "silent_after_s": each.silent_after_s, **each.table()}
            for each in decoders
        ],
    }


if __name__ == "__main__":
    json.dump(tables(), sys.stdout)
