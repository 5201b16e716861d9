"""What a biologist would write instead: polars over a Parquet file of the same captures.

It reads no truth but its own file's, knows nothing of who may see what, and draws nothing; that is what the findings are
held against.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import polars as pl
from django.db import connection
from scipy import stats

from bench.million import SPECIES
from nailwright_core.common import species

COLUMNS = ("species", "run_id", "sex", "count", "length_mm", "length_type", "length_basis", "mass_g", "mass_basis")


def write(file: Path) -> None:
    """Every capture there is, as Parquet."""
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {', '.join(COLUMNS)} FROM deck_capture WHERE deleted_at IS NULL")
        rows = cursor.fetchall()
    pl.DataFrame(rows, schema=list(COLUMNS), orient="row", infer_schema_length=None).write_parquet(file)


def size(file: Path) -> dict[str, Any]:
    """Counts in classes of 20 mm, the median, and how many reach each size category."""
    lengths = _measured(file).select("length_mm").collect()["length_mm"]
    counts = (lengths // 20).cast(pl.Int32).value_counts(sort=True)
    categories = species.get(SPECIES).size_categories
    assert categories is not None
    reached = {name: int((lengths >= mm).sum()) for name, mm in categories}
    return {"counts": counts, "median": lengths.median(), "reached": reached}


def condition(file: Path) -> dict[str, Any]:
    """The line through log mass on log length, its standard errors, and mean relative weight."""
    fish = _measured(file).filter(pl.col("mass_basis") == "measured").select("length_mm", "mass_g").collect()
    x, y = np.log10(fish["length_mm"].to_numpy()), np.log10(fish["mass_g"].to_numpy())
    line = stats.linregress(x, y)
    standard = species.get(SPECIES).standard_weight
    assert standard is not None
    large = x >= np.log10(standard.min_mm)
    weight = 100 * 10 ** (y[large] - standard.a - standard.b * x[large])
    return {"slope": line.slope, "se": line.stderr, "wr": float(weight.mean())}


def _measured(file: Path) -> pl.LazyFrame:
    return pl.scan_parquet(file).filter(pl.col("species") == SPECIES, pl.col("length_basis") == "measured")
