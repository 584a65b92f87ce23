"""What was really eaten: the planned week with what differed (a diary by exception).

Whoever reports anything of a week has kept a diary of it: what they do not mention was as planned.
Of a week without a word nothing is known. What was eaten instead is read as a line; a line that
was not understood leaves the day open, and never counts as nothing.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from dietetics.composition.sums import Composition, compose, together
from dietetics.untrusted_input import readable

PLANNED, PARTLY, SKIPPED, SWAPPED, EXTRA = "as planned", "partly", "skipped", "swapped", "extra"
HOWS = (PLANNED, PARTLY, SKIPPED, SWAPPED)
HALF = 0.5  # of a meal that was eaten partly, where nobody said how much
WHOLE_PERCENT = 100.0
SHARE_WORDS = (
    ("three quarters", 0.75), ("¾", 0.75), ("most", 0.75), ("nearly all", 0.9),
    ("two thirds", 0.67),
    ("⅔", 0.67), ("half", 0.5), ("½", 0.5), ("a third", 0.33), ("⅓", 0.33), ("a quarter", 0.25),
    ("¼", 0.25), ("a bit", 0.25), ("a little", 0.25), ("one bite", 0.1),
)  # fmt: skip


@dataclass(frozen=True)
class MealEaten:
    """One planned meal and what became of it. `instead` is what was eaten in its place or beside
    it, None where nothing was; `unread` counts lines of it that were not understood.
    """

    name: str
    planned: Composition
    how: str = PLANNED
    share: float = 1.0
    instead: Composition | None = None
    unread: int = 0


def share_of(how: str, text: str = "") -> float:
    """The share of the planned meal that was eaten: 1, 0, or what the words say of "partly".

    >>> share_of("partly", "about half"), share_of("partly", "80 %"), share_of("skipped")
    (0.5, 0.8, 0.0)
    """
    if how in (SKIPPED, SWAPPED):
        return 0.0
    if how != PARTLY:
        return 1.0
    text = readable(text)
    percent = re.search(r"(\d{1,3})\s*%", text)
    if percent is not None:
        return min(float(percent[1]) / WHOLE_PERCENT, 1.0)
    fraction = re.search(r"\b(\d)/(\d)\b", text)
    if fraction is not None and 0 < int(fraction[1]) < int(fraction[2]):
        return int(fraction[1]) / int(fraction[2])
    plain = text.lower()
    left = "left" in plain or "did not eat" in plain
    said = next((share for words, share in SHARE_WORDS if words in plain), HALF)
    return 1 - said if left else said


def day_eaten(
    meals: Sequence[MealEaten], extra: Composition | None = None, unread: int = 0
) -> Composition:
    """Everything that was eaten on a day. Lines that were not understood leave it open."""
    parts = []
    for meal in meals:
        if meal.share:
            parts.append(meal.planned.scaled(meal.share))
        if meal.instead is not None:
            parts.append(meal.instead)
    parts += [extra] if extra is not None else []
    lines = unread + sum(meal.unread for meal in meals)
    if lines:
        parts.append(compose([], unread=lines))
    return together(parts) if parts else compose([])


@dataclass(frozen=True)
class Adherence:
    """How many meals went how, over the days a diary was kept. It is no score."""

    meals: int
    planned: int
    partly: int
    skipped: int
    swapped: int
    days: int
    whole_days: int

    @property
    def share_planned(self) -> float:
        """The share of meals that went as planned; 1 where there was none."""
        return self.planned / self.meals if self.meals else 1.0

    def words(self) -> str:
        """How it went, in words."""
        if not self.meals:
            return "Nothing was reported yet."
        parts = [f"{self.planned} of {self.meals} meals as planned"]
        for count, word in (
            (self.partly, "partly"),
            (self.swapped, "swapped"),
            (self.skipped, "skipped"),
        ):
            parts += [f"{count} {word}"] if count else []
        days = f"{self.whole_days} of {self.days} days without a change"
        return f"{', '.join(parts)}; {days}."


def adherence_of(days: Sequence[Sequence[str]]) -> Adherence:
    """Adherence from how each meal of each day went."""
    hows = [how for day in days for how in day]
    return Adherence(
        len(hows),
        hows.count(PLANNED),
        hows.count(PARTLY),
        hows.count(SKIPPED),
        hows.count(SWAPPED),
        len(days),
        sum(all(how == PLANNED for how in day) for day in days),
    )
