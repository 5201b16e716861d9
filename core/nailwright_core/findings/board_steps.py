"""What lengths were read to on a board, also where a part of them was read coarser than the rest."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.arrays import Floats

#: Steps that boards have, mm: inch, half and quarter inch, cm, half cm, mm; and the share of readings that must lie on one.
BOARD_STEPS_MM = (25.4, 12.7, 10.0, 6.35, 5.0, 1.0)
ON_STEP = 0.98
#: Steps to which a hurried reader rounds on a millimetre board, mm.
_ROUNDED_TO = (10.0, 5.0)
#: So many readings more on a round figure than chance puts there are a habit: as a share of all, and in standard errors (ours, no source).
_EXCESS, _EXCESS_SE = 0.1, 4.0


def board_step_mm(length_mm: ArrayLike) -> float:
    """What a board was read to, mm: the widest usual step on which nearly all lengths lie; 0 where they lie on none.

    Args:
        length_mm: lengths, shape (n,), mm.
    """
    lengths = np.asarray(length_mm, dtype=np.float64).ravel()
    for step in BOARD_STEPS_MM:
        if np.mean(_on(lengths, step)) >= ON_STEP:
            return step
    return 0.0


def heaped_step_mm(length_mm: ArrayLike, step_mm: float) -> float:
    """The coarser step to which a part of the lengths was read, mm; the step itself where none was.

    Args:
        length_mm: lengths, shape (n,), mm. step_mm: what the board was read to.
    """
    lengths = np.asarray(length_mm, dtype=np.float64).ravel()
    finer: NDArray[np.bool_] = np.zeros(lengths.size, dtype=bool)
    found = step_mm
    for coarse in _ROUNDED_TO:
        if step_mm <= 0 or coarse <= step_mm or abs(coarse / step_mm - round(coarse / step_mm)) > 1e-9:
            continue
        # whoever rounds to 5 is on the tens as well: what counts is what a step adds to those before it
        on = _on(lengths, coarse) & ~finer
        chance = step_mm / coarse - float(bool(finer.any())) * step_mm / (2 * coarse)
        excess = float(np.mean(on)) - chance
        if excess > max(
            _EXCESS / (2 if finer.any() else 1), _EXCESS_SE * math.sqrt(chance * (1 - chance) / lengths.size)
        ):
            found = coarse
        finer = _on(lengths, coarse)
    return found


def _on(lengths: Floats, step: float) -> NDArray[np.bool_]:
    places = lengths / step
    # an inch is kept to a tenth of a millimetre
    return np.asarray(np.abs(places - np.round(places)) * step < 0.06)
