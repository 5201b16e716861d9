"""Where heavy computing runs: the machine's processes, or a Dask cluster named by COMPUTE_URL."""

from __future__ import annotations

import multiprocessing
import os
from collections.abc import Iterator
from concurrent.futures import Executor, ProcessPoolExecutor
from contextlib import contextmanager

#: Below this a second process costs more than it brings.
WORTH_SPREADING_S = 4.0


@contextmanager
def executor_for(estimated_s: float) -> Iterator[Executor | None]:
    """An executor for work of about so many seconds; None where one process is best."""
    address = os.environ.get("COMPUTE_URL", "")
    if address:
        from distributed import Client  # only where a cluster is used: it takes a second to import

        with Client(address) as client:  # type: ignore[no-untyped-call]
            yield client.get_executor()
    elif estimated_s < WORTH_SPREADING_S:
        yield None
    else:
        # spawned, not forked: a fork would share the worker's database connection
        with ProcessPoolExecutor(os.cpu_count(), mp_context=multiprocessing.get_context("spawn")) as processes:
            yield processes
