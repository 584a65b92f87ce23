"""Bowls and questions for the tests of balance, and the exhaustive search that referees the solver."""

from __future__ import annotations

from itertools import product

from dietetics.amounts.weighing import Scales
from dietetics.balance.answer import GRACE, MISSED, missed
from dietetics.balance.model import effort
from dietetics.balance.parts import part_of_portion
from dietetics.balance.question import Part, Question, nutrient_rule, school_rules
from dietetics.balance.ways import Pantry
from dietetics.cautions.exclusions import Terms, keeps_out
from dietetics.cautions.facts import ClientFacts
from dietetics.composition.foods import load_shelf
from dietetics.dishes.bowls import Portion, food_portion
from dietetics.dishes.portions import read_portion
from dietetics.targets.schools import school
from dietetics.targets.windows import Window

SHELF = load_shelf()
SCALES = Scales(SHELF)


def portions(text: str) -> list[Portion]:
    """A bowl written as "quinoa-cooked 1 cup; tofu-firm 100 g"."""
    found = []
    for number, written in enumerate(text.split(";")):
        key, _, amount = written.strip().partition(" ")
        food = SHELF.food(key)
        read = read_portion(amount, food, SCALES)
        grams = (read.weight.low, read.weight.grams, read.weight.high)
        found.append(food_portion(str(number), food, grams, read.amount, read.unit, read.text, read.weight.how))
    return found


def parts(text: str, locked: str = "") -> tuple[Part, ...]:
    """The parts of a bowl; the numbers in `locked` are locked."""
    return tuple(part_of_portion(p, p.key in locked.split()) for p in portions(text))


def question(text: str, windows: list[Window], key: str = "", locked: str = "") -> Question:
    """A question with a client's windows and, where given, a school's rules."""
    rules = [nutrient_rule(w) for w in windows]
    return Question(parts(text, locked), (*rules, *(school_rules(school(key)) if key else ())))


def pantry(key: str = "", allergies: tuple[str, ...] = ()) -> Pantry:
    """Everything on the shelf that such a client may eat."""
    rules = school(key) if key else None
    terms = Terms(ClientFacts(allergies=allergies, school=rules), suggesting=True)
    return Pantry(list(SHELF), SCALES, lambda food: keeps_out(food, terms) is None, rules=rules)


def by_exhaustion(asked: Question) -> tuple[float, float, float]:
    """(least must-miss, least should-miss, least effort) over every set of portions, settled in that order."""
    kept = list(product(*(part.amounts for part in asked.parts)))
    least: dict[str, float] = {}
    for name in ("must", "should"):
        misses = [missed(asked, asked.sides(name), amounts) for amounts in kept]
        least[name] = min(misses)
        allowed = least[name] + (GRACE[name] if least[name] > MISSED else 0.0) + MISSED
        kept = [amounts for amounts, one in zip(kept, misses, strict=True) if one <= allowed]
    return least["must"], least["should"], min(effort(asked, amounts) for amounts in kept)
