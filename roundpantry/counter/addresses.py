"""From where a request comes, as far as it can be believed."""

from __future__ import annotations

from django.conf import settings

from roundpantry.counter.requests import Request


def client_address(request: Request) -> str:
    """The address of whoever sent a request.

    Every proxy writes the address it was asked from behind what it was told (X-Forwarded-For). Of
    so many proxies as stand before the program (`PROXIES`), the outermost one's entry is the first
    that nobody outside can have written.
    """
    direct = str(request.META.get("REMOTE_ADDR", ""))
    told = [
        part.strip()
        for part in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",")
        if part.strip()
    ]
    return told[-settings.PROXIES] if 0 < settings.PROXIES <= len(told) else direct
