"""What is asked: the parts with the portions they may take, and the rules that the bowl should
keep.

A `Rule` is linear in the portions, or a ratio of two such sums; its two sides are bounds with the
tolerance of what is shown, so that an answer that reads "in" on a level is in.
"""

from __future__ import annotations

import statistics
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from dietetics.composition.foods import Food
from dietetics.composition.sums import Composed, Item
from dietetics.dishes.unweighed import as_eaten_g
from dietetics.errors import DieteticsError
from dietetics.nutrients import DENSITY, FAT_KCAL_PER_G, in_text, nutrient
from dietetics.targets.schools import FIBRE, WEIGHT, PlateRule, School
from dietetics.targets.usual_food import NEAR
from dietetics.targets.windows import IMPORTANCES, Window

MOST_PARTS = 60
FAT_SHARE = "fat_share"
VOLUME = "volume_ml"
WITHIN = 0.499  # of the last shown digit: what is inside this reads as met
LEAST_SCALE = {"pral_meq": 10.0}  # what counts as a whole miss where a bound is zero


@dataclass(frozen=True)
class Part:
    """One part of the question: its food, the measure it moves in, and where it may go.

    `least`, `most` and `prefer` are in `unit`; grams = amount × `grams_per_unit`. `foods` are what
    it is made of, as (food, g per g of the part). `kept_out` says why it may not be in the bowl at
    all.
    """

    key: str
    name: str
    content: Composed
    foods: tuple[tuple[Food, float], ...]
    group: str
    ml_per_g: float
    unit: str
    grams_per_unit: float
    step: float
    least: float
    most: float
    prefer: float
    locked: bool = False
    kept_out: str = ""

    @property
    def short(self) -> str:
        """Its name without the state: "avocado" of "Avocado, raw"."""
        return self.full.split(",")[0]

    @property
    def full(self) -> str:
        """Its name in a sentence; a dish keeps its capital."""
        dish = len(self.foods) != 1 or self.name[1:2].isupper()
        return self.name if dish else self.name[0].lower() + self.name[1:]

    @cached_property
    def multiples(self) -> tuple[int, int]:
        """The fewest and the most whole steps."""
        return _ceil(self.least / self.step), _floor(self.most / self.step)

    @cached_property
    def off_grid(self) -> bool:
        """True when the present portion is no whole number of steps; staying there is allowed."""
        return abs(self.prefer / self.step - round(self.prefer / self.step)) > 1e-6

    @cached_property
    def amounts(self) -> tuple[float, ...]:
        """Every portion it may take, in `unit`, smallest first. Empty when nothing is allowed."""
        if self.locked:
            return () if self.kept_out else (self.prefer,)
        if self.kept_out:
            return (0.0,)
        low, high = self.multiples
        found = {round(k * self.step, 9) for k in range(low, high + 1)}
        if self.off_grid and self.least <= self.prefer <= self.most:
            found.add(self.prefer)
        return tuple(sorted(found))

    @cached_property
    def clash(self) -> str:
        """Why no portion of it is possible, in words; "" when one is."""
        if self.locked and self.kept_out:
            return f"{self.name} is locked, and {self.kept_out}"
        if self.locked and not self.least - 1e-9 <= self.prefer <= self.most + 1e-9:
            span = f"{self.least:g} to {self.most:g} {self.unit}"
            return (
                f"{self.name} is locked at {self.prefer:g} {self.unit}, outside its limits of "
                f"{span}"
            )
        if not self.amounts:
            return (
                f"{self.name}: no portion in steps of {self.step:g} {self.unit} lies between "
                f"{self.least:g} and {self.most:g}"
            )
        return ""

    def share_g(self, groups: Sequence[str], families: Sequence[str]) -> float:
        """Grams of these groups and families, as eaten, in one gram of the part."""
        return sum(
            as_eaten_g(food, share)
            for food, share in self.foods
            if food.group in groups or food.family in families
        )


def _floor(value: float) -> int:
    return int(value + 1e-9 if value >= 0 else value - 1 + 1e-9)


def _ceil(value: float) -> int:
    return -_floor(-value)


Measure = Callable[[Part], float | None]


@dataclass(frozen=True)
class Rule:
    """Something wanted of the whole bowl: `low` ≤ Σ numerator (÷ Σ denominator) ≤ `high`, per gram
    of each part.

    `half_unit` is half of the last shown digit in stored units. `window` is set where it comes from
    a target. A `fixed` rule is set by a clinician: nobody is invited to widen it.
    """

    key: str
    name: str
    unit: str
    decimals: int
    low: float | None
    high: float | None
    importance: str
    numerator: Measure = field(compare=False)
    denominator: Measure | None = field(default=None, compare=False)
    half_unit: float = 0.0
    window: Window | None = None
    why: str = ""
    fixed: bool = False

    def text(self, value: float) -> str:
        """A figure of this rule as shown, with its unit."""
        if self.window is not None:
            return nutrient(self.key).text(value)
        if self.unit == "%":
            return f"{value:.0%}"
        return f"{value:,.{self.decimals}f} {self.unit}"


@dataclass(frozen=True)
class Side:
    """One end of a rule: `end` is "low" or "high"; `bound` includes the tolerance of what is
    shown.
    """

    rule: Rule
    end: str
    bound: float

    @property
    def key(self) -> tuple[str, str]:
        """What it is called in a conflict."""
        return self.rule.key, self.end

    def text(self) -> str:
        """In words: "at least 30 g protein"."""
        value = self.rule.low if self.end == "low" else self.rule.high
        assert value is not None
        word = "at least" if self.end == "low" else "at most"
        whose = " (set by the clinician)" if self.rule.fixed else ""
        return f"{in_text(self.rule.name)} of {word} {self.rule.text(value)}{whose}"


@dataclass(frozen=True)
class Question:
    """Parts and rules together."""

    parts: tuple[Part, ...]
    rules: tuple[Rule, ...]

    def sides(self, *importances: str) -> list[Side]:
        """The ends of all rules of these importances."""
        found = []
        for rule in self.rules:
            if rule.importance in importances:
                if rule.low is not None:
                    found.append(Side(rule, "low", rule.low - rule.half_unit))
                if rule.high is not None:
                    found.append(Side(rule, "high", rule.high + rule.half_unit))
        return found

    def part(self, key: str) -> Part:
        """One part by its key."""
        return next(part for part in self.parts if part.key == key)

    def total(self, measure: Measure, amounts: Sequence[float]) -> float:
        """Σ of a measure over portions given in each part's unit; what is unknown adds nothing."""
        return sum(
            (measure(part) or 0.0) * amount * part.grams_per_unit
            for part, amount in zip(self.parts, amounts, strict=True)
        )

    def value(self, rule: Rule, amounts: Sequence[float]) -> float | None:
        """A rule's figure for these portions, the known part of it; None where the denominator is
        nothing.
        """
        top = self.total(rule.numerator, amounts)
        if rule.denominator is None:
            return top
        bottom = self.total(rule.denominator, amounts)
        return top / bottom if bottom > 0 else None


def nutrient_rule(window: Window, fixed: bool = False) -> Rule:
    """The rule of a window; `fixed` where only a clinician may move it."""
    one = nutrient(window.key)
    unit = 10.0**-one.decimals / one.factor

    def shown(value: float | None) -> float | None:
        return None if value is None else one.rounded(value) / one.factor

    key = "energy_kcal" if window.key == DENSITY else window.key

    def per_gram(part: Part) -> float | None:
        value, share = part.content.known_per_100g(key)
        return None if value is None or share <= 0 else value / 100

    return Rule(
        window.key,
        one.name,
        one.unit,
        one.decimals,
        shown(window.low),
        shown(window.high),
        window.importance,
        per_gram,
        (lambda part: 1.0) if window.key == DENSITY else None,
        WITHIN * unit,
        window,
        fixed=fixed,
    )


def fat_share_rule(low: float, high: float) -> Rule:
    """Share of the energy that comes from fat, at 9 kcal/g; watched, since a day's range need not
    hold in each meal.
    """

    def energy(part: Part) -> float | None:
        value, _ = part.content.known_per_100g("energy_kcal")
        return None if value is None else value / 100

    def fat(part: Part) -> float | None:
        value, _ = part.content.known_per_100g("fat_g")
        return None if value is None else value / 100 * FAT_KCAL_PER_G

    return Rule(
        FAT_SHARE, "Energy from fat", "%", 2, low, high, "watch", fat, energy, WITHIN * 0.01
    )


def steady_rules(usual_ug: Sequence[float], swing: float) -> list[Rule]:
    """On warfarin: vitamin K within `swing` (a share) of what usual bowls bring, their median in
    µg; none for one bowl.

    Watched, since much of vitamin K is unknown.
    """
    if len(usual_ug) < 2:
        return []
    usual = statistics.median(usual_ug)
    return [
        nutrient_rule(Window("vitamin_k_ug", usual * (1 - swing), usual * (1 + swing), "watch"))
    ]


def volume_rule(capacity_ml: float) -> Rule:
    """The bowl should hold it: millilitres of all parts. Watched: a slice of bread or an apple lies
    beside the bowl.
    """
    return Rule(
        VOLUME,
        "Volume",
        "mL",
        0,
        None,
        capacity_ml,
        "watch",
        lambda part: part.ml_per_g,
        half_unit=WITHIN,
    )


def plate_rule(rule: PlateRule) -> Rule:
    """What a school asks of a bowl, in grams or as a share of the volume."""

    def grams(part: Part) -> float:
        return part.share_g(rule.groups, rule.families)

    if rule.of in (WEIGHT, FIBRE):
        return _rule_of_everything(rule)
    if rule.of == "volume":
        return Rule(
            rule.key,
            rule.name,
            "%",
            2,
            rule.low,
            rule.high,
            rule.importance,
            lambda part: grams(part) * part.ml_per_g,
            lambda part: part.ml_per_g,
            WITHIN * 0.01,
            why=rule.why,
        )
    return Rule(
        rule.key,
        rule.name,
        "g",
        1,
        rule.low,
        rule.high,
        rule.importance,
        grams,
        half_unit=WITHIN * 0.1,
        why=rule.why,
    )


def _rule_of_everything(rule: PlateRule) -> Rule:
    """What the whole bowl weighs, or holds of fibre; what is not known of fibre adds nothing."""

    def fibre(part: Part) -> float:
        return (part.content.known_per_100g("fibre_g")[0] or 0.0) / 100

    measure = fibre if rule.of == FIBRE else lambda part: 1.0
    return Rule(
        rule.key,
        rule.name,
        "g",
        0,
        rule.low,
        rule.high,
        rule.importance,
        measure,
        half_unit=NEAR * rule.high if rule.high is not None else WITHIN,
        why=rule.why,
    )


def school_rules(school: School) -> list[Rule]:
    """Everything a school asks of one bowl beside the client's windows."""
    return [*(plate_rule(rule) for rule in school.rules), fat_share_rule(*school.fat_share)]


def unknown_in(question: Question, rule: Rule, amounts: Sequence[float]) -> list[str]:
    """Names of the parts present whose figure for a rule is not, or not wholly, known."""
    keys = {DENSITY: ("energy_kcal",), FAT_SHARE: ("energy_kcal", "fat_g")}.get(
        rule.key, (rule.key,)
    )
    if rule.window is None and rule.key != FAT_SHARE:
        return []
    return [
        part.name
        for part, amount in zip(question.parts, amounts, strict=True)
        if amount > 0 and any(part.content.known_per_100g(key)[1] < 1 - 1e-9 for key in keys)
    ]


def items_of(question: Question, amounts: Sequence[float]) -> list[Item]:
    """The portions as items to sum, for the check outside the solver."""
    return [
        Item.exact(part.name, part.content, amount * part.grams_per_unit)
        for part, amount in zip(question.parts, amounts, strict=True)
        if amount > 0
    ]


def checked(question: Question) -> Question:
    """The question, or DieteticsError where it cannot be one: no parts, too many, reversed
    ranges.
    """
    if not question.parts:
        raise DieteticsError("balance-nothing")
    if len(question.parts) > MOST_PARTS:
        raise DieteticsError("balance-too-many", count=len(question.parts), limit=MOST_PARTS)
    for part in question.parts:
        if part.step <= 0 or part.grams_per_unit <= 0 or part.least < 0:
            raise DieteticsError("balance-bad-step", food=part.name)
        if part.least > part.most:
            raise DieteticsError(
                "balance-reversed", food=part.name, least=part.least, most=part.most, unit=part.unit
            )
    for rule in question.rules:
        if rule.importance not in IMPORTANCES:
            raise DieteticsError(
                "balance-importance", value=rule.importance, known=", ".join(IMPORTANCES)
            )
    return question
