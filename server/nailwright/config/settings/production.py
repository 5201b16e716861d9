"""Running it for real: everything from the environment, and refused where it would be unsafe."""

import os
import re

from django.core.exceptions import ImproperlyConfigured

from nailwright.config.settings.base import *  # noqa: F403
from nailwright.config.settings.base import TRUSTED_PROXIES


def _needed(name: str, hint: str, shortest: int = 1) -> str:
    value = os.environ.get(name, "")
    if len(value) < shortest:
        raise ImproperlyConfigured(f"Set {name}: {hint}; got {len(value)} characters.")
    return value


def _varied(name: str, value: str, least: int) -> str:
    if len(set(value)) < least:
        raise ImproperlyConfigured(f"{name} repeats {len(set(value))} different characters; use a random text.")
    return value


def _host(host: str) -> str:
    if not re.fullmatch(r"[a-z0-9]([a-z0-9-]*[a-z0-9])?(\.[a-z0-9]([a-z0-9-]*[a-z0-9])?)*", host):
        raise ImproperlyConfigured(
            f"NAILWRIGHT_HOSTS holds '{host}': expected whole names such as fish.example.org, without scheme, port, star or a "
            "dot before them."
        )
    return host


SECRET_KEY = _varied(
    "NAILWRIGHT_SECRET_KEY",
    _needed("NAILWRIGHT_SECRET_KEY", "a random text of 50 characters or more, kept secret", 50),
    16,
)
ALLOWED_HOSTS = [
    _host(host.strip().lower())
    for host in _needed("NAILWRIGHT_HOSTS", "the host names, with commas between").split(",")
]
_varied(
    "NAILWRIGHT_DB_PASSWORD",
    _needed("NAILWRIGHT_DB_PASSWORD", "the password of the database account, 12 characters or more", 12),
    6,
)
if os.environ.get("NAILWRIGHT_DB_USER", "nailwright") in ("root", "mysql", "mariadb", ""):
    raise ImproperlyConfigured("NAILWRIGHT_DB_USER must be an account of this database's own, not the server's root.")

DEBUG = False
DEMO = False
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS]
SECURE_SSL_REDIRECT = True
if TRUSTED_PROXIES:  # else nobody stands between who could say so truly
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365
