"""Windows and levels: a target with a low, a high or both, and where a figure stands in it.

A window of a day is divided over meals by their share where amounts add up; densities keep their
window.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from dietetics.composition.sums import Composition, Figure
from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient

IMPORTANCES = ("must", "should", "watch")
IMPORTANCE_WORDS = {"must": "required", "should": "recommended", "watch": "tracked"}
# Where the lines of a window stand on a level, as a share of its tube.
LOW_LINE, HIGH_LINE = 0.34, 0.66
ENDS = (0.03, 0.97)
SIGNED_WIDTH = (
    40.0  # a signed figure (acid load, mEq) has no zero to scale from: this many fill the tube
)


@dataclass(frozen=True)
class Window:
    """What is wanted of one nutrient. One side may be open. Raises DieteticsError when it makes no
    sense.
    """

    key: str
    low: float | None = None
    high: float | None = None
    importance: str = "should"

    def __post_init__(self) -> None:
        one = nutrient(self.key)
        if self.low is None and self.high is None:
            raise DieteticsError("window-empty", name=one.name)
        for value in (self.low, self.high):
            if value is not None and value < 0 and one.kind != "linear":
                raise DieteticsError("window-negative", name=one.name, value=value)
        if self.low is not None and self.high is not None and self.low > self.high:
            raise DieteticsError("window-reversed", name=one.name, low=self.low, high=self.high)

    def for_share(self, share: float) -> Window:
        """The window of a meal that carries `share` (0 to 1) of the day. A ratio keeps its
        window.
        """
        if nutrient(self.key).kind == "ratio":
            return self
        return replace(
            self,
            low=None if self.low is None else self.low * share,
            high=None if self.high is None else self.high * share,
        )

    def less(self, eaten: Figure) -> Window:
        """What is left of a day's window when something is eaten beside; a ratio keeps its window,
        nothing goes below 0.

        What is eaten and unknown counts as nothing: a ceiling is then too high, and the level
        beside it says "at least".
        """
        one = nutrient(self.key)
        if one.kind == "ratio" or not eaten.amount:
            return self
        least = 0.0 if one.kind == "table" else float("-inf")

        def rest(value: float | None) -> float | None:
            return (
                None if value is None or eaten.amount is None else max(least, value - eaten.amount)
            )

        return replace(self, low=rest(self.low), high=rest(self.high))

    def text(self) -> str:
        """What is wanted, in words: "28–34", "at least 10", "at most 500"."""
        one = nutrient(self.key)
        if self.low is not None and self.high is not None:
            return f"{one.number(self.low)}–{one.number(self.high)}"
        if self.low is not None:
            return f"at least {one.number(self.low)}"
        assert self.high is not None
        return f"at most {one.number(self.high)}"


# What a plate is judged by; vitamins, minerals and fat are watched over the day.
PLATE_KEYS = (
    "energy_kcal", "protein_g", "kcal_per_g", "fibre_g", "sodium_mg", "potassium_mg",
    "phosphorus_mg", "pral_meq",
)  # fmt: skip
DAILY_INTAKES = (
    "potassium_mg",
    "phosphorus_mg",
)  # as intakes watched over the day; as ceilings they judge a plate


def on_the_plate(window: Window) -> bool:
    """True for a window that a single plate is judged by."""
    return window.key in PLATE_KEYS and not (
        window.key in DAILY_INTAKES and window.importance == "watch"
    )


@dataclass(frozen=True)
class Level:
    """Where a figure stands in its window.

    `state` is in, short, over or unknown; `by` how far outside; `place` the bubble's place on the
    tube (0 to 1) and `tail` how far to its right the unknown may reach; `certain` False when the
    unknown share could still change the state.
    """

    window: Window
    figure: Figure
    state: str
    by: float
    place: float | None
    tail: float
    certain: bool

    def words(self) -> str:
        """The level in words: "Protein 27.0 g, wants 28.0–34.0, 1.0 short"."""
        one = nutrient(self.window.key)
        if self.figure.amount is None:
            return f"{one.name} unknown, target {self.window.text()} {one.unit}"
        hedge = "" if self.figure.complete else ("at least " if one.kind == "table" else "about ")
        text = f"{one.name} {hedge}{one.text(self.figure.amount)}, target {self.window.text()}"
        if self.state in ("short", "over"):
            return f"{text}, {one.number(self.by)} {self.state}"
        if not self.certain:
            return f"{text}, within target as far as known"
        return f"{text}, at its limit" if self.at_the_limit else f"{text}, in"

    @property
    def at_the_limit(self) -> bool:
        """True for a figure that counts as in, though a hair outside."""
        if self.state != "in" or self.figure.amount is None:
            return False
        value, one = self.figure.amount, nutrient(self.window.key)
        low, high = self.window.low, self.window.high
        return (low is not None and one.rounded(value) < one.rounded(low)) or (
            high is not None and one.rounded(value) > one.rounded(high)
        )


# A day of food is known no better than to a few per cent (tables, scales, ripeness): outside of a
# line by so small a share of it is at the limit, and no miss. Our judgement.
AT_THE_LIMIT = 0.005


def judge(window: Window, figure: Figure, near: float = 0.0) -> Level:
    """Say where `figure` stands in `window`. An unknown figure is never taken as met; outside by at
    most `near` of the line is at the limit, and in.

    The state follows the value as shown, so that "wants at most 500" and "500" do not read as over.

    >>> eaten = Figure("sodium_mg", 500.4, 500.4, 500.4, 1.0, 0)
    >>> judge(Window("sodium_mg", None, 500.0), eaten).state
    'in'
    >>> judge(Window("sodium_mg", None, 499.0), eaten).state
    'over'
    >>> judge(Window("sodium_mg", None, 499.0), eaten, AT_THE_LIMIT).words()
    'Sodium 500 mg, target at most 499, at its limit'
    """
    if figure.amount is None:
        return Level(window, figure, "unknown", 0.0, None, 1.0, False)
    one = nutrient(window.key)
    value = one.rounded(figure.amount)
    state, by = "in", 0.0
    low, high = window.low, window.high
    if low is not None and value < one.rounded(low) - near * abs(one.rounded(low)):
        state, by = "short", (one.rounded(low) - value) / one.factor
    elif high is not None and value > one.rounded(high) + near * abs(one.rounded(high)):
        state, by = "over", (value - one.rounded(high)) / one.factor
    certain = figure.complete or state == "over" or (state == "in" and window.high is None)
    place = place_on_tube(window, figure.amount)
    tail = (
        min(ENDS[1] - place, figure.unknown_share * (ENDS[1] - ENDS[0]))
        if not figure.complete
        else 0.0
    )
    return Level(window, figure, state, by, place, max(tail, 0.0), certain)


def place_on_tube(window: Window, value: float) -> float:
    """The bubble's place, 0 to 1: between the lines when inside, left when short, right when over.

    With one line the scale runs from zero to that line; below a floor or above a ceiling it goes on
    at the same scale and stops at the end of the tube.
    """
    low, high = window.low, window.high
    if nutrient(window.key).kind == "linear" and (low is None or high is None):
        line, bound = (HIGH_LINE, high) if high is not None else (LOW_LINE, low)
        share = line + (value - (bound or 0.0)) / SIGNED_WIDTH
    elif low is not None and high is not None and high > low:
        share = LOW_LINE + (value - low) / (high - low) * (HIGH_LINE - LOW_LINE)
    elif high is not None and (low is None or low == high):
        share = HIGH_LINE * value / high if high > 0 else (HIGH_LINE if value <= high else ENDS[1])
        if low is not None:
            share = 0.5 + (value - high) / high if high > 0 else share
    else:
        assert low is not None
        share = LOW_LINE * value / low if low > 0 else HIGH_LINE
    return min(max(share, ENDS[0]), ENDS[1])


def above(windows: tuple[Window, ...], composition: Composition) -> tuple[Window, ...]:
    """The windows whose ceiling `composition` alone is above, in the windows' order; what is
    unknown is above nothing.
    """
    return tuple(w for w in windows if judge(w, composition[w.key]).state == "over")


def ceiling_words(day: tuple[Window, ...], eaten: Composition, keys: frozenset[str]) -> list[str]:
    """What `eaten` takes of the day's ceilings among `keys`: "Potassium 570 mg of the daily limit
    of 2,500 mg, 23%".
    """
    found = []
    for window in day:
        figure, one = eaten[window.key], nutrient(window.key)
        if window.key not in keys or not window.high or window.importance == "watch":
            continue
        share = f", {figure.amount / window.high:.0%}" if figure.amount is not None else ""
        found.append(
            f"{one.name} {figure.shown()} of the daily limit of {one.text(window.high)}{share}"
        )
    return found


def levels_of(
    windows: tuple[Window, ...], composition: Composition, near: float = 0.0
) -> tuple[Level, ...]:
    """The level of every window, in the windows' order; `near` as for `judge`."""
    return tuple(judge(window, composition[window.key], near) for window in windows)
