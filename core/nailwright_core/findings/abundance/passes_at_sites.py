"""How many fish at each site that was fished in passes, and how dense they are over the sites."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from nailwright_core.common.checks import check_level
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.findings.abundance.depletion import DepletionEstimate, delury, leslie
from nailwright_core.findings.abundance.removal import removal
from nailwright_core.findings.abundance.removal_falling import FALLS, removal_falling
from nailwright_core.findings.abundance.removal_sites import SiteRemoval, removal_sites


@dataclass(frozen=True)
class SitePasses:
    """Catches of one site, pass by pass; ``size`` in units of 100 m, nan where its distance is not known; ``efforts`` of each pass in any one
    unit, none where one is not known."""

    name: str
    catches: tuple[int, ...]
    size: float
    efforts: tuple[float, ...] = ()


@dataclass(frozen=True)
class SiteTold:
    """Fish of one site.

    Attributes:
        n: averaged over falls of the chance of capture; None from two passes, or where nothing was caught.
        alike: as if that chance stayed the same; None where the catches do not fall.
        ends: least and most of the estimates at each fall, where there are two passes; inf where a fall explains any number.
        by_effort: from the fall of catch per effort, by Leslie and by DeLury; None where it does not fall, an effort is not known or there
            are two passes.
    """

    site: SitePasses
    n: Estimate | None
    alike: Estimate | None
    ends: tuple[float, float] | None
    by_effort: tuple[Estimate | None, Estimate | None] = (None, None)


@dataclass(frozen=True)
class FromPasses:
    """Attributes:
    sites: each site by itself.
    density: fish per 100 m (per site where no distance is known) over all sites of ``passes`` passes; None with ``no_density`` why.
    per_site: whether it is per site.
    assumptions: what it takes for granted.
    """

    sites: tuple[SiteTold, ...]
    density: SiteRemoval | None
    no_density: str
    passes: int
    per_site: bool
    assumptions: tuple[Assumption, ...]


def from_passes(sites: Sequence[SitePasses], falls: Mapping[float, float] = FALLS, level: float = 0.95) -> FromPasses:
    """Fish at each site, and over all sites of the same number of passes.

    Args:
        sites: each fished in two passes or more. falls: as ``removal_falling``.

    Raises:
        CoreError: ``passes_too_few`` without any such site, ``no_fish`` where nothing was caught at all, and as ``removal_falling``.
    """
    check_level(level)
    if not sites or any(len(each.catches) < 2 for each in sites):
        raise CoreError("passes_too_few", "Expected sites that were fished in two passes or more.", "sites")
    if not any(sum(each.catches) for each in sites):
        raise CoreError("no_fish", "No fish were caught in any pass; there is nothing to estimate from.", "sites")
    told = tuple(_told(each, falls, level) for each in sites)
    passes = Counter(len(each.catches) for each in sites).most_common(1)[0][0]
    chosen = [each for each in sites if len(each.catches) == passes]
    per_site = not all(math.isfinite(each.size) and each.size > 0 for each in chosen)
    try:
        size = [1.0 if per_site else each.size for each in chosen]
        density, why = removal_sites(np.array([each.catches for each in chosen]), size, level), ""
    except CoreError as error:
        density, why = None, error.message
    return FromPasses(told, density, why, passes, per_site, density.assumptions if density else _ASSUMPTIONS)


_ASSUMPTIONS = (
    Assumption(
        "The chance of capture falls by none to a third from pass to pass",
        "not checked",
        "Averaged over, weighted as the protocol says.",
    ),
    Assumption("Stretches are closed while they are fished", "not checked", "Nets or riffles at both ends."),
)


def _told(site: SitePasses, falls: Mapping[float, float], level: float) -> SiteTold:
    if not sum(site.catches):
        return SiteTold(site, None, None, None)
    falling = removal_falling(site.catches, falls, level)
    try:
        alike = removal(site.catches, level=level).n
    except CoreError:
        alike = None
    ends = None
    if falling.n is None:
        values = [each.value for each in falling.by_fall.values()]
        ends = (min(values), max(values))
    return SiteTold(site, falling.n, alike, ends, (_by_effort(leslie, site, level), _by_effort(delury, site, level)))


def _by_effort(estimator: Callable[..., DepletionEstimate], site: SitePasses, level: float) -> Estimate | None:
    if len(site.efforts) != len(site.catches):
        return None
    try:
        return estimator(site.catches, site.efforts, level=level).n
    except CoreError:  # no fall, two passes, or a pass without fish where a logarithm is wanted
        return None


def passes_sentence(found: FromPasses, species: str) -> str:
    """What was found, how sure, from how many sites."""
    caught = sum(sum(each.site.catches) for each in found.sites)
    many = f"{len(found.sites)} {'site' if len(found.sites) == 1 else 'sites'} ({caught:,} {species} caught)"
    if found.density:
        density, per = found.density.density, "site" if found.per_site else "100 m"
        return (
            f"{density.value:.1f} {species} per {per} ({density.lower:.1f} to {_end(density.upper)}), over {density.n} sites of {found.passes} passes; "
            f"a pass caught {100 * found.density.p:.0f} % of the fish that were there. {caught:,} were caught at {many.split(' (')[0]}."
        )
    if len(found.sites) == 1 and (n := found.sites[0].n or found.sites[0].alike):
        return f"About {n.value:.0f} {species} ({n.lower:.0f} to {'no upper limit' if math.isinf(n.upper) else round(n.upper)}) at {found.sites[0].site.name}, of which {caught:,} were caught."
    return f"Fish of {many} are told site by site. Over sites: {found.no_density}"


def _end(upper: float) -> str:
    return "no upper limit" if math.isinf(upper) else f"{upper:.0f}" if upper >= 100 else f"{upper:.1f}"
