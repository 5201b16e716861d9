"""What lengths were read to on a board, also where a part of them was read coarser than the rest."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption

#: Steps that boards have, mm: inch, half and quarter inch, cm, half cm, mm; and the share of readings that must lie on one.
BOARD_STEPS_MM = (25.4, 12.7, 10.0, 6.35, 5.0, 1.0)
ON_STEP = 0.98
#: Steps to which a hurried reader rounds on a millimetre board, mm.
_ROUNDED_TO = (10.0, 5.0)
#: So many readings more on a round figure than chance puts there are a habit: as a share of all, and in standard errors (ours, no source).
_EXCESS, _EXCESS_SE = 0.1, 4.0
#: Of classes so many times finer, those that an edge cuts hold hardly any fish (ours, no source).
_MUCH_FINER = 10.0
#: Of fewer lengths nothing is said of the board (ours, no source).
_TELLS = 8


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


@dataclass(frozen=True)
class OneGrid:
    """Lengths of groups as if all had been read to one step.

    Attributes:
        lengths: by group, mm. step_mm: of all of them; 0 where no group was read coarser than another.
        assumption: whether they were read alike.
    """

    lengths: dict[str, Floats]
    step_mm: float
    assumption: Assumption


def on_one_grid(groups: Mapping[str, ArrayLike]) -> OneGrid:
    """Bring lengths of groups to the coarsest step that one of them was read to: compared as they stand, a group on a centimetre board differs
    from one on a millimetre board by its board alone (78 false alarms in 100 with Kolmogorov and Smirnov's distance).

    Args:
        groups: lengths by name, mm, read to the nearest.

    Raises:
        CoreError: ``steps_do_not_nest`` where classes of one board lie across those of another.
    """
    lengths = {name: np.asarray(values, dtype=np.float64).ravel() for name, values in groups.items()}
    # a handful of fish lie on round figures by chance
    steps = {
        name: heaped_step_mm(values, board_step_mm(values)) if values.size >= _TELLS else 1.0
        for name, values in lengths.items()
    }
    coarsest = max(steps, key=lambda name: steps[name], default="")
    step = steps.get(coarsest, 0.0)
    name = "All groups are read to one step"
    finest = min(steps.values(), default=0.0)
    if step <= 1 or finest == step:
        told = f"Each to {step:g} mm." if step else "They lie on no step of a board."
        return OneGrid(lengths, 0.0, Assumption(name, "not refuted", told))
    across = [each for each, own in steps.items() if own and not _nests(own, step)]
    if across:
        raise CoreError(
            "steps_do_not_nest",
            f"Lengths of {coarsest} were read to {step:g} mm and those of {across[0]} to {steps[across[0]]:g} mm: classes of the one lie across "
            "those of the other, and what differs may be the boards. Compare groups of one board.",
            "by",
        )
    # a reading on an edge goes to the even class, as often up as down
    taken = {each: np.maximum(np.round(values / step) * step, step / 2) for each, values in lengths.items()}
    fine = ", ".join(each for each, own in steps.items() if own < step)
    return OneGrid(
        taken,
        step,
        Assumption(name, "doubtful", f"{coarsest} to {step:g} mm, finer in {fine}: all are compared to {step:g} mm."),
    )


def _nests(fine: float, coarse: float) -> bool:
    """Whether classes of one board make up those of the other, or are so much smaller that an edge hardly cuts any."""
    ratio = coarse / fine
    return abs(ratio - round(ratio)) < 1e-6 or ratio >= _MUCH_FINER
