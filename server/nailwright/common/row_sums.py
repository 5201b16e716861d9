"""Sums over rows, by which it is seen that one of them changed."""

from __future__ import annotations

from collections.abc import Sequence

from django.db.models import Aggregate, BigIntegerField, CharField, Count, F, Func, QuerySet, Value


class BitXor(Aggregate):
    """Exclusive or over whole numbers."""

    function = "BIT_XOR"


def sum_over(rows: QuerySet, names: Sequence[str]) -> str:
    """How many rows there are, and a sum over what their columns hold."""
    text, number = CharField(), BigIntegerField()
    parts = [Func(F(name), Value(""), function="IFNULL", output_field=text) for name in names]
    row = Func(Func(Value("|"), *parts, function="CONCAT_WS", output_field=text), function="CRC32", output_field=number)
    found = rows.aggregate(n=Count("pk"), mark=BitXor(row))
    return f"{found['n']}-{found['mark'] or 0}"
