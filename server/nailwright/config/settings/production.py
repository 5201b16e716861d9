"""Running it for real: everything from the environment, and refused where it would be unsafe."""

import os

from django.core.exceptions import ImproperlyConfigured

from nailwright.config.settings.base import *  # noqa: F403


def _needed(name: str, hint: str, shortest: int = 1) -> str:
    value = os.environ.get(name, "")
    if len(value) < shortest:
        raise ImproperlyConfigured(f"Set {name}: {hint}; got {len(value)} characters.")
    return value


SECRET_KEY = _needed("NAILWRIGHT_SECRET_KEY", "a random text of 50 characters or more, kept secret", 50)
ALLOWED_HOSTS = [host.strip() for host in _needed("NAILWRIGHT_HOSTS", "the host names, with commas between").split(",")]
if "*" in ALLOWED_HOSTS:
    raise ImproperlyConfigured("NAILWRIGHT_HOSTS must name its hosts; '*' would answer to any.")
_needed("NAILWRIGHT_DB_PASSWORD", "the password of the database account, 12 characters or more", 12)

DEBUG = False
DEMO = False
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS]
SECURE_SSL_REDIRECT = True
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 12}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]
