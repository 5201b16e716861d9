"""A page of the register at row 900,000 of a million, against the first page."""

from __future__ import annotations

from django.db import connection

from bench.timing import seconds, show
from nailwright.deck.models import Capture
from nailwright.findings.register import page_of
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme

N = 1_000_000


def grow() -> None:
    """Doubles the captures inside the database until there are a million; only keys and times differ."""
    columns = [field.column for field in Capture._meta.concrete_fields if field.column != "fish_id"]
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
        first, far = (
            seconds(lambda row, order: page_of(programme, Selection(), order, row, 100, False), 5, row, sort)
            for row in (0, 900_000)
        )
        against = f"at row 0 {1000 * first:,.0f} ms: {far / first:.1f} x"
        show(f"register page at row 900,000 of {N:,}, by {sort}", f"{1000 * far:,.0f} ms", against)
