"""Which version of the program this is. It is written in one place: `pyproject.toml`."""

from __future__ import annotations

import tomllib
from functools import cache

from django.conf import settings


@cache
def program_version() -> str:
    """The version of the program, as three numbers: "0.2.0"."""
    text = (settings.BASE_DIR / "pyproject.toml").read_text(encoding="utf-8")
    return str(tomllib.loads(text)["project"]["version"])
