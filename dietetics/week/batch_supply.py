"""Batches as threads through the week: cooked on an evening, eaten meal by meal until the pot is
empty or its time is up.

What would go off first is eaten first. A frozen share is kept apart, and thawed only when nothing
fresh is left.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from dietetics.week.daynames import DAY_NAMES, days_words
from dietetics.week.plan import Cooking

FROZEN_DAYS = (
    60  # two months in the freezer for quality; USDA FSIS gives 2-6 for cooked dishes (from memory)
)
SMALL_G = 1.0


def servings_text(servings: float) -> str:
    """A number of servings with its noun, to a tenth.

    >>> servings_text(1.0), servings_text(0.5), servings_text(2.04)
    ('1 serving', '0.5 servings', '2 servings')
    """
    number = f"{servings:.1f}".removesuffix(".0")
    return f"{number} serving" if number == "1" else f"{number} servings"


@dataclass(frozen=True)
class WeekBatch:
    """A batch as it is cooked: what one pot gives, how many days it keeps in the refrigerator, and
    whether it may be frozen.
    """

    key: str
    name: str
    yield_g: float
    serving_g: float
    keeps_days: int
    freezes: bool = False

    def days_reached(self, evenings: Sequence[int], days: int) -> int:
        """How many days after an evening it may be eaten in a week of `days` days: as long as it
        keeps; out of the freezer, where it freezes and a day after the first evening is too far
        from every evening.
        """
        reached = {day for one in evenings for day in range(one, one + self.keeps_days + 1)}
        gaps = set(range(max(0, min(evenings, default=days)), days)) - reached
        return FROZEN_DAYS if self.freezes and gaps else self.keeps_days


@dataclass(frozen=True)
class Use:
    """Something taken from a pot: at a meal of a day, for whom, how many grams."""

    day: int
    meal: int
    grams: float
    who: str = ""


def uses_until_next(
    uses: Iterable[Use], evenings: Iterable[int], evening: int, last_meal: int
) -> list[Use]:
    """What is taken of a batch after it was cooked on an evening and before it is cooked again; it
    is ready before the last meal of its day.
    """
    after = [(day, last_meal) for day in sorted(evenings) if day > evening]
    from_then = [use for use in uses if (evening, last_meal) <= (use.day, use.meal)]
    return [use for use in from_then if not any(one <= (use.day, use.meal) for one in after)]


@dataclass(frozen=True)
class Taken:
    """A use as it was met: grams taken fresh and thawed, grams missing, what is left of the batch
    afterwards, and what was left that had gone off before.
    """

    use: Use
    fresh_g: float
    thawed_g: float
    missing_g: float
    left_g: float
    late: bool


@dataclass(frozen=True)
class BatchSupply:
    """A batch through the week. `ends` gives for each cooking the last day it may be eaten;
    `over_g` what nobody eats in time, frozen portions apart; `left` is what remains of each
    cooking: (its day, grams, frozen).
    """

    pot: WeekBatch
    cookings: tuple[Cooking, ...]
    ends: tuple[int, ...]
    taken: tuple[Taken, ...]
    over_g: float
    frozen_left_g: float
    left: tuple[tuple[int, float, bool], ...] = ()

    @property
    def missing_g(self) -> float:
        """Grams that are eaten and were not there."""
        return sum(one.missing_g for one in self.taken)

    def problems(self) -> list[str]:
        """What is wrong with it, in words, the most pressing first."""
        found = []
        late = [t for t in self.taken if t.late]
        short = self.missing_g - sum(t.missing_g for t in late)
        serving = self.pot.serving_g or 1.0
        if short > SMALL_G:
            found.append(f"{self.pot.name}: {short / serving:.1f} more servings eaten than cooked")
        if late:
            last = max(self.ends, default=-1)
            found.append(
                f"{self.pot.name}: eaten on {DAY_NAMES[last]}, after its use-by (keeps "
                f"{days_words(self.pot.keeps_days)})"
            )
        return found

    def left_over(self) -> str:
        """What nobody eats in time, in words; nothing for a quarter of a serving and less."""
        serving = self.pot.serving_g or 1.0
        if self.over_g <= 0.25 * serving:
            return ""
        return f"{self.pot.name} {servings_text(self.over_g / serving)}"


@dataclass
class _Stock:
    day: int
    start: tuple[int, int]
    end: int
    grams: float
    frozen: bool = False
    spent: float = field(default=0.0)

    @property
    def left(self) -> float:
        return self.grams - self.spent


def _stocks(pot: WeekBatch, cookings: Sequence[Cooking], last_meal: int) -> list[_Stock]:
    found = []
    for one in cookings:
        grams = one.pots * pot.yield_g
        start = (one.day, last_meal) if one.day >= 0 else (0, 0)
        found.append(_Stock(one.day, start, one.day + pot.keeps_days, grams * (1 - one.frozen)))
        found.append(_Stock(one.day, start, one.day + FROZEN_DAYS, grams * one.frozen, True))
    return sorted((s for s in found if s.grams > 0), key=lambda s: (s.frozen, s.end, s.start))


def supply_of(
    pot: WeekBatch, cookings: Sequence[Cooking], uses: Sequence[Use], meals: int
) -> BatchSupply:
    """Follow one batch through the week of `meals` meals a day."""
    stocks = _stocks(pot, cookings, meals - 1)
    taken = []
    for use in sorted(uses, key=lambda u: (u.day, u.meal)):
        at = (use.day, use.meal)
        need, fresh, thawed = use.grams, 0.0, 0.0
        for stock in stocks:
            if stock.start <= at and use.day <= stock.end and need > 1e-9:
                part = min(need, stock.left)
                stock.spent += part
                need -= part
                fresh, thawed = (fresh, thawed + part) if stock.frozen else (fresh + part, thawed)
        good = sum(s.left for s in stocks if s.start <= at and use.day <= s.end)
        gone = sum(s.left for s in stocks if s.start <= at and use.day > s.end)
        late = need > SMALL_G and gone > SMALL_G
        taken.append(Taken(use, fresh, thawed, need if need > SMALL_G else 0.0, good, late))
    over = sum(s.left for s in stocks if not s.frozen)
    frozen = sum(s.left for s in stocks if s.frozen)
    ends = tuple(c.day + pot.keeps_days for c in cookings)
    left = tuple((s.day, s.left, s.frozen) for s in stocks if s.left > SMALL_G)
    return BatchSupply(pot, tuple(cookings), ends, tuple(taken), over, frozen, left)


def supplies(
    pots: Mapping[str, WeekBatch],
    cookings: Sequence[Cooking],
    uses: Mapping[str, Sequence[Use]],
    meals: int,
) -> tuple[BatchSupply, ...]:
    """Every batch that is cooked or eaten, in the order of its first cooking or use."""
    by_pot: dict[str, list[Cooking]] = {}
    for one in cookings:
        by_pot.setdefault(one.batch, []).append(one)
    keys = [key for key in dict.fromkeys([*by_pot, *uses]) if key in pots]
    found = [supply_of(pots[key], by_pot.get(key, []), uses.get(key, []), meals) for key in keys]
    return tuple(
        sorted(found, key=lambda t: (min((c.day for c in t.cookings), default=99), t.pot.name))
    )


def with_frozen(
    pot: WeekBatch, cookings: Sequence[Cooking], uses: Sequence[Use], meals: int
) -> tuple[Cooking, ...]:
    """The cookings of a batch with as much of each frozen as is eaten of it when it no longer keeps
    in the refrigerator. What earlier weeks left (cooked before the evening -1) stays as it is.
    """
    this_week = [one for one in cookings if one.day >= -1]
    earlier = _stocks(pot, [one for one in cookings if one.day < -1], meals - 1)
    stocks = [*earlier, *_stocks(pot, [replace(c, frozen=0.0) for c in this_week], meals - 1)]
    frozen_g = {one.day: 0.0 for one in this_week}
    for use in sorted(uses, key=lambda u: (u.day, u.meal)):
        need = use.grams
        for stock in sorted(stocks, key=lambda s: (use.day > s.end, s.end)):
            is_late = use.day > stock.end
            if stock.start > (use.day, use.meal) or (is_late and stock.day not in frozen_g):
                continue
            part = min(need, stock.left)
            stock.spent += part
            need -= part
            if is_late:
                frozen_g[stock.day] += part
    return tuple(
        replace(one, frozen=min(1.0, round(frozen_g[one.day] / (one.pots * pot.yield_g), 4)))
        if one.day in frozen_g and one.pots * pot.yield_g > 0
        else one
        for one in cookings
    )


def carried(found: Sequence[BatchSupply], days: int) -> tuple[Cooking, ...]:
    """What is left of a week of `days` days for the next one: still good, or frozen, as shares of a
    pot cooked before it.
    """
    kept = []
    for one in found:
        by_day: dict[int, list[tuple[float, bool]]] = {}
        for day, grams, frozen in one.left:
            end = day + (FROZEN_DAYS if frozen else one.pot.keeps_days)
            if end >= days and one.pot.yield_g:
                by_day.setdefault(day, []).append((grams / one.pot.yield_g, frozen))
        for day, parts in by_day.items():
            whole = sum(share for share, _ in parts)
            kept.append(
                Cooking(
                    one.pot.key, day - days, round(whole, 4), sum(s for s, f in parts if f) / whole
                )
            )
    return tuple(kept)
