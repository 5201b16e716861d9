"""A request that lost against another one is done again: the database chose it in a deadlock, and nothing of it is left."""

from __future__ import annotations

import random
import time
from collections.abc import Callable

from django.http import HttpRequest
from django.http.response import HttpResponseBase

_TRIES = 4
#: A file is not held in memory for the case that it has to be read again; actions that take one settle by themselves.
_LARGEST = 2_000_000


class Retries:
    """Middleware, the innermost. What the exception handler marks as lost against another is asked again, then answered 503."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if request.method in ("GET", "HEAD", "OPTIONS") or not _can_be_read_again(request):
            return self._get_response(request)
        _ = request.body  # kept, so that it can be read again
        for left in reversed(range(_TRIES)):
            response = self._get_response(request)
            if not left or not getattr(response, "lost", False):
                break
            time.sleep(random.uniform(0.02, 0.1) * (_TRIES - left))
        return response


def _can_be_read_again(request: HttpRequest) -> bool:
    length = request.headers.get("Content-Length") or "0"
    kind = request.headers.get("Content-Type", "")
    return not kind.startswith("multipart/") and length.isdigit() and int(length) <= _LARGEST
