"""What every surrounding shares. The database comes from the environment that bin/start and bin/test set."""

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parents[4]
WEB_DIST = ROOT / "web" / "dist"

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "rest_framework",
    "drf_spectacular",
    "nailwright.programmes",
    "nailwright.tags",
    "nailwright.deck",
    "nailwright.findings",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]

ROOT_URLCONF = "nailwright.config.urls"
WSGI_APPLICATION = "nailwright.config.wsgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates"}]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("NAILWRIGHT_DB_NAME", "nailwright"),
        "USER": os.environ.get("NAILWRIGHT_DB_USER", "nailwright"),
        "PASSWORD": os.environ.get("NAILWRIGHT_DB_PASSWORD", ""),
        "HOST": os.environ.get("NAILWRIGHT_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("NAILWRIGHT_DB_PORT", "3306"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            # Strict mode: the database refuses what does not fit instead of storing something else.
            "init_command": "SET sql_mode='STRICT_ALL_TABLES', innodb_strict_mode=1",
            "isolation_level": "read committed",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_USER_MODEL = "programmes.Person"

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"

STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.is_dir() else None
WHITENOISE_INDEX_FILE = True
WHITENOISE_MIMETYPES = {".webmanifest": "application/manifest+json"}
# Vite names its assets by their content.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[A-Za-z0-9_-]{8}\.[a-z0-9]+$"

SESSION_COOKIE_AGE = 60 * 60 * 24 * 30  # a tablet may be on a boat for weeks
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "nailwright.config.views.csrf_failure"
DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["rest_framework.authentication.SessionAuthentication"],
    "DEFAULT_PERMISSION_CLASSES": ["rest_framework.permissions.IsAuthenticated"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["rest_framework.parsers.JSONParser"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "nailwright.config.errors.handle",
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Nailwright",
    "DESCRIPTION": "Plan the outing, work the deck, follow every tag, and find out whether the population is healthy.",
    "VERSION": "1",
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": True,
    "ENUM_NAME_OVERRIDES": {
        "OutingStateEnum": "nailwright.deck.models.Outing.State",
        "OperationStateEnum": "nailwright.deck.sync.STATES",
        "OperationKindEnum": "nailwright.deck.sync.KINDS",
        "TargetWhatEnum": "nailwright.deck.models.Target.What",
        "TagKindEnum": "nailwright.tags.models.Tag.Kind",
    },
}

#: Offers each role by one touch; only where the data are made up.
DEMO = False
