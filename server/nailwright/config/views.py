"""Pages outside the API: the application's one HTML page, and what stands in for it before it is built."""

from __future__ import annotations

import sys

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseBase, JsonResponse

from nailwright.common.database import not_now, note_failure
from nailwright.common.errors import PAGE_TOO_OLD, body
from nailwright.common.request_log import request_number


def application(request: HttpRequest) -> HttpResponseBase:
    """The single page; its router reads the address. What looks like a file and is none is not found, not a page."""
    if "." in request.path.rsplit("/", 1)[-1]:
        return HttpResponse("No such file.", status=404, content_type="text/plain")
    return _page("index.html")


def public_page(request: HttpRequest, address: str) -> HttpResponseBase:
    """The small page on which finders report tags: none of the application comes with it."""
    return _page("report.html")


def _page(name: str) -> HttpResponseBase:
    page = settings.WEB_DIST / name
    if not page.is_file():
        return HttpResponse("The screens are not built yet: run bin/start.", status=503, content_type="text/plain")
    response = FileResponse(page.open("rb"), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


def no_such_endpoint(request: HttpRequest) -> JsonResponse:
    """An unknown address below /api/."""
    return JsonResponse(body("not_found", f"No endpoint at {request.path}."), status=404)


def failed(request: HttpRequest) -> HttpResponseBase:
    """What went wrong unforeseen: it is in the log under the number that is told here. Never of the database's making alone."""
    error = sys.exc_info()[1]
    if isinstance(error, Exception) and note_failure(error):
        return not_now()
    told = (
        f"Something went wrong that was not foreseen. Nothing that is kept on a tablet is lost. Try again; if it stays, tell "
        f"whoever looks after the server this number: {request_number()}."
    )
    if request.path.startswith("/api/"):
        return JsonResponse(body("server_failed", told), status=500)
    return HttpResponse(told, status=500, content_type="text/plain; charset=utf-8")


def csrf_failure(request: HttpRequest, reason: str = "") -> JsonResponse:
    """A form without its token; reloading the page sets it."""
    return JsonResponse(body("csrf", PAGE_TOO_OLD), status=403)
