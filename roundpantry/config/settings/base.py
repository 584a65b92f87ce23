"""What is true of every way of running the program."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any
from zoneinfo import available_timezones

from csp.constants import NONE, SELF
from django.core.exceptions import ImproperlyConfigured
from tzlocal import get_localzone_name

BASE_DIR = Path(__file__).resolve().parents[3]
HOME = Path(os.environ.get("PANTRY_HOME", Path.home() / ".local" / "share" / "round-pantry"))

DEBUG = False
ALLOWED_HOSTS: list[str] = []

INSTALLED_APPS = [
    "roundpantry.counter",  # first: its createsuperuser stands in for Django's
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "whitenoise.runserver_nostatic",
    "django.contrib.staticfiles",
    "csp",
    "django_htmx",
    "roundpantry.clients",
    "roundpantry.targets",
    "roundpantry.shelf",
    "roundpantry.batches",
    "roundpantry.bowls",
    "roundpantry.compare",
    "roundpantry.weeks",
    "roundpantry.prep",
    "roundpantry.handover",
    "roundpantry.shopping",
    "roundpantry.follow",
    "roundpantry.starter",
    "roundpantry.today",
    "roundpantry.demo",
]

MIDDLEWARE = [
    "roundpantry.config.middleware.SameHeaders",
    "roundpantry.config.middleware.NamedRequests",
    "roundpantry.config.middleware.LoginFlood",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "roundpantry.config.middleware.ReadableRequests",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "roundpantry.config.middleware.NotKept",
    "django.contrib.auth.middleware.LoginRequiredMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django_htmx.middleware.HtmxMiddleware",
    "roundpantry.config.middleware.VaryOnHtmx",
    "roundpantry.config.middleware.ReadOnce",
    "roundpantry.config.display.PractitionersUnits",
    "roundpantry.weeks.unreadable.UnreadableWeeks",
    "roundpantry.config.middleware.FormsSentOnce",
]

AUTHENTICATION_BACKENDS = ["django.contrib.auth.backends.ModelBackend"]
PROXIES = int(os.environ.get("PANTRY_PROXIES", "0"))  # that stand before the program

ROOT_URLCONF = "roundpantry.config.urls"
WSGI_APPLICATION = "roundpantry.config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "roundpantry.clients.context.counter",
                "roundpantry.counter.keys.keys",
            ],
        },
    },
]

# WAL and IMMEDIATE transactions: eight writers that read and then write never see "database is
# locked". synchronous=FULL: what a page said was stored is on the disk, and outlives a power cut;
# with NORMAL the last changes may go. secure_delete=ON: what is deleted is overwritten; a client
# who was erased is not found in the free pages of the file.
DATABASES: dict[str, Any] = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": HOME / os.environ.get("PANTRY_DATABASE", "pantry.sqlite3"),
        "CONN_MAX_AGE": None,
        "OPTIONS": {
            "timeout": 20,
            "transaction_mode": "IMMEDIATE",
            "init_command": (
                "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA "
                "secure_delete=ON; PRAGMA foreign_keys=ON;"
            ),
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_PASSWORD_VALIDATORS = [
    {
        "NAME": "django.contrib.auth.password_validation.MinimumLengthValidator",
        "OPTIONS": {"min_length": 10},
    },
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.NumericPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]
LOGIN_URL = "login"
POSTBOX = "roundpantry.handover.outbox.SimulatedOutbox"
AFTER_RESTORE = "roundpantry.handover.closed_links.close_after_restore"
LOGIN_REDIRECT_URL = "today:today"
LOGOUT_REDIRECT_URL = "login"

LANGUAGE_CODE = "en"
# A practice's day begins at its own midnight, not at Greenwich's. Practitioners may choose another.
TIME_ZONE = (os.environ.get("PANTRY_ZONE") or get_localzone_name()).replace("Etc/UTC", "UTC")
if TIME_ZONE not in available_timezones():
    raise ImproperlyConfigured(
        f"PANTRY_ZONE: “{TIME_ZONE}” is no time zone. One is written like Europe/Lisbon."
    )
USE_I18N = False
USE_TZ = True

STATIC_URL = "static/"
STATIC_ROOT = BASE_DIR / "staticfiles"
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "roundpantry.config.storage.HashedStaticFiles"},
}

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "img-src": [SELF, "data:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
    }
}
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
DATA_UPLOAD_MAX_MEMORY_SIZE = 1_000_000
DATA_UPLOAD_MAX_NUMBER_FIELDS = 10_000  # the favourites of a client with hundreds of dishes


def secret_key() -> str:
    """The key of this machine, from the environment or the file that `./pantry` made in the home
    folder.
    """
    given = os.environ.get("PANTRY_SECRET_KEY")
    return given if given else (HOME / "secret_key").read_text(encoding="utf-8").strip()


# To the terminal, and to a file that is cut at two megabytes. No personal data: see logs.py.
LOGGING: dict[str, Any] = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"without-words": {"()": "roundpantry.config.logs.WithoutWords"}},
    "handlers": {
        "terminal": {"class": "logging.StreamHandler", "formatter": "without-words",
        "level": "WARNING"},
        "file": {
            "class": "logging.handlers.RotatingFileHandler", "formatter": "without-words",
            "level": "WARNING",
            "filename": HOME / "pantry.log", "maxBytes": 2_000_000, "backupCount": 3, "delay": True,
            "encoding": "utf-8",
        },
    },
    "root": {"handlers": ["terminal", "file"], "level": "WARNING"},
    "loggers": {
        "django": {"handlers": [], "level": "WARNING", "propagate": True},
        "django.request": {"level": "ERROR"},  # a page not found is nobody's fault
        # a bad request is refused, and is no fault of the program
        "django.security": {"level": "CRITICAL"},
    },
}  # fmt: skip

HURRIED = False  # tests: no refused login is answered slowly
# Where a search for a better week runs: in a process of its own, in a thread, or at once ("here").
SEARCH_IN = "process"
