"""What a day costs for its targets and the dietary approach, as prices on its sums: so much for
each unit above a limit. One list serves the annealing, the menus of whole days and what is told.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from dietetics.nutrients import DENSITY
from dietetics.targets.schools import FIBRE, WEIGHT
from dietetics.targets.usual_food import NEAR
from dietetics.targets.windows import AT_THE_LIMIT, Window

# Points for each per cent by which a day misses a window, and for a whole ask of the school missed.
PER_CENT: Mapping[str, float] = {"must": 6.0, "should": 2.0, "watch": 0.2}
ASK: Mapping[str, float] = {"must": 80.0, "should": 30.0, "watch": 6.0}
# Points for each per cent of weight and fibre above what is usual: together with heavy meals less
# than a required target, or a plan would starve who needs much.
USUAL: Mapping[str, float] = {WEIGHT: 1.5, FIBRE: 0.7}
SHOWN_G = 0.5  # half of the last digit that is shown
NOTHING_GIVEN = 10.0  # what a miss is a share of where both lines of a window are nil


@dataclass(frozen=True)
class Ask:
    """What is asked of the food of a day, in grams; `key` is how dishes name what they hold of it.
    `low` 0 and `high` None leave a side open.
    """

    key: str
    name: str
    low: float
    importance: str
    high: float | None = None

    @property
    def amount_key(self) -> str:
        """How dishes and sums of days name what they hold of it."""
        return f"ask:{self.key}"

    def is_missed(self, grams: float) -> bool:
        """True where a day with so much of it does not have what is asked, nor is at its limit."""
        return grams < self.low - max(SHOWN_G, AT_THE_LIMIT * self.low) or grams > self.most_g

    @property
    def most_g(self) -> float:
        """The most that is no miss: what is asked, and a little more where only the usual is
        meant.
        """
        if self.high is None:
            return float("inf")
        near = NEAR if self.key in (WEIGHT, FIBRE) else AT_THE_LIMIT
        return self.high + max(SHOWN_G, near * self.high)

    def words(self) -> str:
        """What is asked: "at least 130 g"."""
        ends = [f"at least {self.low:,g} g"] if self.low else []
        ends += [f"at most {self.high:,g} g"] if self.high is not None else []
        return " and ".join(ends)

    def price_above(self) -> float:
        """Points for each gram above what is asked at most."""
        percent = USUAL.get(self.key, PER_CENT[self.importance])
        return 100 * percent / self.high if self.high else 0.0


@dataclass(frozen=True)
class DayPrice:
    """`price` points for each unit by which the weighted sum is above `limit`: the sums of the day
    at the places `first` and `second` (in the order of a question's keys), by their weights.
    """

    price: float
    first: int
    weight: float
    second: int
    second_weight: float
    limit: float


def line_of(line: float, other: float | None) -> float:
    """What a miss is a share of: the line itself, or the other one where it is nil."""
    return abs(line) or abs(other or 0.0) or NOTHING_GIVEN


def day_prices(
    keys: Sequence[str], windows: Sequence[Window], asks: Sequence[Ask], usual_energy: float
) -> tuple[DayPrice, ...]:
    """The prices of all windows and asks. `usual_energy` (kcal) is what a miss of a density is
    measured by.
    """
    place = {key: n for n, key in enumerate(keys)}
    found = []
    for window in windows:
        points, low, high = 100 * PER_CENT[window.importance], window.low, window.high
        if window.key == DENSITY:
            energy, grams, points = place["energy_kcal"], place["grams"], points / usual_energy
            if high is not None:
                found.append(DayPrice(points, energy, 1.0, grams, -high, 0.0))
            if low is not None:
                found.append(DayPrice(points, energy, -1.0, grams, low, 0.0))
            continue
        at = place[window.key]
        if low is not None:
            found.append(DayPrice(points / line_of(low, high), at, -1.0, at, 0.0, -low))
        if high is not None:
            found.append(DayPrice(points / line_of(high, low), at, 1.0, at, 0.0, high))
    for ask in asks:
        at = place[ask.amount_key]
        if ask.low:
            found.append(DayPrice(ASK[ask.importance] / ask.low, at, -1.0, at, 0.0, -ask.low))
        if ask.high:
            found.append(DayPrice(ask.price_above(), at, 1.0, at, 0.0, ask.high))
    return tuple(found)


def cost_of_day(prices: Sequence[DayPrice], sums: Sequence[float]) -> float:
    """Points of a day with these sums, in the order of the question's keys."""
    points = 0.0
    for one in prices:
        over = one.weight * sums[one.first] + one.second_weight * sums[one.second] - one.limit
        if over > 0:
            points += one.price * over
    return points
