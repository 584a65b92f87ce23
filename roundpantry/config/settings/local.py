"""On one's own machine: plain HTTP on the loopback address."""

import os

from roundpantry.config.settings.base import *  # noqa: F403
from roundpantry.config.settings.base import secret_key

SECRET_KEY = secret_key()
ALLOWED_HOSTS = [
    "127.0.0.1",
    "localhost",
    *filter(None, os.environ.get("PANTRY_HOSTS", "").split(",")),
]
