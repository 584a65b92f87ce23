"""The token of a form that makes something: sent along, and used once."""

from __future__ import annotations

import secrets

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString

register = template.Library()


@register.simple_tag
def once() -> SafeString:
    """A hidden field with a fresh token."""
    return format_html('<input type="hidden" name="once" value="{}">', secrets.token_urlsafe(18))
