"""Ways out of a conflict: each computed by the solver, checked by solving again, and ready to be
taken.

Widen a window by the least that helps; allow more or less of a part; put in a food, or one for
another. Which foods are tried comes from the prices of the linear relaxation: what one gram of a
food is worth to what is missed.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from dietetics.amounts.weighing import Scales
from dietetics.balance.answer import BALANCED, CLOSEST, IMPOSSIBLE, Answer, balance, rank
from dietetics.balance.conflict import Conflict, amount_words, feasible, required, widest_of
from dietetics.balance.portion_limits import most_grams
from dietetics.balance.question import Part, Question, Rule, Side
from dietetics.balance.question_parts import part_of_food
from dietetics.balance.roles import COMES_IN, mood_of, ready, role_of
from dietetics.balance.solver import solve
from dietetics.balance.solver_program import miss, sheet, side_scale, side_terms
from dietetics.composition.foods import Food
from dietetics.composition.sums import FoodContent
from dietetics.nutrients import in_text, nutrient
from dietetics.targets.schools import School
from dietetics.time_limits import now_s

SECONDS = 1.2  # for all ways together; what is found by then is shown
WIDENINGS, FOODS, PARTIAL, SWAPS, TRIED, TRIED_SWAPS = 3, 3, 2, 1, 14, 6
NOT_ENOUGH = "helps, but not enough: "  # before the effect of a way that is not `enough`
WIDEST_SHARE = 0.6  # of a bound: a window moved by more is another target, not a way out
Admits = Callable[[Food], bool]


@dataclass(frozen=True)
class Way:
    """One way out: what to change and what it brings. `kind` is widen, portion, add or swap."""

    kind: str
    change: str
    effect: str
    answer: Answer
    key: str = ""  # the rule, or the part
    end: str = ""  # low, high, least, most
    value: float = 0.0  # the new bound, or the new limit in the part's unit
    food: str = ""
    enough: bool = True  # False where it helps and does not resolve the conflict


@dataclass(frozen=True)
class Pantry:
    """What may come into the bowl: foods of the shelf, with how a household measures, who lets them
    in, and the school whose ladder of starch is followed. The targets of the nutrients `minded` are
    asked for by a condition or medicine of the client: nobody is invited to widen them.
    """

    foods: Sequence[Food]
    scales: Scales
    admits: Admits
    metric: bool = False
    rules: School | None = None
    minded: frozenset[str] = frozenset()


def with_bound(question: Question, rule: Rule, end: str, value: float) -> Question:
    """The question with one side of a rule moved."""
    window = rule.window
    if window is not None:
        window = replace(window, low=value) if end == "low" else replace(window, high=value)
    moved = replace(
        rule,
        window=window,
        low=value if end == "low" else rule.low,
        high=value if end == "high" else rule.high,
    )
    return replace(question, rules=tuple(moved if r.key == rule.key else r for r in question.rules))


def with_part(question: Question, key: str, part: Part | None) -> Question:
    """The question with a part replaced, taken out (None), or put in where there is none of that
    key.
    """
    known = any(p.key == key for p in question.parts)
    parts = tuple(part if p.key == key else p for p in question.parts)
    kept = tuple(p for p in parts if p is not None)
    return replace(question, parts=kept if known or part is None else (*kept, part))


def ways_out(
    answer: Answer, conflict: Conflict, pantry: Pantry | None, seconds: float = SECONDS
) -> list[Way]:
    """The cheapest ways out of a conflict, each solved again.

    A way that does not resolve it is listed only where no food alone does, and says that it is not
    enough.
    """
    if conflict.clashes:
        return []
    ends = now_s() + seconds
    minded = pantry.minded if pantry is not None else frozenset[str]()
    found = _widenings(answer, conflict, minded)[:WIDENINGS]
    found += _portions(answer, conflict)
    if pantry is not None:
        found += _comings(answer, pantry, ends)
    taken = {(way.kind, way.key, way.end, way.value, way.food): way for way in reversed(found)}
    once = [way for way in found if taken[way.kind, way.key, way.end, way.value, way.food] is way]
    enough = any(way.enough and way.kind != "widen" for way in once)
    kept = [way for way in once if not enough or way.enough]
    return sorted(kept, key=lambda way: (not way.enough, not way.enough and way.kind == "add"))


def _solved(answer: Answer, question: Question) -> Answer | None:
    """The answer to a changed question, when it meets what was required and was missed."""
    again = balance(question, 0.5)
    wanted = {side.rule.importance for side in required(answer)}
    good = (BALANCED, CLOSEST) if wanted == {"must"} else (BALANCED,)
    judged = not any(
        s.state in ("short", "over") for s in again.standings if s.rule.importance in wanted
    )
    if again.unjudged:
        # a clinician's ceiling that cannot be judged is not met: no way out claims otherwise
        return None
    return again if again.status in good or (judged and again.status != IMPOSSIBLE) else None


def effect_words(again: Answer) -> str:
    """What an answer brings, in words."""
    total = again.composition
    figures = f"{total['energy_kcal'].text()}, {total['protein_g'].text()} protein"
    off = [s.words() for s in again.off("must", "should")]
    if not off:
        return f"all targets met ({figures})"
    start = "" if again.off("must") else "every required target is met; "
    return f"{start}{'; '.join(off)} ({figures})"


def _widenings(answer: Answer, conflict: Conflict, minded: frozenset[str]) -> list[Way]:
    question, sides = answer.question, required(answer)
    found = []
    for side in conflict.sides:
        if side.rule.fixed or side.rule.window is None or side.rule.key in minded:
            continue
        others = [s for s in sides if s.key != side.key]
        made = sheet(question, others, {"one": [side]}, "one")
        solution = solve(made.program, 0.4)
        if not solution.found:
            continue
        value = _rounded_bound(question, side, made.amounts(solution.values))
        again = _solved(answer, with_bound(question, side.rule, side.end, value))
        if again is None:
            continue
        old = side.rule.low if side.end == "low" else side.rule.high
        assert old is not None
        if abs(value - old) > WIDEST_SHARE * side_scale_plain(old):
            continue
        verb = "up to" if side.end == "high" else "down to"
        change = (
            f"Change the target: {in_text(side.rule.name)} go {verb} {side.rule.text(value)} "
            f"(now {side.rule.text(old)})"
        )
        way = Way("widen", change, effect_words(again), again, side.rule.key, side.end, value)
        found.append((abs(value - old) / side_scale_plain(old), way))
    return [way for _, way in sorted(found, key=lambda pair: pair[0])]


def side_scale_plain(bound: float) -> float:
    """What a widening is a share of."""
    return abs(bound) or 1.0


def _rounded_bound(question: Question, side: Side, amounts: Sequence[float]) -> float:
    """The bound that these portions just meet, to the digit shown: a figure is judged as it
    reads.
    """
    value = question.value(side.rule, amounts) or 0.0
    places = side.rule.decimals
    factor = nutrient(side.rule.key).factor if side.rule.window is not None else 1.0
    unit = 10.0**-places
    return round(value * factor / unit) * unit / factor


def _portions(answer: Answer, conflict: Conflict) -> list[Way]:
    """For each part whose limit is in the conflict: the least that its limit must move."""
    question, sides, found = answer.question, required(answer), []
    for key, end in conflict.limits:
        part = question.part(key)
        if part.kept_out:
            continue
        others = [
            (p.key, e)
            for p in question.parts
            for e in ("least", "most")
            if (p.key, e) != (key, end)
        ]
        amount = _moved_limit(question, sides, part, end, widest_of(question, others))
        if amount is None:
            continue
        freed = (
            replace(part, locked=False, most=amount)
            if end == "most"
            else replace(part, locked=False, least=amount)
        )
        again = _solved(answer, with_part(question, key, freed))
        if again is None:
            continue
        word = (
            f"Unlock {part.short} and let it go to"
            if part.locked
            else (f"Allow {part.short} up to" if end == "most" else f"Allow {part.short} down to")
        )
        change = f"{word} {amount_words(part, amount)}" if amount else f"Remove {part.short}"
        found.append(Way("portion", change, effect_words(again), again, key, end, amount))
    return found


def _moved_limit(
    question: Question,
    sides: list[Side],
    part: Part,
    end: str,
    widest: Mapping[str, tuple[float, float]],
) -> float | None:
    made = sheet(question, sides, widest=widest)
    index = next(i for i, p in enumerate(question.parts) if p.key == part.key)
    for column, value in made.columns[index].items():
        made.program.costs[column] = value if end == "most" else -value
    solution = solve(made.program, 0.4)
    return made.amounts(solution.values)[index] if solution.found else None


def prices(answer: Answer) -> dict[tuple[str, str], float]:
    """What one unit more of each required side's sum is worth, from the linear relaxation; else
    from what is missed.
    """
    question, sides = answer.question, required(answer)
    made = sheet(question, (), {"required": sides}, "required")
    solution = solve(made.program, 0.4, relaxed=True)
    found = (
        {side.key: solution.prices[made.rows[side.key]] for side in sides}
        if solution.prices
        else {}
    )
    if any(abs(price) > 1e-9 for price in found.values()):
        return found
    wanted = {"low": 1.0, "high": -1.0}
    return {
        s.key: wanted[s.end] if miss(question, s, answer.amounts) > 1e-6 else 0.0 for s in sides
    }


def worth(
    question: Question, sides: Iterable[Side], price: Mapping[tuple[str, str], float], part: Part
) -> float:
    """What one unit of a part is worth to what is missed: positive helps."""
    return sum(
        price.get(side.key, 0.0) * side_terms(side, part) / side_scale(question, side)
        for side in sides
    )


def _stub(food: Food) -> Part:
    """A food by the gram, to be priced without being measured."""
    density, _ = food.density_g_per_ml
    most = most_grams(food)
    return Part(
        food.key,
        food.name,
        FoodContent(food),
        ((food, 1.0),),
        food.group,
        1 / density,
        "g",
        1.0,
        1.0,
        0.0,
        most,
        most,
    )


def ranked(answer: Answer, pantry: Pantry) -> list[Food]:
    """Foods that may come in, by what as much of them as one would serve is worth to what is
    missed; one of a family.
    """
    question, sides, price = answer.question, required(answer), prices(answer)
    present = {food.family for part in question.parts for food, _ in part.foods}
    groups = COMES_IN[mood_of(food for part in question.parts for food, _ in part.foods)]
    best: dict[str, tuple[float, Food]] = {}
    for food in pantry.foods:
        if (
            food.group not in groups
            or food.family in present
            or not ready(food)
            or not pantry.admits(food)
        ):
            continue
        stub = _stub(food)
        value = worth(question, sides, price, stub) * stub.most
        if value > 1e-9 and value > best.get(food.family, (0.0, food))[0]:
            best[food.family] = (value, food)
    order = sorted(best.values(), key=lambda pair: (-pair[0], pair[1].key))
    return [food for _, food in order]


def _comings(answer: Answer, pantry: Pantry, ends: float) -> Iterator[Way]:
    """Foods that come in, and one part replaced by another food of its role."""
    order = ranked(answer, pantry)
    yield from _additions(answer, pantry, order[:TRIED], ends)
    yield from _swaps(answer, pantry, order, ends)


def _additions(answer: Answer, pantry: Pantry, order: Sequence[Food], ends: float) -> Iterator[Way]:
    question, count, groups, names, first = (
        answer.question,
        0,
        dict[str, int](),
        set[str](),
        list[Way](),
    )
    for food in order:
        if count == FOODS or now_s() > ends:
            return
        plain = food.name.split(",")[0]
        if groups.get(food.group, 0) > 1 or plain in names:
            continue
        part = part_of_food(f"new-{food.key}", food, pantry.scales, pantry.metric)
        more = with_part(question, part.key, part)
        again = _solved(answer, more) if _possible(answer, more) else None
        if again is None and len(first) < PARTIAL:
            first.append(_put_in(part, balance(more, 0.4), enough=False))
        if again is not None:
            count, groups[food.group] = count + 1, groups.get(food.group, 0) + 1
            names.add(plain)
            yield _put_in(part, again)
    if not count:
        yield from first


def _effect(again: Answer, enough: bool) -> str:
    missed = "; ".join(s.words() for s in again.off("must", "should"))
    return effect_words(again) if enough else f"{NOT_ENOUGH}{missed}"


def _put_in(part: Part, again: Answer, enough: bool = True) -> Way:
    change = f"Add {amount_words(part, again.amounts[-1])} of {part.full}"
    return Way(
        "add", change, _effect(again, enough), again, food=part.foods[0][0].key, enough=enough
    )


def _swaps(answer: Answer, pantry: Pantry, order: Sequence[Food], ends: float) -> Iterator[Way]:
    """One part replaced by another food of its role, or left out; the best that helps where none is
    enough.
    """
    helping: list[tuple[tuple[float, ...], Way]] = []
    count = 0
    for part, food in _pairs(answer, order):
        if count == SWAPS or now_s() > ends:
            break
        new = part_of_food(part.key, food, pantry.scales, pantry.metric) if food else None
        changed = with_part(answer.question, part.key, new)
        if not changed.parts:
            continue
        again = _solved(answer, changed) if _possible(answer, changed) else None
        if again is not None:
            count += 1
            yield _swapped(part, new, again)
        elif len(helping) < TRIED_SWAPS:
            again = balance(changed, 0.3)
            better = rank(changed, again.amounts)
            if better < rank(answer.question, answer.amounts):
                helping.append((better, _swapped(part, new, again, enough=False)))
    if not count and helping:
        yield min(helping, key=lambda pair: pair[0])[1]


def _pairs(answer: Answer, order: Sequence[Food]) -> Iterator[tuple[Part, Food | None]]:
    """Which part by which food (None: by nothing), the parts that cost most first."""
    question, sides, price = answer.question, required(answer), prices(answer)
    loose = [p for p in question.parts if not p.locked and not p.kept_out]
    worst = sorted(loose, key=lambda p: worth(question, sides, price, p) * p.prefer)[:4]
    for part in worst:
        if len(part.foods) == 1:
            role = role_of(part.group, part.foods[0][0].family)
            for food in [f for f in order if role_of(f.group, f.family) == role][:3]:
                yield part, food
        yield part, None


def _swapped(part: Part, new: Part | None, again: Answer, enough: bool = True) -> Way:
    effect = _effect(again, enough)
    if new is None:
        return Way(
            "portion", f"Remove {part.short}", effect, again, part.key, "least", 0.0, enough=enough
        )
    amount = dict(zip((p.key for p in again.question.parts), again.amounts, strict=True))[part.key]
    change = f"Replace {part.short} with {amount_words(new, amount)} of {new.full}"
    return Way("swap", change, effect, again, part.key, food=new.foods[0][0].key, enough=enough)


def _possible(answer: Answer, changed: Question) -> bool:
    """True when what was required can be met in a changed question."""
    wanted = {side.key for side in required(answer)}
    sides = [side for side in changed.sides("must", "should") if side.key in wanted]
    return feasible(
        changed, sides, [(p.key, end) for p in changed.parts for end in ("least", "most")]
    )
