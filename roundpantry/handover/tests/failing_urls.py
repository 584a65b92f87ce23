"""One address that fails, for the test of the headers of an error."""

from __future__ import annotations

from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, HttpResponse
from django.urls import path


@login_not_required
def fails(request: HttpRequest) -> HttpResponse:
    """Fail."""
    raise RuntimeError("a test fails on purpose")


urlpatterns = [path("fails/", fails)]
handler500 = "roundpantry.counter.views.failed"
