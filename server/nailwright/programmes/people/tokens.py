"""Tokens with which a program speaks for a person: what it may do, and until when."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.utils import timezone
from rest_framework.authentication import TokenAuthentication
from rest_framework.exceptions import AuthenticationFailed, PermissionDenied
from rest_framework.permissions import SAFE_METHODS, BasePermission
from rest_framework.request import Request

from nailwright.programmes.models import ApiToken, Person
from nailwright.programmes.people.secrets import digest, long_key
from nailwright_core.common.errors import CoreError

LONGEST_DAYS = 366
MOST = 20
SEEN_EVERY = timedelta(minutes=1)


def make_token(person: Person, name: str, scope: str, days: int) -> tuple[str, ApiToken]:
    """A new token and its row. Only a digest of it is kept.

    Raises:
        CoreError: ``too_many_tokens``.
    """
    going = ApiToken.objects.filter(person=person, ends_at__gt=timezone.now())
    if going.count() >= MOST:
        raise CoreError("too_many_tokens", f"You have {MOST} tokens already. End those that nobody uses first.", "name")
    key = long_key()
    ends_at = timezone.now() + timedelta(days=days)
    made = ApiToken.objects.create(digest=digest(key), person=person, name=name, scope=scope, ends_at=ends_at)
    return key, made


class ByToken(TokenAuthentication):
    """``Authorization: Token ...``"""

    def authenticate_credentials(self, key: str) -> tuple[Person, ApiToken]:
        token = ApiToken.objects.select_related("person").filter(digest=digest(key), ends_at__gt=timezone.now()).first()
        if token is None or not token.person.is_active:
            raise AuthenticationFailed
        now = timezone.now()
        if token.last_used_at is None or now - token.last_used_at > SEEN_EVERY:  # not a write for each request
            ApiToken.objects.filter(pk=token.pk).update(last_used_at=now)
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
