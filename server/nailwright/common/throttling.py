"""Room for the tablets: reads that cost much take only so many of a process's threads, whoever asks for them.

A view says ``takes_long = True`` of itself. So many of them run at once, so many more wait, and who comes beyond those is asked to
come again in a moment, which the screens do by themselves.
"""

from __future__ import annotations

from collections.abc import Callable
from threading import BoundedSemaphore, Lock
from typing import Any

from django.conf import settings
from django.http import HttpRequest, JsonResponse
from django.http.response import HttpResponseBase

BUSY = {
    "code": "busy",
    "message": "Many are asking for findings at this moment. Ask again in a few seconds; nothing is lost.",
    "field": None,
}
RETRY_AFTER_S = 1


class Room:
    """Middleware, one for a process."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self._get_response = get_response
        self._slots = BoundedSemaphore(settings.HEAVY_AT_ONCE)
        self._lock = Lock()
        self._waiting = 0

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        try:
            response = self._get_response(request)
        except BaseException:
            self._leave(request)
            raise
        if response.streaming:
            held: Any = response
            held._resource_closers.append(lambda: self._leave(request))  # until the last row has gone
        else:
            self._leave(request)
        return response

    def process_view(self, request: HttpRequest, view: Any, args: Any, kwargs: Any) -> JsonResponse | None:
        if not getattr(getattr(view, "cls", None), "takes_long", False):
            return None
        with self._lock:
            if self._waiting >= settings.HEAVY_WAITING:
                return self._busy()
            self._waiting += 1
        try:
            if not self._slots.acquire(timeout=settings.HEAVY_WAIT_S):
                return self._busy()
            request.__dict__["in_room"] = True
            return None
        finally:
            with self._lock:
                self._waiting -= 1

    def _leave(self, request: HttpRequest) -> None:
        if request.__dict__.pop("in_room", False):
            self._slots.release()

    def _busy(self) -> JsonResponse:
        return JsonResponse(BUSY, status=503, headers={"Retry-After": str(RETRY_AFTER_S)})
