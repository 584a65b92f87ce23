"""A run as plain data, to be stored, and back."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import msgspec

from dietetics.json_shapes import shaped
from dietetics.prep.run import Run


def run_json(run: Run) -> dict[str, Any]:
    """The run as plain data."""
    data: dict[str, Any] = msgspec.to_builtins(run)
    return data


def run_of_json(data: Mapping[str, Any]) -> Run:
    """A run out of plain data. Raises DieteticsError `prep-unreadable`."""
    return shaped(dict(data), Run, "prep-unreadable")
