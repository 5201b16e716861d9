"""A database that does not answer: nobody waits for it twice, and everybody is told the same."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from django.db import InterfaceError, OperationalError, connection, transaction
from django.http import HttpRequest, JsonResponse
from django.http.response import HttpResponseBase

RETRY_AFTER_S = 5
NOT_NOW = {
    "code": "not_now",
    "message": "The server's database does not answer just now. Nothing is lost: a tablet keeps its entries and sends them "
    "by itself. Try again in a moment.",
    "field": None,
}
#: So long nobody is let through to a database that did not answer; then one request tries it.
_REST_S = 2.0
#: The driver's numbers: no connection, none to that address, gone away, lost while it was asked.
_GONE = (2002, 2003, 2006, 2013)

_rests_until = 0.0


def note_failure(error: Exception) -> bool:
    """Whether this error says that the database did not answer or was too busy; where it is gone, it is let alone a while."""
    global _rests_until
    if not isinstance(error, OperationalError | InterfaceError):
        return False
    if isinstance(error, InterfaceError) or (error.args and error.args[0] in _GONE):
        _rests_until = time.monotonic() + _REST_S
    return True


@contextmanager
def one_moment() -> Iterator[None]:
    """All that is read within is of one moment, however long it takes, as a backup has it: what others write meanwhile is not
    seen. Inside somebody else's transaction it is of that one."""
    if not connection.in_atomic_block:
        with connection.cursor() as cursor:  # for the next transaction of this connection alone
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
    with transaction.atomic():
        yield


def not_now() -> JsonResponse:
    """The answer while the database is away."""
    return JsonResponse(NOT_NOW, status=503, headers={"Retry-After": str(RETRY_AFTER_S)})


class DatabaseGuard:
    """Middleware: while the database rests, the API says so at once instead of letting every thread wait for it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        global _rests_until
        if _rests_until and request.path.startswith("/api/"):
            if time.monotonic() < _rests_until:
                return not_now()
            _rests_until = time.monotonic() + _REST_S  # this one tries; the others still wait
            response = self._get_response(request)
            if response.status_code != 503:
                _rests_until = 0.0
            return response
        return self._get_response(request)
