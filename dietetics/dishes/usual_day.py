"""A usual day as a client tells it, added up: what a medicine's dose was set to, and from how much
fibre a plan starts.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.sums import Composition, compose
from dietetics.dishes.recipes import item_of
from dietetics.nutrients import nutrient

ASKED_FOR = ("sodium_mg", "vitamin_k_ug", "fibre_g", "energy_kcal")
MOST_LINES = 60
_MEAL = re.compile(
    r"^\s*(?:breakfast|lunch|dinner|supper|tea|snacks?|evening|morning|afternoon|brunch|drinks?)\s*[:\-–]\s*",
    re.IGNORECASE,
)
_WITH = re.compile(r",| (?:and|with) ", re.IGNORECASE)


@dataclass(frozen=True)
class UsualDay:
    """The day's foods added up, and the pieces of the text that could not be read."""

    total: Composition
    unread: tuple[str, ...]

    def words(self) -> list[str]:
        """Each figure that is asked for: "Sodium 1,900 mg", at least so much where some of the day
        was not read.
        """
        hedge = "at least " if self.unread else "about "
        known = [(key, self.total[key].amount) for key in ASKED_FOR]
        return [
            f"{nutrient(key).name} {hedge}{nutrient(key).text(amount)}"
            for key, amount in known
            if amount is not None
        ]


def usual_day(text: str, reader: LineReader) -> UsualDay:
    """Read a day, a food a line or several with commas, and add it up."""
    items, unread = [], []
    for line in re.split(r"[\n;]", text)[:MOST_LINES]:
        plain = _MEAL.sub("", " ".join(line.split())).strip(" .")
        if not plain:
            continue
        whole = [one for one in reader.read(plain) if not one.heading]
        parts = [one.strip() for one in _WITH.split(plain) if one.strip()]
        if len(parts) > 1 and not all(one.matched for one in whole):
            whole = [one for part in parts for one in reader.read(part) if not one.heading]
        items += [item_of(one) for one in whole if one.matched]
        unread += [one.text for one in whole if not one.matched]
    return UsualDay(compose(items), tuple(dict.fromkeys(unread)))
