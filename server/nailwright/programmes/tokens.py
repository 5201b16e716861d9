"""Tokens with which a program speaks for a person: what it may do, and until when."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import Any

from django.utils import timezone
from rest_framework.authentication import TokenAuthentication
from rest_framework.exceptions import AuthenticationFailed, PermissionDenied
from rest_framework.permissions import SAFE_METHODS, BasePermission
from rest_framework.request import Request

from nailwright.programmes.models import ApiToken, Person

LONGEST_DAYS = 366


def make_token(person: Person, scope: str, days: int) -> tuple[str, ApiToken]:
    """A new token and its row; the one before ends. Only a digest of it is kept."""
    key = secrets.token_urlsafe(32)
    ApiToken.objects.filter(person=person).delete()
    ends_at = timezone.now() + timedelta(days=days)
    return key, ApiToken.objects.create(digest=_digest(key), person=person, scope=scope, ends_at=ends_at)


class ByToken(TokenAuthentication):
    """``Authorization: Token ...``"""

    def authenticate_credentials(self, key: str) -> tuple[Person, ApiToken]:
        token = (
            ApiToken.objects.select_related("person").filter(digest=_digest(key), ends_at__gt=timezone.now()).first()
        )
        if token is None or not token.person.is_active:
            raise AuthenticationFailed
        return token.person, token


class WithinScope(BasePermission):
    """Reading is within every scope; recording is what a view with ``scope = "record"`` takes; the rest needs all."""

    def has_permission(self, request: Request, view: Any) -> bool:
        token = request.auth
        if not isinstance(token, ApiToken) or request.method in SAFE_METHODS or token.scope == ApiToken.Scope.ALL:
            return True
        if token.scope == ApiToken.Scope.RECORD and getattr(view, "scope", "") == ApiToken.Scope.RECORD:
            return True
        raise PermissionDenied(f"This token may {token.get_scope_display().lower()}; make one that may do more.")


def _digest(key: str) -> str:
    return hashlib.sha256(key.encode()).hexdigest()
