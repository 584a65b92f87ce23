"""Height and weight as people say them: "165", "1.65 m", "5 ft 5", "5'5\\"", "154 lb", "11 st
3".
"""

from __future__ import annotations

import re

from dietetics.errors import DieteticsError

CM_PER_INCH, KG_PER_LB, LB_PER_STONE = 2.54, 0.45359237, 14.0
_NUMBER = r"(\d+(?:[.,]\d+)?)"
_FEET = re.compile(
    rf"^{_NUMBER}\s*(?:ft|feet|foot|')\s*(?:{_NUMBER}\s*(?:in|inch|inches|\"|'')?)?$"
)
_STONE = re.compile(rf"^{_NUMBER}\s*(?:st|stone|stones)\s*(?:{_NUMBER}\s*(?:lb|lbs|pounds?)?)?$")
_HEIGHTS = {
    "": 1.0,
    "cm": 1.0,
    "m": 100.0,
    "in": CM_PER_INCH,
    "inch": CM_PER_INCH,
    "inches": CM_PER_INCH,
    '"': CM_PER_INCH,
}
_WEIGHTS = {"": 1.0, "kg": 1.0, "kilo": 1.0, "kilos": 1.0, "g": 0.001, "lb": KG_PER_LB,
    "lbs": KG_PER_LB, "pound": KG_PER_LB,
            "pounds": KG_PER_LB}  # fmt: skip


def _figure(text: str | None) -> float:
    return float(text.replace(",", ".")) if text else 0.0


def _plain(text: str) -> str:
    return (
        text.strip().lower().replace("’", "'").replace("″", '"').replace("′", "'").replace("”", '"')
    )


def _measured(text: str, units: dict[str, float], name: str) -> float:
    match = re.match(rf"^{_NUMBER}\s*([a-z\"]*)\.?$", _plain(text))
    if match is None or match[2] not in units:
        raise DieteticsError("measurement-unreadable", text=text, name=name)
    return _figure(match[1]) * units[match[2]]


def read_height_cm(text: str) -> float:
    """Height in cm. A bare number is cm. Raises DieteticsError `measurement-unreadable`.

    >>> round(read_height_cm("5 ft 5"), 1)  # 65 inches of 2.54 cm
    165.1
    """
    feet = _FEET.match(_plain(text))
    if feet:
        return (_figure(feet[1]) * 12 + _figure(feet[2])) * CM_PER_INCH
    return _measured(text, _HEIGHTS, "height (165, 1.65 m, 5 ft 5)")


def read_weight_kg(text: str) -> float:
    """Weight in kg. A bare number is kg. Raises DieteticsError `measurement-unreadable`.

    >>> round(read_weight_kg("11 st 3"), 1)  # 157 pounds of 0.4536 kg
    71.2
    """
    stone = _STONE.match(_plain(text))
    if stone:
        return (_figure(stone[1]) * LB_PER_STONE + _figure(stone[2])) * KG_PER_LB
    return _measured(text, _WEIGHTS, "weight (70, 154 lb, 11 st 3)")
