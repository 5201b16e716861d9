"""The mark on every answer of the API, by which a screen knows that it comes from here and not from what stands in the way.

A captive portal answers anything with a page, some with JSON: a sign-in that seems to have run out, a clock of years ago.
"""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest
from django.http.response import HttpResponseBase

from nailwright import __version__

HEADER = "Nailwright-Version"


class Ours:
    """Middleware: marks answers, and keeps what is not said to be kept out of every cache between."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        response = self._get_response(request)
        if request.path.startswith("/api/"):
            response[HEADER] = __version__
            response.setdefault("Cache-Control", "no-store")
        return response
