"""Plain numbers as they are typed into a field or sent by a page: read whole, or not at all."""

from __future__ import annotations

import math
import re

WHOLE = re.compile(r"[-−]?[0-9]{1,12}", re.ASCII)
# A comma before three figures may stand for thousands: not read, rather than read wrongly.
DECIMAL = re.compile(r"[-−]?([0-9]{1,12}(\.[0-9]{0,12}|,[0-9]{1,2})?|\.[0-9]{1,12})", re.ASCII)
MOST_KEY = 10**12  # more than any table will hold, and well within what the database takes


def whole(text: str | None, least: int = 0, most: int = MOST_KEY) -> int | None:
    """The whole number that was typed; None where it is none, or below `least`, or above `most`."""
    if not WHOLE.fullmatch((text or "").strip()):
        return None
    value = int((text or "").strip().replace("−", "-"))
    return value if least <= value <= most else None


def row_number(text: str | None) -> int:
    """The number of a stored row as a page sends it; 0, which no row has, where it is none."""
    return whole(text) or 0


def decimal(text: str | None, least: float = -math.inf, most: float = math.inf) -> float | None:
    """The number that was typed, with a point, or a comma before one or two figures; None where it
    is none or lies outside.
    """
    if not DECIMAL.fullmatch((text or "").strip()):
        return None
    value = float((text or "").strip().replace("−", "-").replace(",", "."))
    return value if least <= value <= most else None
