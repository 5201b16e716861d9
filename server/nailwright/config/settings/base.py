"""What every surrounding shares. The database comes from the environment that bin/start and bin/test set."""

import os
from pathlib import Path

from nailwright import __version__
from nailwright.common.address import read_networks

ROOT = Path(__file__).resolve().parents[4]
WEB_DIST = ROOT / "web" / "dist"

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "rest_framework",
    "drf_spectacular",
    "django_tasks",
    "django_tasks_db",
    "nailwright.programmes",
    "nailwright.jobs",
    "nailwright.waters",
    "nailwright.tags",
    "nailwright.deck",
    "nailwright.permits",
    "nailwright.returns",
    "nailwright.findings",
    "nailwright.records",
    "nailwright.plan",
    "nailwright.config",  # for its commands
]

MIDDLEWARE = [
    "nailwright.common.request_log.RequestLog",
    "nailwright.common.ours.Ours",
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",  # a deck of thousands of fish goes to a tablet over a thin signal
    "nailwright.common.database.DatabaseGuard",
    "nailwright.common.throttling.Room",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "nailwright.common.request_retries.Retries",
]

#: Proxies whose word about the sender's address is believed (common.address): none, where nothing is said.
TRUSTED_PROXIES = read_networks(os.environ.get("NAILWRIGHT_TRUSTED_PROXIES", ""))

# Nothing but our own: no script, style, font or connection from elsewhere, and nobody frames us.
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'self'"],
        # the Deck hears the instruments from a process of its own
        "connect-src": ["'self'", *filter(None, [os.environ.get("NAILWRIGHT_GATEWAY_URL", "").rstrip("/")])],
        "style-src": ["'self'", "'unsafe-inline'"],  # charts place their marks by style attributes
        "img-src": ["'self'", "data:", "blob:"],  # pictures are turned to PNG by way of a blob
        "object-src": ["'none'"],
        "base-uri": ["'self'"],
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
    }
}
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"

ROOT_URLCONF = "nailwright.config.urls"
WSGI_APPLICATION = "nailwright.config.wsgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]  # printed sheets

DB_TIMEOUT_S = os.environ.get("NAILWRIGHT_DB_TIMEOUT_S", "")
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
            "connect_timeout": 5,
            # A server waits so long for an answer (wsgi says how long); a worker's statements may take their time.
            **{name: int(DB_TIMEOUT_S) for name in ("read_timeout", "write_timeout") if DB_TIMEOUT_S},
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

AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 12}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {
        "NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator",
        "OPTIONS": {"user_attributes": ("username", "name", "email")},
    },
]
PASSWORD_RESET_TIMEOUT = 60 * 60 * 24

# Invitations and forgotten passwords go by mail where there is a mail server; else a lead hands the link over.
EMAIL_HOST = os.environ.get("NAILWRIGHT_MAIL_HOST", "")
EMAIL_PORT = int(os.environ.get("NAILWRIGHT_MAIL_PORT", "25"))
EMAIL_HOST_USER = os.environ.get("NAILWRIGHT_MAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("NAILWRIGHT_MAIL_PASSWORD", "")
EMAIL_USE_TLS = os.environ.get("NAILWRIGHT_MAIL_TLS", "") == "1"
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = os.environ.get("NAILWRIGHT_MAIL_FROM", "Nailwright <nailwright@localhost>")

SESSION_COOKIE_AGE = 60 * 60 * 24 * 30  # a tablet may be on a boat for weeks
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "nailwright.config.views.csrf_failure"
DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": [
        "rest_framework.authentication.SessionAuthentication",
        "nailwright.programmes.people.tokens.ByToken",
    ],
    "DEFAULT_PERMISSION_CLASSES": [
        "rest_framework.permissions.IsAuthenticated",
        "nailwright.programmes.people.tokens.WithinScope",
    ],
    "DEFAULT_RENDERER_CLASSES": ["nailwright.common.rendering.Json"],
    "DEFAULT_PARSER_CLASSES": ["nailwright.common.parsing.Body"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "nailwright.common.errors.handle",
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Nailwright",
    "DESCRIPTION": "Plan the outing, work the deck, follow every tag, and find out whether the population is healthy.",
    "VERSION": __version__,
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": True,
    "ENUM_NAME_OVERRIDES": {
        "TokenScopeEnum": "nailwright.programmes.models.ApiToken.Scope",
        "LengthTypeEnum": "nailwright_core.common.species_values.LENGTH_TYPES",
        "LengthUnitEnum": "nailwright.programmes.models.LENGTH_UNITS",
        "MassUnitEnum": "nailwright.programmes.models.MASS_UNITS",
        "DateLanguageEnum": "nailwright.programmes.models.DATE_LANGUAGES",
        "OutingStateEnum": "nailwright.deck.models.Outing.State",
        "OperationStateEnum": "nailwright.programmes.record.receiving.STATES",
        "AllowanceWhatEnum": "nailwright.permits.models.Allowance.What",
        "TargetWhatEnum": "nailwright.deck.models.Target.What",
        "JobStateEnum": "nailwright.jobs.models.Job.State",
        "ImportStateEnum": "nailwright.records.models.Import.State",
        "FieldKindEnum": "nailwright.common.field_shapes.KINDS",
        "SeasonKindEnum": "nailwright.plan.models.Season.Kind",
        "PermitKindEnum": "nailwright.permits.models.Permit.Kind",
        "ZoneKindEnum": "nailwright.waters.models.Zone.Kind",
        "WaterKindEnum": "nailwright.waters.models.Water.Kind",
        "ChecklistEnum": "nailwright.deck.outing.checklists.CODES",
        "GearEnum": "nailwright.deck.models.Gear",
        "TagStateEnum": "nailwright.tags.models.TagState",
        "ReturnStateEnum": "nailwright.returns.models.Return.State",
        "ReturnDecisionEnum": "nailwright.returns.deciding.DECISIONS",
        "AnswerStateEnum": "nailwright.returns.serializers.ANSWER_STATES",
        "ReturnChannelEnum": "nailwright.returns.models.Return.Channel",
        "CardChannelEnum": "nailwright.returns.models.Card.Channel",
        "BleedingEnum": "nailwright.returns.models.Card.Bleeding",
        "ToldByEnum": "nailwright.returns.serializers.TOLD_BY",
        "TagKindEnum": "nailwright.tags.models.TagKind",
        "PlannedTagKindEnum": "nailwright_core.plan.parts.TAG_KINDS",
        "EncounterKindEnum": "nailwright.tags.models.Encounter.Kind",
        "DispositionEnum": "nailwright.tags.models.Encounter.Disposition",
    },
}

#: Threads of each process of the server, as gunicorn is told (bin/start, deploy).
THREADS = int(os.environ.get("NAILWRIGHT_THREADS", "32"))
# Findings, exports and the like in each process of a server (common.room): so many at once, so many waiting, for so long. A quarter of
# the threads is left to tablets whatever happens (bin/bench crowd).
HEAVY_AT_ONCE = 2
HEAVY_WAITING = max(2, 3 * THREADS // 4 - HEAVY_AT_ONCE)
HEAVY_WAIT_S = 10

# One JSON object a line: to the file that NAILWRIGHT_LOG names, or else to standard error.
LOG_FILE = os.environ.get("NAILWRIGHT_LOG", "")
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"in_request": {"()": "nailwright.common.request_log.InRequest"}},
    "formatters": {
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "format": "%(levelname)s %(name)s %(message)s %(request_id)s",
            "rename_fields": {"levelname": "level", "name": "logger"},
            "timestamp": "at",
        }
    },
    "handlers": {
        "out": {
            "formatter": "json",
            "filters": ["in_request"],
            **(
                {"class": "logging.handlers.WatchedFileHandler", "filename": LOG_FILE}
                if LOG_FILE
                else {"class": "logging.StreamHandler"}
            ),
        }
    },
    "root": {"handlers": ["out"], "level": "WARNING"},
    "loggers": {
        "nailwright": {"level": "INFO"},
        "django": {"handlers": [], "propagate": True},
        "django.request": {"level": "ERROR"},  # every refusal has its line among the requests already
    },
}

# Long work waits in the database for a worker: manage.py db_worker.
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}

# An upload is cut off where it grows too large; the rest is read and dropped, so that the refusal reaches its sender.
MAX_UPLOAD_BYTES = 64 * 1024 * 1024
FILE_UPLOAD_HANDLERS = [
    "nailwright.common.uploads.BoundedUpload",
    "django.core.files.uploadhandler.MemoryFileUploadHandler",
    "django.core.files.uploadhandler.TemporaryFileUploadHandler",
]

#: Offers each role by one touch; only where the data are made up.
DEMO = False
