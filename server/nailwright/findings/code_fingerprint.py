"""A fingerprint of the code that answers: what an earlier version worked out, by other methods or in another shape, is asked anew."""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

import nailwright_core
from nailwright import deck, findings


@cache
def code_fingerprint() -> str:
    """A digest of the source of core, the findings, and the deck whose rows they read."""
    told = hashlib.sha256()
    for package in (nailwright_core, deck, findings):
        folder = Path(str(package.__file__)).parent
        for file in sorted(folder.rglob("*.py")):
            told.update(str(file.relative_to(folder)).encode() + file.read_bytes())
    return told.hexdigest()
