"""What of a protocol holds for one fish."""

from __future__ import annotations

from collections.abc import Sequence

from nailwright_core.deck.handling import Limits
from nailwright_core.deck.lanes import Lane
from nailwright_core.protocol.sections import Row
from nailwright_core.protocol.values import Protocol


def band_for(rows: Sequence[Row], species: str, length_mm: float | None) -> Row | None:
    """The row that holds for a fish: of its own species before that of every species, then the longest ``from_mm`` it has
    reached. A fish whose length is not known (None) counts as the smallest: only rows from 0 mm hold for it.

    Args:
        rows: of a section of the protocol, each with species and ``from_mm``.
        species: code of the species.
        length_mm: mm; None where it is not known.
    """
    reached = length_mm or 0.0
    fit = [row for row in rows if row["species"] in (species, "") and _mm(row) <= reached]
    return max(fit, key=lambda row: (row["species"] == species, _mm(row)), default=None)


def hand_limits_for(protocol: Protocol, species: str, length_mm: float | None, base: Limits | None = None) -> Limits:
    """Limits for one fish in hand: the protocol's for its species and length, in ``base`` (what the live well allows).

    Args:
        protocol: whose limits.
        species: code of the species.
        length_mm: mm; None where it is not known.
        base: limits without the protocol; None: core's own.
    """
    row = band_for(protocol.rows("hand_limits"), species, length_mm)
    return (base or Limits()).with_cells(row or {})


def lanes_of(protocol: Protocol) -> tuple[Lane, ...]:
    """The lanes, in their order; in a protocol of before there was a word on water, fish lie in air on the table.

    Args:
        protocol: of the programme.
    """
    return tuple(
        Lane(
            str(row["code"]),
            str(row["word"]),
            None if row["most_min"] is None else float(row["most_min"]) * 60,
            row["water"] == "air" or (row["water"] is None and row["code"] == "table"),
        )
        for row in protocol.rows("lanes")
    )


def benchmark_for(protocol: Protocol, species: str) -> tuple[float, float]:
    """From where to where a mean relative weight (%) of a species is read as near the benchmark; 95 to 105 where none stands.

    Args:
        protocol: whose benchmark.
        species: code of the species.
    """
    row = _of_species(protocol.rows("benchmarks"), species)
    return (float(row["low"]), float(row["high"])) if row else (95.0, 105.0)  # type: ignore[arg-type]


def bin_for(protocol: Protocol, species: str) -> float | None:
    """Width of a species' length bins, mm; None where the lengths are to suggest it.

    Args:
        protocol: whose bins.
        species: code of the species.
    """
    row = _of_species(protocol.rows("bins"), species)
    return float(row["bin_mm"]) if row else None  # type: ignore[arg-type]


def word_for(protocol: Protocol, section: str, code: str) -> str:
    """The programme's word for a code; the code itself where the section has none of it.

    Args:
        protocol: of the programme.
        section: of the protocol.
        code: of the word.
    """
    return next((str(row["word"]) for row in protocol.rows(section) if row["code"] == code), code)


def _of_species(rows: Sequence[Row], species: str) -> Row | None:
    fit = [row for row in rows if row["species"] in (species, "")]
    return max(fit, key=lambda row: row["species"] == species, default=None)


def _mm(row: Row) -> float:
    return float(row["from_mm"] or 0)
