"""A mark of the rows behind a finding, by which it is seen that one of them changed."""

from __future__ import annotations

from django.db.models import Aggregate, BigIntegerField, CharField, Count, F, Func, Value

from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Programme


class _BitXor(Aggregate):
    function = "BIT_XOR"


def rows_mark(programme: Programme, selection: Selection) -> str:
    """A mark of the rows of a selection that differs as soon as one of them does: their number, and a sum over them."""
    told = (
        "id",
        "species",
        "run_id",
        "count",
        "length_mm",
        "length_type",
        "length_basis",
        "mass_g",
        "mass_basis",
        "sex",
    )
    text, number = CharField(), BigIntegerField()
    parts = [Func(F(name), Value(""), function="IFNULL", output_field=text) for name in told]
    row = Func(Func(Value("|"), *parts, function="CONCAT_WS", output_field=text), function="CRC32", output_field=number)
    found = captures_in(programme, selection).aggregate(n=Count("pk"), mark=_BitXor(row))
    return f"{found['n']}-{found['mark'] or 0}"
