"""JSON from outside, held against a shape: a msgspec type says which fields there may be and what
each may hold, and what does not fit is told in words, with its place.
"""

from __future__ import annotations

import math
import re
from typing import Any, TypeVar

from msgspec import ValidationError, convert

from dietetics.errors import DieteticsError

Shape = TypeVar("Shape")
_TYPE_WORDS = {
    "float": "a number", "int": "a whole number", "str": "text", "array": "a list",
    "object": "an object", "bool": "true or false", "null": "nothing (null)",
}  # fmt: skip


def shaped(value: Any, shape: type[Shape], code: str) -> Shape:
    """The value as its shape has it. Raises DieteticsError with this `code` and the `problem`."""
    try:
        return convert(_tidied(value), shape)
    except ValidationError as error:
        raise DieteticsError(code, problem=plain_problem(error)) from None


def _tidied(value: Any) -> Any:
    """Numbers like 3.0 as 3, so that they may stand where a whole number is asked for; texts
    without white space around them.
    """
    if isinstance(value, str):
        return value.strip()
    if isinstance(value, float) and math.isfinite(value) and value.is_integer():
        return int(value)
    if isinstance(value, dict):
        return {key: _tidied(one) for key, one in value.items()}
    return [_tidied(one) for one in value] if isinstance(value, list) else value


def _type_words(found: re.Match[str]) -> str:
    return " or ".join(_TYPE_WORDS.get(one, f"“{one}”") for one in found[1].split(" | "))


def plain_problem(error: ValidationError) -> str:
    """What is wrong with a value and where it stands, in words.

    >>> plain_problem(ValidationError("Expected `int`, got `str` - at `$.dishes[0].liking`"))
    'dishes[0].liking: expected a whole number, got text'
    """
    what, _, where = str(error).partition(" - at `$")
    what = what.replace("Object contains unknown field", "there is no field")
    what = re.sub(r"Expected `str` matching regex .*", "must not be empty", what)
    what = re.sub("`([^`]+)`", _type_words, what)
    place = where.rstrip("`").lstrip(".")
    return f"{place}: {what[0].lower()}{what[1:]}" if place else f"{what[0].lower()}{what[1:]}"
