"""A request as it reaches a view: logged in, and marked by the middleware."""

from __future__ import annotations

from typing import Any

from django import forms
from django.contrib.auth.models import User
from django.http import HttpRequest, QueryDict
from django.utils.http import url_has_allowed_host_and_scheme
from django_htmx.middleware import HtmxDetails


def name_of(user: User) -> str:
    """Who somebody is on notes and prints: their name, or their username where none is given."""
    return user.get_full_name() or user.get_username()


class Request(HttpRequest):
    """What the views are given. The middleware sets these; none is ever made of this class.

    `name` is the number of the request in the log; `whose` the client of the page, once found,
    and `working_with` the one that is worked with, where that is somebody else.
    """

    user: User
    htmx: HtmxDetails
    name: str
    whose: Any
    working_with: Any


def posted(request: HttpRequest) -> QueryDict | None:
    """What a form is bound to: what was sent, even an empty body; None when a page is opened."""
    return request.POST if request.method == "POST" else None


class ThenForm(forms.Form):
    """The page that a button stood on."""

    then = forms.CharField(required=False, max_length=200)


def page_it_stood_on(request: HttpRequest) -> str:
    """The page that a button stood on, where that is one of ours; "" for any other."""
    form = ThenForm(request.POST)
    then = form.cleaned_data["then"] if form.is_valid() else ""
    ours = url_has_allowed_host_and_scheme(then, allowed_hosts=None) and then.startswith("/")
    return then if ours else ""
