"""Suggestions while portions are turned by hand: one change, one swap, what is missing beside, what
is unknown.

Each is computed for this bowl and says what it would bring. None is needed, and there are few of
them.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from dietetics.balance.answer import Standing, rank, stand
from dietetics.balance.conflict import amount_words
from dietetics.balance.fixes import Pantry
from dietetics.balance.portion_limits import most_grams
from dietetics.balance.question import Part, Question
from dietetics.balance.question_parts import part_of_food
from dietetics.balance.roles import mood_of, ready, role_of
from dietetics.cautions.food_rules import IRON_WORTH_MG, VITAMIN_C_LEAST_MG
from dietetics.composition.aminoacids import pattern_of, score
from dietetics.composition.foods import Food
from dietetics.nutrients import in_text, nutrient
from dietetics.targets.schools import School

SHOULD_PRICE = 5.0  # of a whole miss of what should be, against turning a portion by its whole self
LOW_SCORE = 0.95  # below this a bowl's protein is worth a complement
SWAP_PROTEIN = 0.10  # a swap keeps the bowl's protein within this share of the part's own
RUNGS_WORTH_SAYING = 2  # one step on a ladder of starch is no reason to change a bowl
MUCH_LESS = 0.75  # a swap is offered where density or sodium falls to this share or less
MAY_BE_FORTIFIED = frozenset({"plant-milk", "plant-yoghurt"})
FLAVOURS = (
    frozenset({"soy-sauce", "tamari", "coconut-aminos", "miso-white"}),
    frozenset({"salsa", "salsa-verde", "ketchup", "tomato-sauce", "tomato-puree", "tomatoes-canned",
    "crushed-tomatoes-canned"}),
    frozenset({"vegetable-broth"}),
    frozenset({"black-beans"}), frozenset({"chickpeas"}), frozenset({"kidney-beans"}),
    frozenset({"pinto-beans"}),
    frozenset({"white-beans"}), frozenset({"butter-beans"}), frozenset({"lentils"}),
    frozenset({"corn"}),
)  # fmt: skip


@dataclass(frozen=True)
class Suggestion:
    """One suggestion: in words, and what taking it does (`kind` turn, swap, add or tell)."""

    kind: str
    text: str
    key: str = ""
    amount: float = 0.0
    unit: str = ""
    food: str = ""


def suggestions(question: Question, pantry: Pantry, limit: int = 4) -> list[Suggestion]:
    """What would help this bowl most, at most `limit`; nothing when all is in and nothing is
    missing beside.
    """
    amounts = tuple(part.prefer for part in question.parts)
    if not amounts:
        return []
    standings = stand(question, amounts)
    found = [*one_change(question, amounts, standings), *swaps(question, standings, pantry)]
    found += [
        *vitamin_c(question, amounts, pantry),
        *complement(question, amounts, pantry),
        *higher_rung(question, pantry),
        *unknowns(question, amounts),
    ]
    return found[:limit]


def one_change(
    question: Question, amounts: Sequence[float], standings: Sequence[Standing]
) -> Iterator[Suggestion]:
    """The single turn of one part that helps most: what must be first, then what should be against
    how far it turns.
    """
    off = [s for s in standings if s.state in ("short", "over") and s.rule.importance != "watch"]
    if not off:
        return
    before = _merit(question, amounts)
    found: list[tuple[tuple[float, float], int, Part, float]] = []
    for index, part in enumerate(question.parts):
        if part.locked or part.kept_out:
            continue
        for amount in part.amounts:
            merit = _merit(question, (*amounts[:index], amount, *amounts[index + 1 :]))
            if merit < before:
                found.append((merit, index, part, amount))
    if not found:
        return
    _, index, part, amount = min(found, key=lambda one: (one[0], one[1], one[3]))
    after = stand(question, (*amounts[:index], amount, *amounts[index + 1 :]))
    turn = "More" if amount > part.prefer else "Less"
    text = f"{turn} {part.short}: {amount_words(part, amount)} {_brings(off, after)}."
    yield Suggestion("turn", text, part.key, amount, part.unit)


def _merit(question: Question, amounts: Sequence[float]) -> tuple[float, float]:
    must, should, effort = rank(question, amounts)
    return round(must, 6), SHOULD_PRICE * should + effort


def _brings(off: Sequence[Standing], after: Sequence[Standing]) -> str:
    """What a turn brings in, or comes nearest to, and what else it pushes out."""
    now = {s.key: s for s in after}
    was = {s.key for s in off}
    brought = [in_text(s.rule.name) for s in off if now[s.key].state == "in"]
    left = [now[s.key].words() for s in off if now[s.key].state in ("short", "over")]
    pushed = [
        s.words()
        for s in after
        if s.state in ("short", "over") and s.key not in was and s.rule.importance != "watch"
    ]
    words = f"gets {', '.join(brought)} on target" if brought else f"comes closest: {left[0]}"
    return f"{words}, but {'; '.join(pushed)}" if pushed else words


def swaps(
    question: Question, standings: Sequence[Standing], pantry: Pantry
) -> Iterator[Suggestion]:
    """Where density is over: a lighter food of the same role at equal protein; where sodium is
    over: a less salty one.
    """
    over = {s.key for s in standings if s.state == "over"}
    if "kcal_per_g" in over:
        yield from _lighter(question, pantry)
    if "sodium_mg" in over:
        yield from _less_salty(question, pantry)


def higher_rung(question: Question, pantry: Pantry) -> Iterator[Suggestion]:
    """Where the school has a ladder of starch: for the lowest part on it, a food two rungs or more
    higher, at equal energy.

    The best rung that is not in the bowl already comes first; on it the food whose portion is
    nearest to the old one.
    """
    rules = pantry.rules
    if rules is None or not rules.ladder:
        return
    placed = [
        (rung, part)
        for part in question.parts
        if (rung := _rung(part, rules)) is not None and not part.locked
    ]
    if not placed:
        return
    lowest, part = max(placed, key=lambda pair: pair[0])
    energy, there = _of(part, "energy_kcal") * part.prefer, {rung for rung, _ in placed}
    best: tuple[int, float, str, Food, float] | None = None
    for other in pantry.foods:
        rung, per_100g = rules.rung_of(other.group, other.family), other.per_100g["energy_kcal"]
        if rung is None or rung in there or lowest - rung < RUNGS_WORTH_SAYING or not per_100g:
            continue
        grams = energy / per_100g * 100
        if grams > most_grams(other) or not ready(other) or not pantry.admits(other):
            continue
        found = (rung, abs(grams - part.prefer * part.grams_per_unit), other.key, other, grams)
        best = found if best is None or found[:3] < best[:3] else best
    if best is not None:
        rung, _, _, other, grams = best
        amount = round(grams / 5) * 5
        text = (
            f"{other.name} for {part.short}: {rules.ladder[rung].name} come before "
            f"{rules.ladder[lowest].name} in the "
            f"{rules.name} approach; {amount:.0f} g has the same energy."
        )
        yield Suggestion("swap", text, part.key, amount, "g", other.key)


def _rung(part: Part, rules: School) -> int | None:
    """On which rung of a school's ladder a single food of the bowl stands."""
    food = _single(part)
    return rules.rung_of(food.group, food.family) if food is not None and part.prefer > 0 else None


def _single(part: Part) -> Food | None:
    return part.foods[0][0] if len(part.foods) == 1 and part.foods[0][1] > 0.999 else None


def _lighter(question: Question, pantry: Pantry) -> Iterator[Suggestion]:
    """Equal protein, less energy a gram: the part that brings most energy above the bowl's density
    goes first.
    """
    mood = mood_of(food for part in question.parts for food, _ in part.foods)
    heavy = sorted(question.parts, key=lambda p: -_of(p, "energy_kcal") * p.prefer)
    for part in heavy:
        food = _single(part)
        if food is None or part.locked:
            continue
        protein, energy = food.per_100g["protein_g"], food.per_100g["energy_kcal"]
        if not protein or not energy or energy < 100:
            continue
        best: tuple[float, Food, float] | None = None
        for other in _same_role(food, pantry, mood):
            other_protein, other_energy = other.per_100g["protein_g"], other.per_100g["energy_kcal"]
            if not other_protein or not other_energy:
                continue
            grams = part.prefer * part.grams_per_unit * protein / other_protein
            if grams > most_grams(other) or other_energy > energy * MUCH_LESS:
                continue
            saved = energy * part.prefer * part.grams_per_unit / 100 - other_energy * grams / 100
            if saved > 0 and (best is None or (saved, other.key) > (best[0], best[1].key)):
                best = (saved, other, grams)
        if best is not None:
            saved, other, grams = best
            text = (
                f"{other.name} for {part.short}: {round(grams / 5) * 5:.0f} g has the same "
                "protein, "
                f"{nutrient('energy_kcal').text(saved)} less."
            )
            yield Suggestion("swap", text, part.key, round(grams / 5) * 5, "g", other.key)
            return


def _less_salty(question: Question, pantry: Pantry) -> Iterator[Suggestion]:
    """The same flavour with less sodium, gram for gram."""
    for part in sorted(question.parts, key=lambda p: -_of(p, "sodium_mg") * p.prefer):
        food = _single(part)
        salt = food.per_100g["sodium_mg"] if food else None
        if food is None or not salt or part.locked:
            continue
        alike = [f for f in pantry.foods if _same_flavour(food, f) and pantry.admits(f)]
        less = [
            (s, f.key, f)
            for f in alike
            if (s := f.per_100g["sodium_mg"]) is not None and s <= salt * MUCH_LESS
        ]
        if less:
            sodium, _, other = min(less)
            grams = part.prefer * part.grams_per_unit
            text = (
                f"{other.name} for {part.full}: "
                f"{nutrient('sodium_mg').text((salt - sodium) * grams / 100)} less sodium."
            )
            yield Suggestion("swap", text, part.key, round(grams, 1), "g", other.key)
            return


def _same_flavour(food: Food, other: Food) -> bool:
    if other.key == food.key or other.state in ("dry", "raw"):
        return False
    return any(food.family in flavour and other.family in flavour for flavour in FLAVOURS)


def _same_role(food: Food, pantry: Pantry, mood: str) -> Iterator[Food]:
    """Foods of a food's own role that may come in, of other families."""
    role = role_of(food.group, food.family)
    for other in pantry.foods:
        if (
            role_of(other.group, other.family) != role
            or other.family == food.family
            or not ready(other)
            or not pantry.admits(other)
        ):
            continue
        if mood == "sweet" and other.group != food.group:
            continue
        yield other


def _of(part: Part, key: str) -> float:
    """Known amount of a nutrient in one unit of a part."""
    value, _ = part.content.known_per_100g(key)
    return (value or 0.0) * part.grams_per_unit / 100


def _sum(question: Question, amounts: Sequence[float], key: str) -> float:
    return sum(
        _of(part, key) * amount for part, amount in zip(question.parts, amounts, strict=True)
    )


def vitamin_c(question: Question, amounts: Sequence[float], pantry: Pantry) -> Iterator[Suggestion]:
    """A source of vitamin C beside much plant iron (Hallberg et al. 1989, from memory)."""
    iron, c = _sum(question, amounts, "iron_mg"), _sum(question, amounts, "vitamin_c_mg")
    if iron < IRON_WORTH_MG or c >= VITAMIN_C_LEAST_MG:
        return
    mood = mood_of(food for part in question.parts for food, _ in part.foods)
    groups = {"fruit"} if mood == "sweet" else {"vegetable", "fruit"}
    wanted = VITAMIN_C_LEAST_MG - c
    best: tuple[float, str, Part] | None = None
    for food in pantry.foods:
        per_100g, energy = food.per_100g["vitamin_c_mg"], food.per_100g["energy_kcal"]
        if (
            food.group not in groups
            or not per_100g
            or not energy
            or not ready(food)
            or not pantry.admits(food)
        ):
            continue
        if per_100g < 40 or per_100g * most_grams(food) / 100 < wanted:
            continue
        part = part_of_food("c", food, pantry.scales, pantry.metric)
        if _of(part, "vitamin_c_mg") * part.prefer >= wanted and (
            best is None or (energy / per_100g, food.key) < best[:2]
        ):
            best = (energy / per_100g, food.key, part)
    if best is not None:
        part = best[2]
        brings = nutrient("vitamin_c_mg").text(_of(part, "vitamin_c_mg") * part.prefer)
        text = (
            f"{iron:.1f} mg iron and {c:.0f} mg vitamin C so far. "
            f"{amount_words(part, part.prefer)} of {part.full} adds {brings}, "
            "so more of the iron is absorbed."
        )
        yield Suggestion("add", text, amount=part.prefer, unit=part.unit, food=best[1])


def complement(
    question: Question, amounts: Sequence[float], pantry: Pantry
) -> Iterator[Suggestion]:
    """The food that lifts the limiting amino acid most, where the bowl's score is low; named acids
    and figures.
    """
    eaten = eaten_foods(question, amounts)
    now = score(eaten)
    if now is None or now.score >= LOW_SCORE or now.covered < 0.8:
        return
    mood = mood_of(food for food, _ in eaten)
    present = {food.family for food, _ in eaten}
    best: tuple[float, str, Part] | None = None
    for food in pantry.foods:
        pattern = pattern_of(food)
        rich = pattern.mg_per_g_protein.get(now.limiting) if pattern else None
        if (
            rich is None
            or food.family in present
            or (food.per_100g["protein_g"] or 0) < 5
            or not ready(food)
        ):
            continue
        fitting = (
            {"nut", "seed", "plant-yoghurt"}
            if mood == "sweet"
            else {"legume", "soy-food", "seed", "wheat-protein", "grain"}
        )
        if food.group not in fitting or not pantry.admits(food):
            continue
        part = part_of_food("acid", food, pantry.scales, pantry.metric)
        after = score([*eaten, (food, part.prefer * part.grams_per_unit)])
        if after is not None and (best is None or (after.score, food.key) > best[:2]):
            best = (after.score, food.key, part)
    if best is not None and best[0] > now.score + 0.03:
        part = best[2]
        text = (
            f"{now.limiting.capitalize()} is the limiting amino acid of this bowl (score "
            f"{now.score:.2f}); "
            f"{amount_words(part, part.prefer)} of {part.full} raises it to {best[0]:.2f}."
        )
        yield Suggestion("add", text, amount=part.prefer, unit=part.unit, food=best[1])


def eaten_foods(question: Question, amounts: Sequence[float]) -> list[tuple[Food, float]]:
    """Every food of a bowl with its grams, dishes taken apart."""
    return [
        (food, share * amount * part.grams_per_unit)
        for part, amount in zip(question.parts, amounts, strict=True)
        for food, share in part.foods
        if amount > 0
    ]


def unknowns(question: Question, amounts: Sequence[float]) -> Iterator[Suggestion]:
    """What only a label can tell and matters here: whether a milk, a yoghurt or a yeast is
    fortified.
    """
    for part, amount in zip(question.parts, amounts, strict=True):
        food = _single(part)
        if food is None or amount <= 0 or food.state == "label":
            continue
        if food.group in MAY_BE_FORTIFIED or food.fortified:
            yield Suggestion(
                "tell",
                f"{part.name}: B12, calcium and vitamin D differ by brand. Type its label to use "
                "that package's figures.",
                part.key,
            )
            return
