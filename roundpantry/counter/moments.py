"""The moment at which a row was made or last stored, by the program's own clock."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING, Any

from django.db import models

from roundpantry.counter import clock

if TYPE_CHECKING:
    DjangosField = models.DateTimeField[Any, datetime]
else:
    DjangosField = models.DateTimeField  # not generic while it runs


class MomentField(DjangosField):
    """Django's field for moments that are written by themselves, asking `clock` instead of the
    machine. Use it with `auto_now_add` or `auto_now`, which mean what they always mean.
    """

    def pre_save(self, model_instance: models.Model, add: bool) -> Any:
        """The moment that is stored."""
        if not (self.auto_now or (self.auto_now_add and add)):
            return super().pre_save(model_instance, add)
        moment = clock.now()
        setattr(model_instance, self.attname, moment)
        return moment

    def deconstruct(self) -> Any:
        """For a migration it is Django's own field: the table is the same."""
        name, _, args, kwargs = super().deconstruct()
        return name, "django.db.models.DateTimeField", args, kwargs
