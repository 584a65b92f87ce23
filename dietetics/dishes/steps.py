"""Times and temperatures in the steps of a recipe, recognised and kept with the words they stand
in.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from dietetics.amounts.number_words import ONE_OF_WHOLE, WHOLE
from dietetics.amounts.tokens import clean
from dietetics.untrusted_input import readable

_NUMBER = r"(?:\d+ )?\d+/\d+|\d+(?:\.\d+)?"  # 25, 1.5, 1/2, 1 1/2
_TIME = re.compile(
    rf"(?P<low>{_NUMBER})(?:\s*(?:-|–|to)\s*(?P<high>{_NUMBER}))?\s*(?:more )?"
    r"(?P<unit>hours?|hrs?|h|minutes?|mins?|min|days?|seconds?|secs?)\b"
    rf"(?:,? (?:or )?(?:and )?up to (?P<most>{_NUMBER})\s*"
    r"(?P<most_unit>hours?|hrs?|h|minutes?|mins?|min|days?)\b)?",
    re.IGNORECASE,
)
_HEAT = re.compile(
    r"(?P<value>\d{2,3})\s*(?:°|degrees?)?\s*(?P<unit>celsius|fahrenheit|c|f)\b", re.IGNORECASE
)
# A number of degrees without its scale is Fahrenheit where no oven reaches it in Celsius; below
# that it may be either, and is not read.
_DEGREES = re.compile(r"\b(?P<value>\d{3})\s*(?:°|degrees?)", re.IGNORECASE)
ONLY_FAHRENHEIT_FROM = 275
_GAS_MARK = re.compile(r"\bgas (?:mark )?(?P<mark>[1-9])\b", re.IGNORECASE)
_OF_GAS_MARK = (140, 150, 170, 180, 190, 200, 220, 230, 240)  # °C of marks 1 to 9, common practice
_WORDS = (
    ("overnight", 480.0),
    ("an hour and a half", 90.0),
    ("half an hour", 30.0),
    ("an hour", 60.0),
    ("another minute", 1.0),
    ("a minute", 1.0),
)
_WORDED = re.compile(rf"\b({ONE_OF_WHOLE})(?= (?:more )?(?:minutes?|mins?|hours?)\b)")
# "stirring every 10 minutes" is no time that passes.
_EVERY = re.compile(
    rf"\bevery (?:{_NUMBER}|few|couple of)?\s*(?:-|–)?\s*(?:\d+ )?(?:minutes?|mins?|hours?)\b"
)
_IN_ITS_LAST = re.compile(  # "adding the peas for the last 2 minutes" of a time said elsewhere
    rf"\b(?:for|in|during) the (?:last|final) (?:{_NUMBER}|few|couple of)\s*(?:minutes?|mins?)\b"
)
OR_OVERNIGHT = re.compile(
    r"\b(?:or (?:up to |even |better |ideally |preferably |leave (?:it )?)?|ideally |preferably |"
    r"even better )overnight\b"
)
# "3 hours on high or 6 hours on low": the first is planned.
_OR_ANOTHER_WAY = re.compile(
    r"\bor (?:for )?(?:on |at )?(?:[\d./-]+ \w+ )?(?:on |at )?(?:a )?(?:low|high)\b[^.;,]*"
)
# "Bake for 15 more": minutes, where no unit stands.
_MORE = re.compile(
    r"(?:\bfor (?:another |a further )|, for |\bfor (?=\d[^.,;]{0,9}more))"
    r"(\d+(?:\s*(?:-|–|to)\s*\d+)?)(?: more)?(?=$|[.,;)])"
)
_MINUTES = {"h": 60.0, "d": 1440.0, "m": 1.0, "s": 1 / 60}


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
    """Recognise the times and the temperature of one step; several times add up. "2 hours or
    overnight" is from the one to the other.
    """
    plain = clean(readable(text)).lower()
    plain = _WORDED.sub(lambda match: str(WHOLE[match[1]]), plain)
    plain = _OR_ANOTHER_WAY.sub("", _IN_ITS_LAST.sub("", _EVERY.sub("", plain)))
    plain = _MORE.sub(r"for \1 minutes", plain.replace("a minute or two", "1-2 minutes"))
    low = high = 0.0
    for match in _TIME.finditer(plain):
        per = _MINUTES[match["unit"][0]]
        low += _number(match["low"]) * per
        if match["most"]:
            high += _number(match["most"]) * _MINUTES[match["most_unit"][0]]
        else:
            high += _number(match["high"] or match["low"]) * per
    for words, minutes in _WORDS:
        if words in plain and not (low and words.endswith("hour")):
            is_other = low and words == "overnight" and OR_OVERNIGHT.search(plain)
            low, high = (low, max(high, minutes)) if is_other else (low + minutes, high + minutes)
            break
    celsius = _celsius(plain)
    return Step(text, (low, high) if low else None, celsius)


def _number(text: str) -> float:
    """A number as written: "25", "1.5", "1/2", "1 1/2". Out of proportion, it is none."""
    whole, _, part = text.rpartition(" ")
    over, bar, under = part.partition("/")
    value = float(over) / float(under) if bar and float(under) else float(over)
    return value + (float(whole) if whole else 0.0)


def _celsius(plain: str) -> float | None:
    """The heat of an oven in °C, where a step says one that an oven has."""
    heat, degrees, gas = _HEAT.search(plain), _DEGREES.search(plain), _GAS_MARK.search(plain)
    if heat is not None:
        value = float(heat["value"])
        found = value if heat["unit"][0] == "c" else _of_fahrenheit(value)
    elif gas is not None:
        found = float(_OF_GAS_MARK[int(gas["mark"]) - 1])
    elif degrees is not None and float(degrees["value"]) >= ONLY_FAHRENHEIT_FROM:
        found = _of_fahrenheit(float(degrees["value"]))
    else:
        return None
    return found if 30 <= found <= 300 else None


def _of_fahrenheit(value: float) -> float:
    return round((value - 32) / 1.8 / 5) * 5.0
