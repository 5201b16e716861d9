"""How much a part measures: all of it, or a taste, by which the tests see that every part still runs."""

import os

#: Set by the tests (tests/browser/test_bench.py).
SMALL = bool(os.environ.get("NAILWRIGHT_BENCH_SMALL"))


def size(whole: int, taste: int) -> int:
    """So many, or in a smoke so many."""
    return taste if SMALL else whole
