"""Work that takes a second or more inside a request: a few at once, a few waiting, the rest asked
to come back, so that a page that only shows something is never kept waiting.
"""

from __future__ import annotations

import os
from collections.abc import Callable
from functools import wraps
from threading import BoundedSemaphore
from typing import Concatenate, ParamSpec

from django.http import HttpResponse
from django.shortcuts import render

from roundpantry.counter.requests import Request

MOST_WAITING, WAIT_SECONDS = 2, 12.0
_PLACES = BoundedSemaphore(max(1, (os.cpu_count() or 2) - 1))
_WAITING = BoundedSemaphore(MOST_WAITING)
Given = ParamSpec("Given")
View = Callable[Concatenate[Request, Given], HttpResponse]


def few_at_once(view: View[Given]) -> View[Given]:
    """Answer with this view when one of the places is free: one core less than there are. Two wait
    for a place; whoever comes then is told so with a 503, and nothing was changed.
    """

    @wraps(view)
    def answered(request: Request, /, *args: Given.args, **kwargs: Given.kwargs) -> HttpResponse:
        if not _place():
            answer = render(request, "counter/busy.html", status=503)
            answer["Retry-After"] = "5"
            return answer
        try:
            return view(request, *args, **kwargs)
        finally:
            _PLACES.release()

    return answered


def few_uploads_at_once(view: View[Given]) -> View[Given]:
    """As `few_at_once`, where a file is sent along; the page itself is never kept waiting."""
    bounded = few_at_once(view)

    @wraps(view)
    def answered(request: Request, /, *args: Given.args, **kwargs: Given.kwargs) -> HttpResponse:
        return (bounded if request.FILES else view)(request, *args, **kwargs)

    return answered


def _place() -> bool:
    """Take a place, now or after waiting for one."""
    if _PLACES.acquire(blocking=False):
        return True
    if not _WAITING.acquire(blocking=False):
        return False
    try:
        return _PLACES.acquire(timeout=WAIT_SECONDS)
    finally:
        _WAITING.release()
