"""What a tablet needs to read a PIT number with no signal: written into the screens by bin/schema.

python -m nailwright_core.deck.mark_tables
"""

from __future__ import annotations

import json
import sys

from nailwright_core.tags.pit import COUNTRIES, MAX_IDENTIFIER


def tables() -> dict[str, object]:
    """Countries and manufacturers with which a number may begin, and the largest of what follows."""
    return {"countries": sorted(COUNTRIES), "most": MAX_IDENTIFIER}


if __name__ == "__main__":
    json.dump(tables(), sys.stdout)
