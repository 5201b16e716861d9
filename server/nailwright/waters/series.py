"""Series from elsewhere: brought in from a file of two columns, added to, taken out, told by day."""

from __future__ import annotations

import csv
import io
import math
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.db import transaction
from django.db.models import Count, Max, Min, QuerySet

from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change, note_change
from nailwright.waters.models import Series, SeriesPoint, Water
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import parse_number

MOST_POINTS = 500_000
_AT_ONCE = 5000
_YEARS = (1850, 2100)


def series_of(programme: Programme) -> QuerySet[Series]:
    """The programme's series, each with how many readings it holds and from when to when."""
    rows = Series.present.filter(water__programme=programme).select_related("water")
    return rows.annotate(n=Count("points"), first=Min("points__at"), last=Max("points__at")).order_by(
        "water__name", "name"
    )


def bring_series(act: Act, water: Water, told: dict[str, str], content: bytes) -> tuple[Series, dict[str, int]]:
    """Bring in a file; under a name that the water has, what is new is added and what differs is put right.

    Args:
        told: ``name``, ``unit``, ``source``.
        content: CSV; the first column a day or time (of the water's zone where it names none), the second a figure. Lines with
            no figure are gaps, and are left out.

    Returns:
        The series, and how many readings are ``new``, ``changed``, ``same``, ``empty``.

    Raises:
        CoreError: field ``file`` with the line; ``unit_differs``.
    """
    require(act.person, water.programme, "plan")
    points, empty = _read(content, ZoneInfo(water.time_zone))
    with transaction.atomic():
        Water.objects.select_for_update().get(pk=water.pk)  # the same file twice at once makes one series
        series = Series.present.filter(water=water, name__iexact=told["name"]).first()
        if series is None:
            series = Series.objects.create(water=water, person=act.person, **told)
        elif series.unit != told["unit"]:
            raise CoreError(
                "unit_differs", f"{series.name} is in {series.unit or 'no unit'} so far; this file says {told['unit'] or 'no unit'}.", "unit"
            )  # fmt: skip
        there = {each.at: each for each in series.points.all()}
        fresh = [SeriesPoint(series=series, at=at, value=value) for at, value in points.items() if at not in there]
        differing = [(there[at], value) for at, value in points.items() if at in there and there[at].value != value]
        SeriesPoint.objects.bulk_create(fresh, batch_size=_AT_ONCE)
        for point, value in differing:
            point.value = value
        SeriesPoint.objects.bulk_update([point for point, _ in differing], ["value"], batch_size=_AT_ONCE)
        n = {
            "new": len(fresh),
            "changed": len(differing),
            "same": len(points) - len(fresh) - len(differing),
            "empty": empty,
        }
        note_change(act, water.programme, series, {}, {"brought_in": n})
    return series, n


def take_out_series(act: Act, series: Series, deleted: bool) -> None:
    """Take a series out, or put it back."""
    require(act.person, series.water.programme, "plan")
    with transaction.atomic():
        locked = Series.objects.select_for_update().get(pk=series.pk)
        if bool(locked.deleted_at) != deleted:
            apply_change(act, series.water.programme, locked, {"deleted_at": act.device_time if deleted else None})


def by_day(series: Series, first: date, last: date) -> list[dict[str, Any]]:
    """The mean of each day that has readings, and how many; days of the water's zone."""
    zone = ZoneInfo(series.water.time_zone)
    since = datetime.combine(first, datetime.min.time(), zone)
    until = datetime.combine(last + timedelta(days=1), datetime.min.time(), zone)
    days: dict[date, list[float]] = {}
    for at, value in series.points.filter(at__gte=since, at__lt=until).order_by("at").values_list("at", "value"):
        days.setdefault(at.astimezone(zone).date(), []).append(value)
    return [{"day": day, "mean": math.fsum(values) / len(values), "n": len(values)} for day, values in days.items()]


def _read(content: bytes, zone: ZoneInfo) -> tuple[dict[datetime, float], int]:
    try:
        text = content.decode("utf-8-sig")
        # where figures have a decimal comma, something else parts the columns
        parted_by = max(";\t,", key=text[:4000].count)
        lines = list(csv.reader(io.StringIO(text), delimiter=parted_by))
    except (UnicodeDecodeError, csv.Error) as error:
        raise _wrong("Expected a CSV in UTF-8 with a time and a figure in each line.") from error
    if len(lines) > MOST_POINTS:
        raise _wrong(f"Expected at most {MOST_POINTS:,} lines; got {len(lines):,}. Bring it in as several files.")
    points: dict[datetime, float] = {}
    empty = 0
    for number, line in enumerate(lines, 1):
        cells = [each.strip() for each in line]
        if not any(cells):
            continue
        if len(cells) < 2:
            raise _wrong(f"Line {number}: expected a time and a figure; got '{cells[0][:40]}'.")
        at = _moment(cells[0], zone)
        if at is None:
            if number == 1:
                continue  # the names of the columns
            raise _wrong(
                f"Line {number}: expected a day such as 2026-05-03 or a time such as 2026-05-03T14:00; got '{cells[0][:40]}'."
            )
        if not cells[1]:
            empty += 1
            continue
        try:
            value = parse_number(cells[1])
        except CoreError as error:
            raise _wrong(f"Line {number}: {error.message}") from error
        if points.get(at, value) != value:
            raise _wrong(f"Line {number}: {cells[0][:40]} stands in the file before with another figure.")
        points[at] = value
    if not points:
        raise _wrong("The file holds no reading.")
    return points, empty


def _moment(text: str, zone: ZoneInfo) -> datetime | None:
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        return None
    if not _YEARS[0] <= moment.year <= _YEARS[1]:
        return None
    return moment if moment.tzinfo else moment.replace(tzinfo=zone)


def _wrong(message: str) -> CoreError:
    return CoreError("series_unreadable", message, "file")
