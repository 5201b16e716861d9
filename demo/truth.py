"""What is true of the made-up fish, so that findings can be held against it.

Growth is von Bertalanffy, survival constant, year-classes uneven: that of 2020 is strong and passes through the five
years. Condition of walleye falls year by year in the lower river and nowhere else. All of it invented.
"""

from __future__ import annotations

from dataclasses import dataclass, field

SEED = 41
YEARS = (2022, 2023, 2024, 2025, 2026)
STRONG_YEAR_CLASS = 2020


@dataclass(frozen=True)
class TrueSpecies:
    """One species' truth; lengths mm, masses g, ages years."""

    code: str
    l_infinity: float
    k: float
    t_zero: float
    length_cv: float
    survival: float
    max_age: int
    log10_a: float
    b: float
    mass_sd: float
    selected_at: float
    selected_slope: float
    year_class: dict[int, float] = field(default_factory=dict)

    def strength(self, born: int) -> float:
        """Relative strength of a year-class; 1 is ordinary."""
        return self.year_class.get(born, 1.0)


#: Walleye mass by reach and year, as a factor on the line: 1 everywhere but in the lower river, where it falls.
LOWER_RIVER = "Lower river"
UPPER_RIVER = "Upper river"
CONDITION = {(LOWER_RIVER, year): factor for year, factor in zip(YEARS, (1.0, 0.97, 0.94, 0.91, 0.88), strict=True)}

SPECIES = {
    "wal": TrueSpecies("wal", 690, 0.27, -0.45, 0.075, 0.66, 14, -5.468, 3.180, 0.040, 190, 0.03,
                       {2016: 1.3, 2018: 0.5, 2020: 4.0, 2021: 0.6, 2022: 0.7, 2024: 1.6, 2025: 0.8, 2026: 1.1}),
    "yep": TrueSpecies("yep", 310, 0.32, -0.40, 0.080, 0.50, 9, -5.406, 3.230, 0.045, 105, 0.06, {2021: 2.0, 2024: 1.8}),
    "nop": TrueSpecies("nop", 1050, 0.21, -0.50, 0.085, 0.62, 13, -5.450, 3.096, 0.045, 260, 0.015),
    "bur": TrueSpecies("bur", 760, 0.20, -0.70, 0.090, 0.68, 14, -4.890, 2.898, 0.050, 280, 0.02),
    "lwf": TrueSpecies("lwf", 520, 0.30, -0.60, 0.065, 0.72, 16, -5.575, 3.224, 0.040, 240, 0.03),
}  # fmt: skip
#: Counted only, and now and then measured.
BYCATCH = "cap"


def condition_factor(code: str, reach: str, year: int) -> float:
    """Factor on the species' mass line in this reach and year."""
    return CONDITION.get((reach, year), 1.0) if code == "wal" else 1.0
