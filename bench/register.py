"""A page of the register at rows 900,000 and 500,000 (the farthest) of a million, against the first page."""

from __future__ import annotations

from django.db import connection

from bench.timing import seconds, show
from nailwright.deck.models import Capture
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright.records.register import count_of, page_of

N = 1_000_000


def grow() -> None:
    """Doubles the captures inside the database until there are a million; only keys and times differ."""
    columns = [field.column for field in Capture._meta.concrete_fields if field.column and field.column != "fish_id"]
    copied = ", ".join(
        {"id": "UUID()", "device_time": "device_time + INTERVAL FLOOR(RAND() * 1e6) SECOND"}.get(column, f"`{column}`")
        for column in columns
    )
    listed = ", ".join(f"`{column}`" for column in columns)
    with connection.cursor() as cursor:
        while (missing := N - Capture.objects.count()) > 0:
            cursor.execute(f"INSERT INTO deck_capture ({listed}) SELECT {copied} FROM deck_capture LIMIT {missing}")
        cursor.execute("ANALYZE TABLE deck_capture")


def measure() -> None:
    grow()
    programme = Programme.objects.get()
    for sort in ("-time", "-length"):
        first, far, middle = (
            seconds(lambda row, order: page_of(programme, Selection(), order, row, 100, False, N), 5, row, sort)
            for row in (0, 900_000, 500_000)
        )
        show(f"register page at row 0 of {N:,}, by {sort}", f"{1000 * first:,.0f} ms")
        for row, took in ((900_000, far), (500_000, middle)):
            show(f"register page at row {row:,}", f"{1000 * took:,.0f} ms", f"{took / first:.1f} x the first")
    counted = seconds(lambda: count_of(programme, Selection(), False), 3)
    show(f"counting {N:,} rows", f"{1000 * counted:,.0f} ms")
