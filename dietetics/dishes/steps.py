"""Times and temperatures in the steps of a recipe, recognised and kept with the words they stand
in.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from dietetics.amounts.tokens import clean
from dietetics.untrusted_input import without_endless_numbers

_TIME = re.compile(
    r"(?P<low>\d+(?:\.\d+)?)(?:\s*(?:-|–|to)\s*(?P<high>\d+(?:\.\d+)?))?\s*(?P<unit>hours?|hrs?"
    r"|h|minutes?|mins?|min|days?)\b",
    re.IGNORECASE,
)
_HEAT = re.compile(
    r"(?P<value>\d{2,3})\s*(?:°|degrees?)?\s*(?P<unit>celsius|fahrenheit|c|f)\b", re.IGNORECASE
)
_WORDS = (
    ("overnight", 480.0),
    ("half an hour", 30.0),
    ("an hour", 60.0),
    ("one hour", 60.0),
)
_NUMBER_WORDS = dict(
    zip(
        [
            "two",
            "three",
            "four",
            "five",
            "six",
            "seven",
            "eight",
            "nine",
            "ten",
            "twelve",
            "fifteen",
            "twenty",
            "thirty",
            "forty",
        ],
        (2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 15, 20, 30, 40),
        strict=True,
    )
)
_WORDED = re.compile(rf"\b({'|'.join(_NUMBER_WORDS)})(?= (?:more )?(?:minutes?|mins?|hours?)\b)")
_MINUTES = {"h": 60.0, "d": 1440.0, "m": 1.0}


@dataclass(frozen=True)
class Step:
    """A step as written, with the minutes it takes (low, high) and the oven in °C, where it
    says.
    """

    text: str
    minutes: tuple[float, float] | None
    celsius: float | None

    def words(self) -> str:
        """The recognised things in words: "25–30 min · 200 °C"."""
        found = []
        if self.minutes is not None:
            low, high = self.minutes
            if low >= 480:
                found.append("overnight" if low < 1440 else f"{low / 1440:g} d")
            else:
                found.append(f"{low:g} min" if low == high else f"{low:g}–{high:g} min")
        if self.celsius is not None:
            found.append(f"{self.celsius:.0f} °C")
        return " · ".join(found)


def read_step(text: str) -> Step:
    """Recognise the times and the temperature of one step; several times add up."""
    plain = clean(without_endless_numbers(text)).lower()
    plain = _WORDED.sub(lambda match: str(_NUMBER_WORDS[match[1]]), plain)
    low = high = 0.0
    for match in _TIME.finditer(plain):
        per = _MINUTES["h" if match["unit"][0] == "h" else match["unit"][0]]
        low += float(match["low"]) * per
        high += float(match["high"] or match["low"]) * per
    for words, minutes in _WORDS:
        if words in plain and not (low and words.endswith("hour")):
            low, high = low + minutes, high + minutes
            break
    heat = _HEAT.search(plain)
    celsius = None
    if heat is not None:
        value = float(heat["value"])
        celsius = value if heat["unit"][0] == "c" else round((value - 32) / 1.8 / 5) * 5.0
        celsius = celsius if 30 <= celsius <= 300 else None
    return Step(text, (low, high) if low else None, celsius)
