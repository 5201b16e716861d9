"""Rehearsing a survey in the worker."""

from __future__ import annotations

import math
import time
from dataclasses import asdict
from typing import Any

import numpy as np
from django_tasks import task
from numpy.typing import NDArray

from nailwright.jobs.actions import start_job
from nailwright.jobs.working import Progress, do_job
from nailwright.plan.models import Rehearsing, Survey
from nailwright.plan.rehearsal.computing import executor_for
from nailwright.programmes.models import Person
from nailwright.programmes.policies import require
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.rehearsal import (
    BLOCK,
    Design,
    MarksDesign,
    Rehearsal,
    RemovalDesign,
    TrendDesign,
    n_blocks,
    rehearse,
    rehearse_sweep,
    vary,
)
from nailwright_core.records.wording import rehearsal_sentence, sweep_sentence

KINDS: dict[str, type[Design]] = {"marks": MarksDesign, "removal": RemovalDesign, "trend": TrendDesign}
#: Longer work than this is asked about before it is begun.
LONG_S = 90.0
MOST_DESIGNS = 40
#: Replicates of a trial, and how long all trials together may take, s.
_TRIAL, _TRIALS_S = BLOCK, 3.0
_BINS, _FEWEST_BINS = 40, 8


def designs_of(kind: str, design: dict[str, Any], choice: str, values: list[float]) -> list[Design]:
    """The designs of a rehearsal or a sweep.

    Raises:
        CoreError: ``design_unknown``, ``design_unreadable``, ``too_many_designs``, and as ``vary`` and a design's check.
    """
    if kind not in KINDS:
        raise CoreError("design_unknown", f"Expected a rehearsal of {', '.join(KINDS)}; got '{kind[:20]}'.", "kind")
    fields = KINDS[kind].__dataclass_fields__
    wrong = next((name for name in design if name not in fields), None)
    figures = [value for value in design.values() if isinstance(value, int | float) and not isinstance(value, bool)]
    if wrong or len(figures) < len(design) or not np.isfinite(figures).all():
        raise CoreError("design_unreadable", f"Expected numbers for {', '.join(fields)}.", wrong or "design")
    whole: dict[str, Any] = {
        name: round(value) if fields[name].type == "int" else float(value) for name, value in design.items()
    }
    try:
        base = KINDS[kind](**whole)
    except TypeError as error:
        raise CoreError("design_unreadable", f"Expected numbers for {', '.join(fields)}.", "design") from error
    if len(values) > MOST_DESIGNS:
        raise CoreError("too_many_designs", f"Expected at most {MOST_DESIGNS} values; got {len(values)}.", "values")
    found = vary(base, choice, values) if choice else [base]
    for each in found:
        each.check()
    return found


def estimated_seconds(designs: list[Design], replicates: int) -> list[float]:
    """How long each design would take one process, from small trials; where these take long, by its fish."""
    each_s: list[float] = []
    began = time.perf_counter()
    for design in designs:
        if time.perf_counter() - began < _TRIALS_S:
            trial = time.perf_counter()
            rehearse(design, _TRIAL)
            each_s.append((time.perf_counter() - trial) / _TRIAL * replicates)
        else:
            each_s.append(each_s[-1] * _load(design) / _load(designs[len(each_s) - 1]))
    return each_s


def _load(design: Design) -> float:
    """What its cost goes with."""
    return float(getattr(design, "population", 0) + getattr(design, "catch", 0) + 1)


def start_rehearsal(
    person: Person,
    survey: Survey,
    kind: str,
    design: dict[str, Any],
    choice: str,
    values: list[float],
    replicates: int,
    seed: int,
    confirmed: bool,
) -> Rehearsing:
    """Put a rehearsal before the worker, which first tries how long it would take.

    Raises:
        CoreError: as ``designs_of``.
    """
    require(person, survey.programme, "plan")
    designs_of(kind, design, choice, values)
    row = Rehearsing.objects.create(
        survey=survey,
        person=person,
        kind=kind,
        design=design,
        choice=choice,
        values=values,
        replicates=replicates,
        seed=seed,
        confirmed=confirmed,
    )
    row.job = start_job(person, survey.programme, "plan", f"Rehearsing {survey.name}"[:120], run_rehearsal, str(row.pk))
    row.save(update_fields=["job"])
    return row


def _span(seconds: float) -> str:
    if seconds < 120:
        return f"{seconds:.0f} seconds"
    return f"{seconds / 60:.0f} minutes" if seconds < 7200 else f"{seconds / 3600:.1f} hours"


@task()
def run_rehearsal(job_id: str, rehearsal_id: str) -> None:
    """Simulate, and keep what came of it."""
    row = Rehearsing.objects.get(pk=rehearsal_id)
    do_job(job_id, lambda progress: rehearse_row(row, progress))


def rehearse_row(row: Rehearsing, progress: Progress) -> None:
    """Simulate what a row asks, and keep the answer in it.

    Raises:
        CoreError: ``takes_long`` where it would and nobody has confirmed it; as ``designs_of``.
    """
    designs = designs_of(row.kind, row.design, row.choice, row.values)
    blocks = n_blocks(len(designs), row.replicates)
    found: list[Rehearsal] = []
    row.estimate = [round(each, 2) for each in estimated_seconds(designs, row.replicates)]
    row.save(update_fields=["estimate"])
    took = sum(row.estimate)
    if took > LONG_S and not row.confirmed:
        raise CoreError(
            "takes_long",
            f"This would take about {_span(took)} on one process. Take fewer replicates or values, or say that it shall run.",
            "replicates",
        )
    with executor_for(took) as executor:
        for done, complete in rehearse_sweep(designs, row.replicates, row.seed, executor=executor):
            progress.tell(done, blocks)
            if complete:
                found.append(complete)
    found.sort(key=lambda each: designs.index(each.design))
    sentence = sweep_sentence(found, row.choice) if row.choice else rehearsal_sentence(found[0])
    row.result = {"sentence": sentence, "designs": [_shown(each) for each in found]}
    row.save(update_fields=["result"])


def _shown(rehearsal: Rehearsal) -> dict[str, Any]:
    """A rehearsal with its answers counted into bins."""
    known = rehearsal.answers[np.isfinite(rehearsal.answers)]
    counts, edges = _binned(known)
    return {
        "design": asdict(rehearsal.design),
        "truth": rehearsal.truth,
        "bias": _finite(rehearsal.bias),
        "median": _finite(rehearsal.median),
        "low": _finite(rehearsal.spread[0]),
        "high": _finite(rehearsal.spread[1]),
        "coverage": rehearsal.coverage,
        "coverage_low": rehearsal.coverage_interval[0],
        "coverage_high": rehearsal.coverage_interval[1],
        "useless": rehearsal.useless,
        "within": rehearsal.within,
        "cost": rehearsal.cost,
        "counts": counts.tolist(),
        "edges": [float(edge) for edge in edges],
    }


def _binned(answers: NDArray[np.float64]) -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """Answers in bins of a round width, without the half per cent at either end.

    Wide enough that each holds several of the values that can be had at all: few recaptures give few different answers.
    """
    if not answers.size:
        return np.zeros(1, dtype=np.int64), np.array([0.0, 1.0])
    low, high = np.quantile(answers, [0.005, 0.995])
    shown = answers[(answers >= low) & (answers <= high)]
    n = min(_BINS, max(_FEWEST_BINS, np.unique(shown.round(9)).size // 3))
    width = _round_up(max(float(high - low), abs(float(high)) * 1e-6, 1e-9) / n)
    first, last = math.floor(low / width), math.floor(high / width) + 1
    edges = np.array([float(f"{place * width:.10g}") for place in range(first, last + 1)])
    return np.histogram(shown, bins=edges)[0], edges


def _round_up(width: float) -> float:
    """The next of 1, 2, 5 times a power of ten."""
    power = 10.0 ** math.floor(math.log10(width))
    return next(step * power for step in (1, 2, 5, 10) if step * power >= width * (1 - 1e-9))


def _finite(value: float) -> float | None:
    return float(value) if np.isfinite(value) else None
