"""Every refusal leaves the server as one shape: ``{"code", "message", "field"}``."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import PermissionDenied as DjangoPermissionDenied
from django.core.exceptions import SuspiciousOperation
from django.db import IntegrityError
from django.http import Http404
from rest_framework import exceptions, status
from rest_framework.response import Response
from rest_framework.views import set_rollback

from nailwright.common.database import NOT_NOW, RETRY_AFTER_S, note_failure
from nailwright.common.database_retries import is_conflict
from nailwright.common.framework_words import in_own_words
from nailwright_core.common.errors import CoreError

log = logging.getLogger(__name__)

PAGE_TOO_OLD = "This page is too old to send from. Reload it; nothing unsent is lost."

KEY_TAKEN = (
    "Something else in the record already has this key or name, or what it belongs to is gone. Nothing was changed: reload, "
    "and send it again with a new key."
)


class Refused(Exception):
    """Something a person may not do: HTTP 403."""

    def __init__(self, code: str, message: str) -> None:
        super().__init__(code, message)
        self.code = code
        self.message = message


def body(code: str, message: str, field: str | None = None) -> dict[str, Any]:
    """The one shape of an error."""
    return {"code": code, "message": message, "field": field}


def handle(exc: Exception, context: dict[str, Any]) -> Response | None:
    """Django REST framework's exception handler; None lets an unknown error surface as a bug."""
    set_rollback()
    if isinstance(exc, CoreError):
        return Response(body(exc.code, exc.message, exc.field), status.HTTP_422_UNPROCESSABLE_ENTITY)
    if isinstance(exc, Refused):
        return Response(body(exc.code, exc.message), status.HTTP_403_FORBIDDEN)
    if isinstance(exc, Http404 | exceptions.NotFound):
        return Response(body("not_found", "There is nothing here by that name or number."), status.HTTP_404_NOT_FOUND)
    if isinstance(exc, exceptions.NotAuthenticated | exceptions.AuthenticationFailed):
        return Response(body("sign_in", "Sign in first."), status.HTTP_401_UNAUTHORIZED)
    if isinstance(exc, exceptions.PermissionDenied) and str(exc.detail).startswith("CSRF Failed"):
        # a code of its own: the screens fetch the cookie anew and ask again by themselves
        return Response(body("csrf", PAGE_TOO_OLD), status.HTTP_403_FORBIDDEN)
    if isinstance(exc, DjangoPermissionDenied | exceptions.PermissionDenied):
        return Response(body("not_allowed", str(exc) or "This is not open to you."), status.HTTP_403_FORBIDDEN)
    if isinstance(exc, exceptions.ParseError):
        message = "The request could not be read: expected JSON, with plain finite numbers."
        return Response(body("body_unreadable", message), status.HTTP_422_UNPROCESSABLE_ENTITY)
    if isinstance(exc, exceptions.ValidationError):
        field, message = _first(exc.detail)
        return Response(body("invalid", message, field), status.HTTP_422_UNPROCESSABLE_ENTITY)
    if note_failure(exc):
        log.error("the database did not answer", exc_info=exc)
        again = {"Retry-After": str(RETRY_AFTER_S)}
        away = Response(NOT_NOW, status.HTTP_503_SERVICE_UNAVAILABLE, headers=again)
        away.__dict__["lost"] = is_conflict(exc)  # for the middleware Retries
        return away
    if isinstance(exc, IntegrityError):
        log.error("the database refused a row", exc_info=exc)
        return Response(body("key_taken", KEY_TAKEN), status.HTTP_409_CONFLICT)
    if isinstance(exc, SuspiciousOperation):
        message = (
            "The form holds more than is taken: at most a thousand fields, and no odd names. Send what belongs to it."
        )
        return Response(body("body_unreadable", message), status.HTTP_422_UNPROCESSABLE_ENTITY)
    if isinstance(exc, exceptions.APIException):
        return Response(body(str(exc.default_code), str(exc.detail)), exc.status_code)
    return None


def _first(detail: Any, field: str | None = None) -> tuple[str | None, str]:
    """The first complaint of a validation error, with the path of its field."""
    if isinstance(detail, dict):
        key, inner = next(iter(detail.items()))
        return _first(inner, key if field is None else f"{field}.{key}")
    if isinstance(detail, list):
        return _first(detail[0], field)
    return field, in_own_words(str(detail))
