"""Sums over rows, by which it is seen that one of them changed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.models import Aggregate, BigIntegerField, Count, Func, QuerySet
from django.db.models.sql.compiler import SQLCompiler


class BitXor(Aggregate):
    """Exclusive or over whole numbers."""

    function = "BIT_XOR"


class _Checksum(Func):
    """A whole number of what some columns of a row hold. One expression for all of them: a tablet asks every few seconds, and
    putting a tree of expressions together took longer than the database's own work."""

    output_field = BigIntegerField()

    def as_sql(self, compiler: SQLCompiler, connection: BaseDatabaseWrapper) -> tuple[str, tuple[Any, ...]]:  # type: ignore[override]
        compiled = [compiler.compile(each) for each in self.get_source_expressions()]
        cells = ", ".join(f"IFNULL({sql}, '')" for sql, _ in compiled)
        return f"CRC32(CONCAT_WS('|', {cells}))", tuple(value for _, values in compiled for value in values)


def sum_over(rows: QuerySet, names: Sequence[str]) -> str:
    """How many rows there are, and a sum over what their columns hold."""
    found = rows.aggregate(n=Count("pk"), mark=BitXor(_Checksum(*names)))
    return f"{found['n']}-{found['mark'] or 0}"
