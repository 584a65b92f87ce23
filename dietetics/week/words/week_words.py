"""A week in a practitioner's words: which targets are met on how many days, what is cooked, what is
repeated; and what is better or worse in one week than in another. No points.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from dietetics.nutrients import DENSITY, in_text, nutrient
from dietetics.targets.schools import FIBRE, WEIGHT
from dietetics.targets.windows import Window
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plant_kinds import KIND, TOO_OFTEN
from dietetics.week.question.answer import Answer, extra_pots, slots_of_dishes
from dietetics.week.question.priorities import NEAR, misses_of_meal, standing_of
from dietetics.week.question.question import (
    EMPTY,
    EXTRA_POT,
    FIRE,
    FRESH,
    LIKING,
    PORTION,
    POT,
    RUN,
    VARIETY,
    WASTE,
    Question,
)

MOST_CHANGES = 3
SMALL = 1e-6
NEARER = 1.0  # points: less is no difference worth a word
A_LITTLE = 0.1  # of a batch left over
Change = tuple[float, str]  # points saved, and what it is in words


@dataclass(frozen=True)
class Topic:
    """One line of a week explained: what it is about, and how the week does."""

    name: str
    words: str
    good: bool = True


def counted(number: float, one: str, many: str = "") -> str:
    """A number with its noun.

    >>> counted(1, "batch", "batches"), counted(0, "meal"), counted(2.5, "batch", "batches")
    ('1 batch', '0 meals', '2½ batches')
    """
    whole, half = int(number), number % 1 >= 0.25
    text = f"{whole or ''}½" if half else f"{whole}"
    return f"{text} {one if number == 1 or text == '½' else many or f'{one}s'}"


def topics(answer: Answer) -> list[Topic]:
    """How a week does, topic by topic, what matters most first."""
    return [
        _meals(answer),
        *_meal_sizes(answer),
        *_targets(answer),
        _variety(answer),
        _cooking(answer),
        *_portions(answer),
    ]


def _meals(answer: Answer) -> Topic:
    slots = [slot for slot in answer.question.slots if slot not in answer.question.locks]
    empty = sum(not answer.dish(slot) for slot in slots)
    count = counted(len(answer.question.slots), "meal")
    words = f"{count}, every one with a dish" if not empty else f"{empty} of {count} without a dish"
    return Topic("Meals", words, not empty)


def _meal_sizes(answer: Answer) -> list[Topic]:
    """Meals that are far from their share of the day's energy, or heavier than is usual."""
    question = answer.question
    far: dict[int, list[int]] = {}
    heavy: dict[int, list[int]] = {}
    for slot in question.slots:
        missed = misses_of_meal(question, slot, answer.chosen[slot])
        if missed.meals and answer.dish(slot):
            far.setdefault(slot[1], []).append(slot[0])
        if missed.usual:
            heavy.setdefault(slot[1], []).append(slot[0])
    rows = (
        ("Meal sizes", "more than a fifth from its share of the day", far),
        ("Heavy meals", "more than is usually eaten at one", heavy),
    )
    topics_of_size = []
    for name, words, found in rows:
        where = [
            f"{question.meals[meal].name} on {_days_named(days)}"
            for meal, days in sorted(found.items())
        ]
        if where:
            topics_of_size.append(Topic(name, f"{'; '.join(where)}: {words}", good=False))
    return topics_of_size


def _days_named(days: Sequence[int]) -> str:
    """Days by their short names.

    >>> _days_named([0, 2])
    'Mon, Wed'
    """
    return ", ".join(DAY_NAMES[day][:3] for day in days)


def day_sums(answer: Answer) -> dict[int, dict[str, float]]:
    """What every day adds up to, by the question's keys."""
    found: dict[int, list[tuple[float, ...]]] = {}
    for slot, choice in answer.chosen.items():
        found.setdefault(slot[0], []).append(choice.vector)
    return {
        day: dict(zip(answer.question.keys, map(sum, zip(*rows, strict=True)), strict=True))
        for day, rows in sorted(found.items())
    }


def amount_of(window: Window, sums: Mapping[str, float]) -> float:
    """What a day has of a window's nutrient."""
    if window.key == DENSITY:
        return sums["energy_kcal"] / sums["grams"] if sums["grams"] else 0.0
    return sums[window.key]


def missed_days(answer: Answer) -> dict[str, list[int]]:
    """For every target that counts, by its name: the days that miss it. What matters most first."""
    question, found = answer.question, dict[str, list[int]]()
    for window in sorted(question.windows, key=lambda one: one.importance != "must"):
        if window.importance != "watch":
            found[nutrient(window.key).name] = [
                day
                for day, sums in day_sums(answer).items()
                if question.missed_percent(window, sums) > NEAR + SMALL
            ]
    for ask in sorted(question.asks, key=lambda one: one.key not in (WEIGHT, FIBRE)):
        if ask.importance != "watch":
            found[ask.name] = [
                day for day, sums in day_sums(answer).items() if ask.is_missed(sums[ask.amount_key])
            ]
    return found


def _targets(answer: Answer) -> list[Topic]:
    days = len(day_sums(answer))
    missed = missed_days(answer)
    off = {day for each in missed.values() for day in each}
    lines = [Topic("Days that meet every target", f"{days - len(off)} of {days}", not off)]
    for name, on in missed.items():
        if on:
            lines.append(Topic(name, f"missed on {_days_named(on)}", good=False))
    return lines


def _mains(answer: Answer) -> set[int]:
    meals = answer.question.meals
    return {c.dish for s, c in answer.chosen.items() if c.dish >= 0 and meals[s[1]].main}


def _variety(answer: Answer) -> Topic:
    question, mains = answer.question, _mains(answer)
    words = counted(len(mains), "different main dish", "different main dishes")
    wanted = question.rules.different
    if wanted is not None and wanted != len(mains):
        words += f"; {wanted} wanted"
    repeats = _repeats(answer)
    words += "".join(f"; {one}" for one in repeats)
    dull = [question.offers[dish].name for dish in sorted(mains) if _dull(answer, dish)]
    if dull:
        words += f"; often within four days: {', '.join(dull)}"
    new = len(question.new_dishes & {choice.dish for choice in answer.chosen.values()})
    if question.rules.most_new is not None:
        words += f"; {counted(new, 'new dish', 'new dishes')}"
    return Topic("Variety", words, not dull and not repeats and wanted in (None, len(mains)))


def _repeats(answer: Answer) -> list[str]:
    """The meals with the dish of the day before: "Breakfast as on the day before 3 times"."""
    question = answer.question
    return [
        f"{question.meals[meal].name} as on the day before {'once' if n == 1 else f'{n} times'}"
        for meal, n in question.repeats(slots_of_dishes(answer.chosen)).items()
        if n
    ]


def _dull(answer: Answer, dish: int) -> bool:
    days = sorted(slot[0] for slot, choice in answer.chosen.items() if choice.dish == dish)
    return answer.question.run_points(days, answer.question.offers[dish].before) > 0


def _cooking(answer: Answer) -> Topic:
    pots = sum(answer.cooked.values())
    evenings = {day for (_, day), count in answer.cooked.items() if count}
    if not pots:
        return Topic("Cooking", "nothing in advance")
    words = f"{counted(pots, 'batch', 'batches')} on {counted(len(evenings), 'evening')}"
    extra = extra_pots(answer.question, answer.cooked)
    if extra:
        words += f"; {extra} more than an evening takes"
    left = _left_over(answer)
    if left >= 0.25:
        words += f"; about {counted(round(2 * left) / 2, 'batch', 'batches')} left over"
    return Topic("Cooking", words, not extra)


def _left_over(answer: Answer) -> float:
    eaten = sum(share for choice in answer.chosen.values() for _, share in choice.uses)
    held = sum(share for pot in answer.question.pots for share, _ in pot.stock)
    return max(0.0, held + sum(answer.cooked.values()) - eaten)


def _fresh(answer: Answer) -> int:
    offers = answer.question.offers
    return sum(
        c.dish >= 0 and not offers[c.dish].own and not offers[c.dish].table
        for c in answer.chosen.values()
    )


def _changed_portions(answer: Answer) -> int:
    return sum(c.dish >= 0 and abs(c.scale - 1) > SMALL for c in answer.chosen.values())


def _portions(answer: Answer) -> list[Topic]:
    changed = _changed_portions(answer)
    fresh = _fresh(answer)
    lines = []
    if fresh:
        lines.append(Topic("Made fresh", counted(fresh, "meal")))
    if changed:
        lines.append(
            Topic("Other than one serving", f"{counted(changed, 'meal')} with more or less")
        )
    return lines


def what_changed(before: Answer, after: Answer) -> list[str]:
    """What is better in a second week, and behind a "but" what is worse, each by what weighs most;
    the other way round where the second week is the worse one. Empty where a person would notice
    nothing.
    """
    found = [one for one in _changes(before, after) if one[1]]
    sign = 1 if standing_of(after) <= standing_of(before) else -1
    first = sorted((one for one in found if sign * one[0] > 0), key=lambda one: -abs(one[0]))
    then = sorted((one for one in found if sign * one[0] <= 0), key=lambda one: -abs(one[0]))
    words = [text for _, text in first[: MOST_CHANGES - bool(then)]]
    for text in [text for _, text in then[: MOST_CHANGES - len(words)]][: 1 if words else None]:
        words.append(f"but {text}" if words else text)
    return words


def _changes(before: Answer, after: Answer) -> list[tuple[float, str]]:
    """Every difference with the points it saves."""

    def each(count: Callable[[Answer], float], price: float, one: str, many: str) -> Change:
        first, second = count(before), count(after)
        return price * (first - second), _more_or_less(first, second, one, many)

    def extra(answer: Answer) -> float:
        return extra_pots(answer.question, answer.cooked)

    return [
        _filled(before, after),
        *_met(before, after),
        _mains_changed(before, after),
        *_plants_changed(before, after),
        each(lambda a: sum(a.cooked.values()), POT, "batch to cook", "batches to cook"),
        each(_fires, FIRE, "pot on the stove", "pots on the stove"),
        each(extra, EXTRA_POT, "batch more than an evening takes",
             "batches more than an evening takes"),
        _repetition(before, after),
        each(_fresh, FRESH, "meal made fresh", "meals made fresh"),
        each(_changed_portions, PORTION / 4, "changed portion", "changed portions"),
        _liking(before, after),
        _leftovers(before, after),
        _meal_shares(before, after),
    ]  # fmt: skip


def _fires(answer: Answer) -> int:
    return len([count for count in answer.cooked.values() if count])


def _filled(before: Answer, after: Answer) -> Change:
    one, two = (sum(not a.dish(s) for s in a.question.slots) for a in (before, after))
    words = ""
    if one > two:
        words = f"fills {counted(one - two, 'empty meal')}"
    elif two > one:
        words = f"leaves {counted(two - one, 'more meal', 'more meals')} empty"
    return EMPTY * (one - two), words


def _mains_changed(before: Answer, after: Answer) -> Change:
    one, two = len(_mains(before)), len(_mains(after))
    wanted = after.question.rules.different
    words = _more_or_less(one, two, "different main dish", "different main dishes")
    return VARIETY * (0 if wanted is None else abs(one - wanted) - abs(two - wanted)), words


def _plants_changed(before: Answer, after: Answer) -> list[Change]:
    """Kinds of vegetables, beans, grains and colours that a week has more or fewer of, where more
    are wanted; and what is served too often.
    """
    kinds, then = _plants(before), _plants(after)
    served, often = _servings(before), _servings(after)
    rules, changes = after.question.rules, list[Change]()
    for group, least in rules.plant_kinds.items():
        had, has, noun = len(kinds[group]), len(then[group]), group.lower()
        saved = KIND * (max(0, least - had) - max(0, least - has))
        words = _more_or_less(had, has, f"kind of {noun}", f"kinds of {noun}")
        changes.append((saved, words if saved else ""))
    for group, most in rules.most_servings.items():
        saved = TOO_OFTEN * (max(0, served[group] - most) - max(0, often[group] - most))
        words = f"{group.lower()} {'less' if often[group] < served[group] else 'more'} often"
        changes.append((saved, words if saved else ""))
    return changes


def _plants(answer: Answer) -> dict[str, set[str]]:
    """The kinds of every group that a week holds."""
    found: dict[str, set[str]] = defaultdict(set)
    for choice in answer.chosen.values():
        if choice.dish >= 0:
            for group, held in answer.question.offers[choice.dish].plant_kinds.items():
                found[group] |= held
    return found


def _servings(answer: Answer) -> dict[str, int]:
    """How many servings hold something of a group."""
    found: dict[str, int] = defaultdict(int)
    for choice in answer.chosen.values():
        if choice.dish >= 0:
            for group in answer.question.offers[choice.dish].plant_kinds:
                found[group] += 1
    return found


def _met(before: Answer, after: Answer) -> list[Change]:
    """Targets that do better or worse: on how many days more or fewer they are met, or nearer and
    further where the count of days says nothing, or the other way.
    """
    one, two = missed_days(before), missed_days(after)
    changes = []
    for name, gain in _gains(before, after).items():
        days = len(one.get(name, [])) - len(two.get(name, []))
        if days and (days > 0) == (gain > 0):
            word = "more" if days > 0 else "fewer"
            words = f"met on {counted(abs(days), f'{word} day', f'{word} days')}"
        else:
            words = f"{'nearer to' if gain > 0 else 'further from'} its target"
        changes.append((gain, f"{in_text(name)} {words}"))
    return changes


def _gains(before: Answer, after: Answer) -> dict[str, float]:
    """By how many points each target is missed less in the second week, where it is worth a
    word.
    """
    question, found = after.question, dict[str, float]()
    singles = [(nutrient(w.key).name, replace(question, windows=(w,), asks=()))
               for w in question.windows if w.importance != "watch"]  # fmt: skip
    singles += [(ask.name, replace(question, windows=(), asks=(ask,))) for ask in question.asks]
    for name, single in singles:
        gain = _points_of_days(single, before) - _points_of_days(single, after)
        if abs(gain) >= NEARER:
            found[name] = gain
    return found


def _points_of_days(single: Question, answer: Answer) -> float:
    return sum(single.day_cost(sums) for sums in day_sums(answer).values())


def _more_or_less(before: float, after: float, one: str, many: str) -> str:
    change = after - before
    if abs(change) < SMALL:
        return ""
    word = "more" if change > 0 else "fewer"
    return counted(abs(change), f"{word} {one}", f"{word} {many}")


def _repetition(before: Answer, after: Answer) -> Change:
    one, two = (sum(_dull(answer, dish) for dish in _mains(answer)) for answer in (before, after))
    words = "" if one == two else f"{'less' if two < one else 'more'} repetition within four days"
    return RUN * (one - two), words


def _liking(before: Answer, after: Answer) -> Change:
    one, two = (
        sum(LIKING[a.question.offers[c.dish].liking] for c in a.chosen.values() if c.dish >= 0)
        for a in (before, after)
    )
    words = f"dishes they like {'more' if two < one else 'less'}"
    return one - two, words if abs(one - two) >= NEARER else ""


def _leftovers(before: Answer, after: Answer) -> Change:
    change = _left_over(after) - _left_over(before)
    words = f"{'less' if change < 0 else 'more'} left over"
    return -WASTE * change, words if abs(change) >= A_LITTLE else ""


def _meal_shares(before: Answer, after: Answer) -> Change:
    """Meals nearer to their share of the day, or further from it."""
    one, two = (_shares_missed(answer) for answer in (before, after))
    where = "nearer to" if two < one else "further from"
    return one - two, f"meals {where} their share of the day" if abs(one - two) >= NEARER else ""


def _shares_missed(answer: Answer) -> float:
    question = answer.question
    return sum(
        question.meal_cost(question.offers[c.dish], c.scale, question.meals[slot[1]])
        for slot, c in answer.chosen.items()
        if c.dish >= 0
    )
