"""Words that mean something else on the call line: no species may be called by them."""

from __future__ import annotations

from nailwright_core.common.quantities import LENGTH_SPELLINGS, MASS_SPELLINGS

_SEX = ("f", "female", "m", "male", "u")
_RELEASE = ("released", "r1", "r2", "r3", "r4", "alive", "weak", "dead", "kept", "escaped", "taken")
_SCAN = ("none",)
_LENGTH_TYPES = ("tl", "tln", "fl", "sl", "ljfl", "efl", "dw")

RESERVED = frozenset({*_SEX, *_RELEASE, *_SCAN, *_LENGTH_TYPES, *LENGTH_SPELLINGS, *MASS_SPELLINGS})
