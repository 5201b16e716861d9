"""Where to sample, how many sites, and what a pilot says."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.checks import finite
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.findings.catches.catch_per_effort import cpue

LAYOUTS = ("systematic", "random", "stratified", "regular")
MAX_SITES = 2000


@dataclass(frozen=True)
class PlannedSite:
    """A site along a reach, metres from the reach's start; ``stratum`` is the zone's place in the list given, or 0.

    ``cut`` is set where it hung over an end of the reach and is shorter for that.
    """

    start_m: float
    end_m: float
    stratum: int = 0
    cut: bool = False


def lay_out_sites(
    reach_length_m: float,
    site_length_m: float,
    spacing_m: float,
    seed: int = 0,
    layout: str = "systematic",
    n: int | None = None,
    zones: tuple[tuple[float, float], ...] = (),
    closed: tuple[tuple[float, float], ...] = (),
) -> tuple[PlannedSite, ...]:
    """Sites of one length along a reach, in order.

    Args:
        reach_length_m: length of the reach.
        site_length_m: length of each site.
        spacing_m: gap between the end of one site and the start of the next; for random layouts the least gap.
        seed: same seed, same sites.
        layout: "regular" from the reach's start; "systematic" from a random start; "random"; "stratified", as many
            random sites in each zone as its share of the length asks for, at least one, ``n`` in all.
        n: how many for the random layouts; without it as many as the systematic layout gives.
        zones: (start_m, end_m) of each, for "stratified".
        closed: (start_m, end_m) that no site may touch: a dam with its stand-off, a refuge.

    Raises:
        CoreError: ``reach_too_short``, ``spacing_out_of_range``, ``too_many_sites``, ``layout_unknown``, ``no_room``.
    """
    if not site_length_m > 0 or not math.isfinite(reach_length_m) or reach_length_m < site_length_m:
        raise CoreError(
            "reach_too_short",
            f"A site of {site_length_m:g} m does not fit into a reach of {reach_length_m:g} m.",
            "site_length_m",
        )
    if not 0 <= spacing_m <= reach_length_m:
        raise CoreError(
            "spacing_out_of_range", f"Expected a gap from 0 to {reach_length_m:g} m; got {spacing_m:g} m.", "spacing_m"
        )
    if layout not in LAYOUTS:
        raise CoreError("layout_unknown", f"Expected a layout of {', '.join(LAYOUTS)}; got '{layout}'.", "layout")
    step = site_length_m + spacing_m
    count = int((reach_length_m - site_length_m) // step) + 1
    if count > MAX_SITES or (n is not None and not 1 <= n <= MAX_SITES):
        raise CoreError(
            "too_many_sites", f"Expected 1 to {MAX_SITES:,} sites; this would lay out {n or count:,}.", "site_length_m"
        )
    rng = np.random.default_rng(seed)
    if layout in ("regular", "systematic"):
        if layout == "regular":
            sites = [PlannedSite(place * step, place * step + site_length_m) for place in range(count)]
        else:
            sites = _systematic(rng, reach_length_m, site_length_m, step)
        kept = tuple(site for site in sites if not _touches(site.start_m, site.end_m, closed))
        if not kept:
            raise CoreError("no_room", "No site keeps clear of the stretches that are closed.", "closed")
        return kept
    if layout == "random":
        return _scattered(rng, ((0.0, reach_length_m),), (n or count,), site_length_m, spacing_m, closed)
    if not zones:
        raise CoreError("no_zones", "A stratified layout needs zones; draw them along the reach first.", "zones")
    counts = _apportioned(n or count, [max(end - start, 0.0) for start, end in zones])
    return _scattered(rng, zones, counts, site_length_m, spacing_m, closed)


def _systematic(rng: np.random.Generator, reach_m: float, site_m: float, step: float) -> list[PlannedSite]:
    """Sites every ``step`` from a start drawn so that each metre of the reach is as likely to be in a site as any other.

    The first may begin before the reach and the last end behind it; they are cut there. Where the gap is longer than the
    reach a draw may hold no site, and is drawn again.
    """
    while True:
        first = float(rng.uniform(-site_m, step - site_m))
        starts = np.arange(first, reach_m, step)
        sites = [
            PlannedSite(max(at, 0.0), min(at + site_m, reach_m), cut=at < 0 or at + site_m > reach_m)
            for at in map(float, starts)
            if at + site_m > 0
        ]
        if sites:
            return sites


def _apportioned(n: int, lengths: Sequence[float]) -> tuple[int, ...]:
    """``n`` sites over zones by their lengths, at least one each: whole shares first, then the largest remainders.

    Raises:
        CoreError: ``no_room`` where there are more zones than sites.
    """
    if n < len(lengths):
        raise CoreError("no_room", f"{len(lengths)} zones need at least as many sites; got {n}.", "n")
    wanted = n * np.array(lengths) / (sum(lengths) or 1.0)
    counts = np.maximum(np.floor(wanted), 1).astype(int)
    while counts.sum() < n:
        counts[np.argmax(wanted - counts)] += 1
    while counts.sum() > n:  # a short zone got its one from where more than one are left
        counts[np.argmax(np.where(counts > 1, counts - wanted, -np.inf))] -= 1
    return tuple(int(count) for count in counts)


def _scattered(
    rng: np.random.Generator,
    zones: tuple[tuple[float, float], ...],
    counts: tuple[int, ...],
    site_m: float,
    gap_m: float,
    closed: tuple[tuple[float, float], ...],
) -> tuple[PlannedSite, ...]:
    """Random places with the least gap: every arrangement that fits is as likely as any other.

    Sorted uniform draws on the length that sites and gaps leave free; an arrangement that touches a closed stretch or
    the zone before is drawn again.
    """
    placed: list[PlannedSite] = []
    for stratum, ((start, end), count) in enumerate(zip(zones, counts, strict=True)):
        free = end - start - count * site_m - (count - 1) * gap_m
        before = placed[-1].end_m + gap_m if placed else -math.inf
        for _ in range(5000 if free >= -1e-6 else 0):
            firsts = start + np.sort(rng.uniform(0, max(free, 0.0), count)) + np.arange(count) * (site_m + gap_m)
            if firsts[0] >= before and not any(_touches(at, at + site_m, closed) for at in firsts):
                placed += [PlannedSite(float(at), float(at) + site_m, stratum) for at in firsts]
                break
        else:
            raise CoreError(
                "no_room",
                f"{count} sites of {site_m:g} m with gaps of {gap_m:g} m do not fit between km {start / 1000:g} and "
                f"{end / 1000:g} clear of what is closed. Take fewer, shorter or closer sites.",
                "n",
            )
    return tuple(placed)


def _touches(start: float, end: float, closed: tuple[tuple[float, float], ...]) -> bool:
    return any(start < until and begin < end for begin, until in closed)


def sites_for_cv(mean: float, variance: float, cv: float, frame_size: int | None = None) -> int:
    """Sites needed so that the mean over sites has the wanted coefficient of variation.

    Args:
        mean, variance: of catch per site (or per hour) over the sites of a pilot.
        cv: wanted SE / mean, 0.001 to 1.
        frame_size: sites that there are in all, for the finite correction.

    Raises:
        CoreError: ``pilot_out_of_range``, ``cv_out_of_range``.
    """
    if not mean > 1e-6 or not math.isfinite(mean) or not variance >= 0 or not math.isfinite(variance):
        raise CoreError(
            "pilot_out_of_range",
            f"Expected a pilot mean above 0.000001 and a variance of 0 or more; got {mean:g}, {variance:g}.",
            "mean",
        )
    if not 0.001 <= cv <= 1:
        raise CoreError("cv_out_of_range", f"Expected a CV from 0.001 to 1 (100 %); got {cv:g}.", "cv")
    if frame_size is not None:
        finite(frame_size, "frame_size", 1)
    n = variance / (cv * mean) ** 2
    if frame_size is not None:
        n = n / (1 + n / frame_size)
    return max(2, math.ceil(n - 1e-9))


def rod_hours(rods: int, bouts: int, bout_min: float) -> float:
    """Effort of anglers in one zone: rods times hours fished.

    Args:
        rods: rods in the water.
        bouts: angling sessions.
        bout_min: length of one, min.
    """
    return rods * bouts * bout_min / 60


def negative_binomial_k(counts: ArrayLike) -> float:
    """Aggregation k of counts by moments, m^2 / (s^2 - m); inf where they vary no more than Poisson.

    Args:
        counts: fish at each site, shape (n,).
    """
    data = np.asarray(counts, dtype=float)
    mean, variance = float(data.mean()), float(data.var(ddof=1)) if data.size > 1 else 0.0
    return mean * mean / (variance - mean) if variance > mean > 0 else math.inf


@dataclass(frozen=True)
class Pilot:
    """What past catches say before a survey: catch per effort, mean and variance of catch per site, its aggregation."""

    cpue: Estimate
    mean: float
    variance: float
    k: float


def pilot(counts: ArrayLike, effort: ArrayLike) -> Pilot:
    """Summary of a pilot of two sites or more; as ``cpue`` for counts and effort.

    Args:
        counts: fish at each site of the pilot, shape (n,).
        effort: effort at each site of the pilot, shape (n,).

    Raises:
        CoreError: ``no_data`` with fewer than two sites, and as ``cpue``.
    """
    data = np.asarray(counts, dtype=float)
    if data.size < 2:
        raise CoreError("no_data", f"A pilot needs at least two sites; got {data.size}.", "counts")
    return Pilot(cpue(data, effort), float(data.mean()), float(data.var(ddof=1)), negative_binomial_k(data))
