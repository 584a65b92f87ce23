"""For the tests and the benchmark: a database in memory, quick password hashing, no manifest of static files."""

from roundpantry.config.settings.base import *  # noqa: F403
from roundpantry.config.settings.base import DATABASES, LOGGING, STORAGES

SECRET_KEY = "for tests only, never served"
ALLOWED_HOSTS = ["testserver", "127.0.0.1", "localhost"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
DATABASES["default"]["NAME"] = ":memory:"
DATABASES["default"]["CONN_MAX_AGE"] = 0
STORAGES["staticfiles"] = {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}
SEARCH_IN = "here"
LOGGING["root"]["handlers"] = ["terminal"]
AXES_ENABLED = False  # tests log in without a request; those of the lock-out switch it on
