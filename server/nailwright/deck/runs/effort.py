"""The effort of a run of the record."""

from __future__ import annotations

from nailwright.deck.models import Run
from nailwright_core.deck.gears import FIGURES, Effort, effort_of


def effort_of_run(run: Run) -> Effort:
    """What was fished; its outing's water is needed, so read it with the run."""
    figures = {name: getattr(run, name) for name in ("current_on_s", *FIGURES)}
    return effort_of(run.gear, figures, run.started_at, run.ended_at, run.outing.water.time_zone)
