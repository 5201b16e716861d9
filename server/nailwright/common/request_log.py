"""Each request has a number, and a line in the log with who asked, what came of it and how long it took."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from contextvars import ContextVar

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.utils.functional import SimpleLazyObject
from uuid6 import uuid7

log = logging.getLogger("nailwright.requests")
_number: ContextVar[str] = ContextVar("request_number", default="")


def request_number() -> str:
    """The number of the request that is being answered; empty outside one."""
    return _number.get()


class InRequest(logging.Filter):
    """Writes the request's number on every line that is logged while it is answered."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.request_id = _number.get()
        return True


class RequestLog:
    """Middleware: the outermost, so that whatever happens inside has its line."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        token = _number.set(uuid7().hex)
        began = time.perf_counter()
        try:
            response = self._get_response(request)
            response["X-Request-ID"] = _number.get()
            told = {
                "method": request.method,
                "path": request.path,
                "status": response.status_code,
                "ms": round((time.perf_counter() - began) * 1000, 1),
                "person": _person(request),
            }
            log.info("%s %s", request.method, request.path, extra=told)
            return response
        finally:
            _number.reset(token)


def _person(request: HttpRequest) -> str:
    """Who asked, where that has become known; it is not looked up for the log."""
    user = request.__dict__.get("_cached_user") or request.__dict__.get("user")
    if user is None or type(user) is SimpleLazyObject or not user.is_authenticated:
        return ""
    return str(user.pk)
