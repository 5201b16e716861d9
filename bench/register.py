"""Pages of the register far from its ends among a million rows, against the first page; and counting them."""

from __future__ import annotations

import time

from bench.million import SPECIES, grow
from bench.timing import seconds, show
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright.records.register import count_of, page_of


def measure() -> None:
    programme = Programme.objects.get()
    grow(programme)
    for selection, what in ((Selection(), "all"), (Selection(SPECIES), SPECIES)):
        n = count_of(programme, selection, False)
        counted = seconds(lambda selection=selection: count_of(programme, selection, False))
        show(f"counting {n:,} rows ({what})", f"{1000 * counted:,.0f} ms", "goal 100 ms")
        for sort in ("-time", "-length"):

            def page(row: int, selection: Selection = selection, sort: str = sort, n: int = n) -> None:
                page_of(programme, selection, sort, row, 100, False, n)

            began = time.perf_counter()
            page(n // 2)
            cold = time.perf_counter() - began
            first = seconds(page, 5, 0)
            show(f"register at row 0 of {n:,} ({what}), by {sort}", f"{1000 * first:,.0f} ms")
            show("  the first far page, which counts the rows", f"{1000 * cold:,.0f} ms")
            for row in (9 * n // 10, n // 2):
                took = seconds(page, 5, row)
                show(f"  row {row:,}", f"{1000 * took:,.0f} ms", f"{took / first:.1f} x the first")
