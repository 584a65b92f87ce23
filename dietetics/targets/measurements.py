"""Height and weight as people say them: "165", "1.65 m", "5 ft 5", "5'5\\"", "154 lb", "11 st
3".
"""

from __future__ import annotations

import re

from dietetics.errors import DieteticsError
from dietetics.untrusted_input import MOST_LINE, readable

CM_PER_INCH, KG_PER_LB = 2.54, 0.45359237
INCHES_PER_FOOT, LB_PER_STONE = 12.0, 14.0
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


def _in_parts(text: str, large: float, small: float, each: float, names: tuple[str, str]) -> float:
    """A measure in two parts (stone and pounds, feet and inches) as one number of the smaller.
    Raises DieteticsError `measurement-parts` for pounds that are a stone or more, and for a part of
    a stone with pounds behind it.
    """
    if small >= each or (small and large % 1):
        raise DieteticsError(
            "measurement-parts", text=text, small=names[1], large=names[0], each=f"{each:g}"
        )
    return large * each + small


def kg_of_stone(stone: str, pounds: str | None, text: str) -> float:
    """Kilograms of a weight in stone and pounds, of which `text` was typed. Raises DieteticsError
    `measurement-parts`, as for 11 st 99.
    """
    names = ("stone", "pounds")
    return _in_parts(text, _figure(stone), _figure(pounds), LB_PER_STONE, names) * KG_PER_LB


def _plain(text: str) -> str:
    return (
        readable(text, MOST_LINE)
        .strip()
        .lower()
        .replace("’", "'")
        .replace("″", '"')
        .replace("′", "'")
        .replace("”", '"')
    )


def _measured(text: str, units: dict[str, float], name: str) -> float:
    match = re.match(rf"^{_NUMBER}\s*([a-z\"]*)\.?$", _plain(text))
    if match is None or match[2] not in units:
        raise DieteticsError("measurement-unreadable", text=text, name=name)
    return _figure(match[1]) * units[match[2]]


def read_height_cm(text: str) -> float:
    """Height in cm. A bare number is cm. Raises DieteticsError `measurement-unreadable`,
    or `measurement-parts` for 5 ft 15.

    >>> round(read_height_cm("5 ft 5"), 1)  # 65 inches of 2.54 cm
    165.1
    """
    feet = _FEET.match(_plain(text))
    if feet:
        parts = (_figure(feet[1]), _figure(feet[2]))
        return _in_parts(text, *parts, INCHES_PER_FOOT, ("foot", "inches")) * CM_PER_INCH
    return _measured(text, _HEIGHTS, "height (165, 1.65 m, 5 ft 5)")


def read_weight_kg(text: str) -> float:
    """Weight in kg. A bare number is kg. Raises DieteticsError `measurement-unreadable`,
    or `measurement-parts` for 11 st 99.

    >>> round(read_weight_kg("11 st 3"), 1)  # 157 pounds of 0.4536 kg
    71.2
    """
    stone = _STONE.match(_plain(text))
    if stone:
        return kg_of_stone(stone[1], stone[2], text)
    return _measured(text, _WEIGHTS, "weight (70, 154 lb, 11 st 3)")
