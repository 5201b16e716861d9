"""Keeping findings, and noticing when the rows behind one have since changed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import UUID

from django.db.models import Aggregate, BigIntegerField, CharField, Count, F, Func, QuerySet, Value
from django.http import QueryDict

from nailwright.findings import serializers
from nailwright.findings.answers import POINTS_SEED, condition_finding, size_finding
from nailwright.findings.comparisons import SEED, cohorts_finding, condition_compared, size_compared
from nailwright.findings.models import KeptFinding
from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright_core.common.errors import CoreError

Asked = serializers.SelectionSerializer
#: For each kind: how its address is read, how it is computed, how it is shown, its seed.
KINDS: dict[str, tuple[type[Asked], Callable[[Programme, Asked], dict[str, Any]], Any, int | None]] = {
    "size": (
        serializers.SizeQuerySerializer,
        lambda programme, asked: size_finding(
            programme, asked.selection(), asked.validated_data.get("bin_mm"), asked.validated_data["level"]
        ),
        serializers.SizeFindingSerializer,
        None,
    ),
    "condition": (
        serializers.ConditionQuerySerializer,
        lambda programme, asked: condition_finding(programme, asked.selection(), asked.validated_data["level"]),
        serializers.ConditionFindingSerializer,
        POINTS_SEED,
    ),
    "size-compared": (
        serializers.ComparedQuerySerializer,
        lambda programme, asked: size_compared(
            programme,
            asked.selection(),
            asked.validated_data["by"],
            asked.validated_data.get("bin_mm"),
            asked.validated_data["level"],
        ),
        serializers.SizeComparedSerializer,
        SEED,
    ),
    "condition-compared": (
        serializers.ComparedQuerySerializer,
        lambda programme, asked: condition_compared(
            programme, asked.selection(), asked.validated_data["by"], asked.validated_data["level"]
        ),
        serializers.ConditionComparedSerializer,
        None,
    ),
    "cohorts": (
        serializers.CohortsQuerySerializer,
        lambda programme, asked: cohorts_finding(
            programme,
            asked.selection(),
            asked.validated_data.get("k"),
            asked.validated_data["spread"],
            asked.validated_data["start"],
            asked.validated_data.get("bin_mm"),
            asked.validated_data["level"],
        ),
        serializers.CohortsSerializer,
        SEED,
    ),
}


def compute(programme: Programme, kind: str, params: Any) -> tuple[Asked, dict[str, Any]]:
    """The question as it was read, and its answer as it is shown."""
    query_class, answer, shown, _ = KINDS[kind]
    asked = serializers.read_query(query_class, params)
    return asked, shown(answer(programme, asked)).data


def keep_finding(
    person: Person, programme: Programme, key: UUID, kind: str, query: dict[str, Any], title: str
) -> KeptFinding:
    """Compute a finding and keep it with everything that is needed to see it again.

    Raises:
        CoreError: ``kind_unknown``, and as the finding itself.
    """
    require(person, programme, "keep_finding")
    if kind not in KINDS:
        raise CoreError("kind_unknown", f"Expected a finding of {', '.join(KINDS)}; got '{kind}'.", "kind")
    existing = KeptFinding.objects.filter(pk=key, programme=programme).first()
    if existing:
        return existing
    asked, result = compute(programme, kind, _as_address(query))
    return KeptFinding.objects.create(
        id=key,
        programme=programme,
        kind=kind,
        title=title,
        query=query,
        result=result,
        seed=KINDS[kind][3],
        rows_mark=rows_mark(programme, asked.selection()),
        keeper=person,
    )


def kept_of(programme: Programme) -> list[dict[str, Any]]:
    """All kept findings, newest first, each with whether its rows have changed since."""
    found: QuerySet[KeptFinding] = programme.kept_findings.select_related("keeper")
    return [{"finding": each, "changed": _changed(each)} for each in found]


def _changed(kept: KeptFinding) -> bool:
    asked = serializers.read_query(KINDS[kept.kind][0], _as_address(kept.query))
    return rows_mark(kept.programme, asked.selection()) != kept.rows_mark


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


def _as_address(query: dict[str, Any]) -> QueryDict:
    """The question as an address holds it: lists repeat their key."""
    address = QueryDict(mutable=True)
    for name, value in query.items():
        address.setlist(str(name)[:40], [_text(each) for each in (value if isinstance(value, list) else [value])])
    return address


def _text(value: Any) -> str:
    if isinstance(value, dict | list):
        raise CoreError("query_unreadable", "Expected the question as plain names and values.", "query")
    return str(value).lower() if isinstance(value, bool) else str(value)
