"""How often Python looks for garbage in a server process."""

import gc


def collect_seldom() -> None:
    """Leave what was loaded out of every search for garbage, and search less often.

    A deck of thousands of fish is many small objects that all live until it is sent; by default each few hundred of them start a search,
    and the longest go through all that the process holds (bin/bench deck: 1.9 s so, 1.6 s thus).
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 10, 5)
