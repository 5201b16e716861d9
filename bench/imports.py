"""Rows per second of bringing a file in, against one multi-row INSERT after the other of the same rows."""

from __future__ import annotations

import math
import time

from django.db import connection, transaction

from bench.size import size
from bench.timing import show
from nailwright.deck.models import Capture
from nailwright.jobs.working import Progress
from nailwright.programmes.models import Person, Programme
from nailwright.records.actions import take_file
from nailwright.records.importing import BATCH, Bringing
from nailwright.records.models import Import
from nailwright.records.resolving import answers_from

N = size(200_000, 2_000)


def content() -> bytes:
    """A file of walleye on one lake, a hundred to a day and site."""
    lines = ["date,water,site,gear,species,length_mm,mass_g,sex"]
    for n in range(N):
        day, mm = n // 800, 200 + n % 400
        date = f"{2000 + day // 336}-{1 + day % 336 // 28:02}-{1 + day % 28:02}"
        grams = round(10 ** (-5.453 + 3.18 * math.log10(mm)), 1)
        lines.append(f"{date},Lake Ossling,B{n // 100 % 8},boat_electrofishing,wal,{mm},{grams},{'fmu'[n % 3]}")
    return "\n".join(lines).encode()


def measure() -> None:
    person = Person.objects.get(username="demo-biologist")
    programme = Programme.objects.get()
    row = take_file(person, programme, "bench.csv", content())
    answers = answers_from(programme, row.answers)

    def go(store: bool) -> float:
        began = time.perf_counter()
        Bringing(row, answers, person, store).run(Progress())
        return time.perf_counter() - began

    tried, stored = go(False), go(True)
    assert row.result and row.result["good"] == N, row.result
    plain = insert_again(row)
    show(f"trying a file of {N:,} lines", f"{N / tried:,.0f} lines/s", f"{tried:.1f} s")
    show(
        f"bringing in {N:,} fish", f"{N / stored:,.0f} /s", f"plain INSERT {N / plain:,.0f} /s: {stored / plain:.1f} x"
    )


def insert_again(row: Import) -> float:
    """Seconds to insert the rows that the file brought, plainly, after they were taken out again. Leaves none."""
    columns = [field.column for field in Capture._meta.concrete_fields]
    listed = ", ".join(f"`{column}`" for column in columns)
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {listed} FROM deck_capture WHERE brought_in_id = %s", [str(row.pk)])
        rows = cursor.fetchall()
        cursor.execute("DELETE FROM deck_capture WHERE brought_in_id = %s", [str(row.pk)])
        marks = "(" + ", ".join(["%s"] * len(columns)) + ")"
        began = time.perf_counter()
        with transaction.atomic():
            for start in range(0, len(rows), BATCH):
                batch = rows[start : start + BATCH]
                cursor.execute(
                    f"INSERT INTO deck_capture ({listed}) VALUES {', '.join([marks] * len(batch))}",
                    [value for each in batch for value in each],
                )
        took = time.perf_counter() - began
        cursor.execute("DELETE FROM deck_capture WHERE brought_in_id = %s", [str(row.pk)])
    return took
