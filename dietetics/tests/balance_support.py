"""Bowls and questions for the tests of balance, and the exhaustive search that referees the
solver.
"""

from __future__ import annotations

from itertools import product

from dietetics.amounts.weighing import Scales
from dietetics.balance.fixes import Pantry
from dietetics.balance.question import Part, Question, nutrient_rule, school_rules
from dietetics.balance.question_parts import part_of_portion
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
        found.append(
            food_portion(
                str(number), food, grams, read.amount, read.unit, read.text, read.weight.how
            )
        )
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


# What follows is written from the definition in docs/balance.md and takes nothing from the program:
# a miss is a share of its bound; effort is how far portions move, dearer beyond half, for a cut
# vegetable and for what comes earlier.
BEYOND_HALF, CUT_VEGETABLE, CHANGED, EARLIER, WHOLE_ACID_MISS = 2.0, 1.0, 0.002, 1e-5, 10.0
VEGETABLE_GROUPS = {"vegetable", "leafy-green", "mushroom"}
SHOULD_GRACE, NOTHING = 0.01, 1e-6


def own_amount(part: Part, key: str, amount: float) -> float:
    """What a portion brings of a nutrient, from its row."""
    food = part.foods[0][0]
    return (food.per_100g[key] or 0.0) / 100 * amount * part.grams_per_unit


def own_miss(asked: Question, importance: str, amounts: tuple[float, ...]) -> float:
    """The sum of what portions miss of the windows of an importance, as shares of their bounds;
    half a shown digit is no miss.
    """
    total = 0.0
    for rule in asked.rules:
        if rule.importance != importance:
            continue
        half = 0.499 * 10.0**-rule.decimals
        ratio = rule.key == "kcal_per_g"
        key = "energy_kcal" if ratio else rule.key
        value = sum(own_amount(p, key, n) for p, n in zip(asked.parts, amounts, strict=True))
        grams = sum(n * p.grams_per_unit for p, n in zip(asked.parts, amounts, strict=True))
        usual = sum(p.prefer * p.grams_per_unit for p in asked.parts)
        for bound, sign in ((rule.low, 1.0), (rule.high, -1.0)):
            if bound is None:
                continue
            edge = bound - sign * half
            far = sign * (edge * grams - value) if ratio else sign * (edge - value)
            whole = abs(edge) * max(usual, 1e-6) if ratio else abs(edge)
            total += max(0.0, far) / (
                whole if whole > 1e-9 else (WHOLE_ACID_MISS if rule.key == "pral_meq" else 1.0)
            )
    return total


def own_effort(asked: Question, amounts: tuple[float, ...]) -> float:
    """How far portions lie from the preferred ones, with what the watched windows miss."""
    total = own_miss(asked, "watch", amounts)
    for place, (part, amount) in enumerate(zip(asked.parts, amounts, strict=True)):
        if len(part.amounts) > 1:
            away = abs(amount - part.prefer) / max(part.prefer, part.step)
            cut = (
                CUT_VEGETABLE * away
                if amount < part.prefer and part.group in VEGETABLE_GROUPS
                else 0.0
            )
            price = 1.0 + EARLIER * (len(asked.parts) - place)
            total += price * (away + cut + BEYOND_HALF * max(0.0, away - 0.5)) + (
                CHANGED if away > 1e-9 else 0.0
            )
    return total


def by_exhaustion(asked: Question) -> tuple[float, float, float]:
    """(least must-miss, least should-miss, least effort) over every set of portions, settled in
    that order.
    """
    kept = list(product(*(part.amounts for part in asked.parts)))
    least: dict[str, float] = {}
    for name, grace in (("must", 0.0), ("should", SHOULD_GRACE)):
        misses = [own_miss(asked, name, amounts) for amounts in kept]
        least[name] = min(misses)
        allowed = least[name] + (grace if least[name] > NOTHING else 0.0) + NOTHING
        kept = [amounts for amounts, one in zip(kept, misses, strict=True) if one <= allowed]
    return least["must"], least["should"], min(own_effort(asked, amounts) for amounts in kept)
