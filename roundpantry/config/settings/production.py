"""Behind TLS. PANTRY_HOSTS names the hosts, comma-separated."""

import os

from roundpantry.config.settings.base import *  # noqa: F403
from roundpantry.config.settings.base import secret_key

SECRET_KEY = secret_key()
ALLOWED_HOSTS = [host for host in os.environ.get("PANTRY_HOSTS", "").split(",") if host]
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS]
SECURE_SSL_REDIRECT = True
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = 31_536_000
SECURE_HSTS_INCLUDE_SUBDOMAINS = True
SECURE_HSTS_PRELOAD = True
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
