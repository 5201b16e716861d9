"""What movements say, in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from nailwright_core.movements.staying import Staying


def distance_words(metres: float) -> str:
    """A distance as people say it: metres to 10 m below 1 km, then kilometres to 0.1."""
    return f"{round(metres, -1):,.0f} m" if metres < 995 else f"{metres / 1000:,.1f} km".replace(".0 km", " km")


def movement_sentence(
    found: Staying, species: str, days: float, within_m: float, median_m: float, farthest_m: float, in_days: float
) -> str:
    """What was found, how sure, from how many journeys.

    Args:
        days: least time at liberty of a journey. median_m, farthest_m: of all journeys; in_days: time that the farthest took.
    """
    share = found.all.share
    told = (
        f"Of {share.n:,} journeys of {found.all.fish:,} {species} that took {days:g} days or more, {found.all.stayed:,} ended within "
        f"{distance_words(within_m)} of where they began: {100 * share.value:.0f} % ({100 * share.lower:.0f} to {100 * share.upper:.0f})."
    )
    half = (
        f"Half went less than {distance_words(median_m)}" if median_m >= 5 else "Half were met where they were let go"
    )
    return f"{told} {half}; the farthest, a single fish, {distance_words(farthest_m)} in {in_days:,.0f} days."


def where_met_sentence(
    n: int, fish: int, species: str, first: str, last: str, at_sites: int, sites: int, waters: Sequence[str]
) -> str:
    """How many encounters a map shows, of whom, when and where.

    Args:
        n, fish: encounters, and the different fish among them. first, last: days. at_sites: encounters at one of ``sites`` sites.
        waters: names of the waters of those.
    """
    when = f"on {first}" if first == last else f"from {first} to {last}"
    told = f"{fish:,} {species} {'was' if fish == 1 else 'were'} met {_times(n)} {when}"
    if not sites:
        return f"{told}."
    where = (
        f"{sites} {'site' if sites == 1 else 'sites'} on {waters[0] if len(waters) == 1 else f'{len(waters)} waters'}"
    )
    return f"{told}, {f'{_times(at_sites)} ' if at_sites < n else ''}at {where}."


def _times(n: int) -> str:
    return "once" if n == 1 else f"{n:,} times"
