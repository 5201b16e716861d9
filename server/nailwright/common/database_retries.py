"""Two requests at the same moment: what the database gave up for another's sake is done again."""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from typing import TypeVar

from django.db import OperationalError, connection, transaction

T = TypeVar("T")
_TRIES = 5
#: MariaDB's own numbers: a deadlock in which this one was chosen to lose; a lock that was waited for too long; a row that
#: another has changed since it was read.
_CONFLICTS = (1213, 1205, 1020)


def is_conflict(error: Exception) -> bool:
    """Whether the database says that another was in the way, and that the same may go through a moment later."""
    return isinstance(error, OperationalError) and bool(error.args) and error.args[0] in _CONFLICTS


def settled(do: Callable[[], T], also: tuple[type[Exception], ...] = ()) -> T:
    """Do something in a transaction of its own, again where another request was in the way, and give back what it gave.

    Args:
        do: may be called several times; nothing of a call that failed remains.
        also: further errors after which it is done again, such as IntegrityError where ``do`` first looks whether the row
            is there. Inside a transaction of somebody else's it is done once: the whole of that one is lost.
    """
    for left in reversed(range(1 if connection.in_atomic_block else _TRIES)):
        try:
            with transaction.atomic():
                return do()
        except Exception as error:
            if not left or not (is_conflict(error) or isinstance(error, also)):
                raise
            time.sleep(random.uniform(0.01, 0.05) * (_TRIES - left))
    raise AssertionError("unreachable")
