"""For the tests and the benchmark: quick password hashing, no manifest of static files.

The tests run on a file, as a practice does, and not in memory: threads of a live server would share
the one connection of a database in memory, and so one transaction, which no practice ever does. The
benchmark stays in memory.
"""

import atexit
import tempfile
from pathlib import Path
from typing import Any

from roundpantry.config.settings.base import *  # noqa: F403
from roundpantry.config.settings.base import DATABASES, LOGGING, STORAGES

SECRET_KEY = "for tests only, never served"
ALLOWED_HOSTS = ["testserver", "127.0.0.1", "localhost"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
default: dict[str, Any] = DATABASES["default"]
default["NAME"] = ":memory:"
default["CONN_MAX_AGE"] = 0
_folder = tempfile.TemporaryDirectory(prefix="pantry-tests-")
atexit.register(_folder.cleanup)
HOME = Path(_folder.name)  # nothing of a test reaches the home of whoever runs it
default["TEST"] = {"NAME": f"{_folder.name}/tests.sqlite3"}
# Parallel tests copy the file, so nothing may be left waiting in the log beside it; a power cut
# ends a test run anyway.
default["OPTIONS"]["init_command"] += "PRAGMA wal_autocheckpoint=1; PRAGMA synchronous=OFF;"
STORAGES["staticfiles"] = {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}
WHITENOISE_AUTOREFRESH = True  # no list of all files for every test's client
SEARCH_IN = "here"
HURRIED = True
LOGGING["root"]["handlers"] = ["terminal"]
