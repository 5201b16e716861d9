"""Spreading work over an executor: the machine's processes, or whatever cluster hands one in.

Core opens no connection itself: a Dask cluster's ``Client.get_executor()`` is such an executor, and the server makes it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import FIRST_COMPLETED, Executor, Future, wait
from typing import TypeVar

Piece = TypeVar("Piece")
Result = TypeVar("Result")


def spread(
    work: Callable[[Piece], Result], pieces: Iterable[Piece], executor: Executor | None = None, ahead: int = 8
) -> Iterator[tuple[int, Result]]:
    """Do ``work`` on each piece; yields (place, result) as each is done, in no set order.

    Args:
        work: a function at the top of a module, so that it can be sent to another process.
        executor: where it runs; here, one after the other, without one.
        ahead: how many pieces are handed out beyond those that are done, so that a stop wastes little.

    Whoever stops iterating cancels what has not begun.
    """
    if executor is None:
        for place, piece in enumerate(pieces):
            yield place, work(piece)
        return
    waiting: dict[Future[Result], int] = {}
    numbered = enumerate(pieces)
    try:
        for place, piece in numbered:
            waiting[executor.submit(work, piece)] = place
            if len(waiting) >= ahead:
                yield from _done(waiting)
        while waiting:
            yield from _done(waiting)
    finally:
        for future in waiting:
            future.cancel()


def _done(waiting: dict[Future[Result], int]) -> Iterator[tuple[int, Result]]:
    finished, _ = wait(list(waiting), return_when=FIRST_COMPLETED)
    for future in finished:
        yield waiting.pop(future), future.result()
