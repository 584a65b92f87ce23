"""The form of the first login, and a field for numbers with either decimal mark."""

from __future__ import annotations

from datetime import date
from typing import Any

from django import forms
from django.contrib.auth import get_user_model
from django.contrib.auth.forms import UserCreationForm

from roundpantry.counter.first_run import is_the_code
from roundpantry.counter.typed_numbers import decimal, whole


class NumberField(forms.FloatField):
    """A number with a point, or with a comma before one or two figures; a comma that may part
    thousands is refused.
    """

    default_error_messages = {
        "invalid": "Not understood. Enter a number, for example 1740 or 65.1.",
    }

    def to_python(self, value: Any) -> Any:
        """Read what was typed."""
        text = str(value or "").strip()
        read = decimal(text)
        return super().to_python(text if read is None else read)


class DayField(forms.DateField):
    """A day of somebody's life: further off, a year is typed wrong."""

    FIRST, LAST = date(1900, 1, 1), date(2199, 12, 31)

    def validate(self, value: date | None) -> None:
        """Refuse a day before 1900 or after 2199."""
        super().validate(value)
        if value is not None and not self.FIRST <= value <= self.LAST:
            raise forms.ValidationError(
                f"The year {value.year} cannot be right. Write it like 2026-11-20."
            )


class WholeField(forms.Field):
    """A whole number within bounds, as it was typed."""

    def __init__(self, least: int, most: int, **kwargs: Any) -> None:
        super().__init__(**kwargs)
        self.least, self.most = least, most

    def to_python(self, value: Any) -> int | None:
        """Read what was typed; nothing is None."""
        text = str(value or "").strip()
        if not text:
            return None
        read = whole(text, self.least, self.most)
        if read is None:
            raise forms.ValidationError(
                f"“{text[:40]}” was not understood: enter a whole number from {self.least} to "
                f"{self.most}."
            )
        return read


class ReasonForm(forms.Form):
    """A reason for proceeding in spite of a caution, which is named by its key."""

    key = forms.CharField(max_length=120)
    reason = forms.CharField(
        max_length=400,
        error_messages={
            "required": "give a reason for proceeding.",
            "max_length": "the reason is too long; keep it under 400 characters.",
        },
    )

    def problem(self) -> str:
        """What is wrong with the reason, in a sentence."""
        return f"Not saved: {self.errors.get('reason', ['the caution is not named.'])[0]}"


def problem_of(form: forms.Form) -> str:
    """Everything that is wrong with a form, in one line: each field by its name."""
    return " ".join(
        f"{form.fields[name].label or name}: {text}" if name in form.fields else str(text)
        for name, errors in form.errors.items()
        for text in errors
    )


class FirstLoginForm(UserCreationForm):  # type: ignore[type-arg]  # no generic when run
    """A name and a password of one's own, and the code from the server's terminal."""

    code = forms.CharField(
        max_length=40,
        label="Code",
        help_text="The server printed it where it was started with ./pantry serve.",
    )
    first_name = forms.CharField(
        max_length=80,
        required=False,
        label="Your name",
        help_text="Shown on notes and printed pages.",
    )

    class Meta:
        model = get_user_model()
        fields = ("username", "first_name")

    field_order = ("code", "first_name", "username", "password1", "password2")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["username"].label, self.fields["username"].help_text = "Username", ""
        self.fields[
            "password1"
        ].help_text = "At least 10 characters, not a common password and not your name."
        self.fields["password2"].label, self.fields["password2"].help_text = (
            "Repeat the password",
            "",
        )

    def clean_code(self) -> str:
        """Refuse any other code."""
        code: str = self.cleaned_data["code"]
        if not is_the_code(code):
            raise forms.ValidationError("This is not the code that the server printed.")
        return code
