"""A week explained: why this dish stands here, what binds, what could not be met, and the cheapest
ways out.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from dietetics.nutrients import nutrient
from dietetics.targets.windows import Window
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.question.answer import Answer, answer_of, same_week
from dietetics.week.question.empty_meals import empty_because
from dietetics.week.question.priorities import NEAR, Standing, standing_of
from dietetics.week.question.question import (
    EMPTY,
    MOST_EVENINGS,
    BatchFacts,
    Choice,
    Offer,
    Question,
    Slot,
    Spare,
)
from dietetics.week.question.recheck import broken_rules
from dietetics.week.search.improving import first_week
from dietetics.week.words.week_words import amount_of, day_sums, what_changed

MOST_SPARE = 4
WORTH = 1.0  # points: less is no reason worth naming
# points, a third of a batch to cook: less is no reason to change what is asked, or to plan again
WORTH_A_CHANGE = 5.0


@dataclass(frozen=True)
class Other:
    """Another dish for a cell: how many points dearer the week would be with it, and what would
    change, in words.
    """

    dish: str
    scale: float
    points: float
    changes: tuple[str, ...]


@dataclass(frozen=True)
class Missed:
    """A window that a day misses, with the amount and by how much, or something the school asks."""

    day: int
    text: str
    points: float
    importance: str


@dataclass(frozen=True)
class WayOut:
    """A change of what is asked, by how many points the week then gets better, and what is better
    then, in words. `kind` and `value` say which change.
    """

    text: str
    saves: float
    kind: str
    value: str
    effect: tuple[str, ...] = ()


Change = tuple[str, str, str, Question]  # in words, its kind and value, what is asked then
# (changes tried, of how many, the ways found so far) → go on?
ToldOfWays = Callable[[int, int, Sequence[WayOut]], bool]


def others(answer: Answer, slot: Slot, most: int = 3) -> list[Other]:
    """What else could stand in a cell, the least dear first: each dish at its best portion, the
    rest of the week unchanged.
    """
    question, now = answer.question, answer.chosen[slot]
    best: dict[int, Other] = {}
    for choice in question.choices(slot):
        if choice.dish < 0 or choice.dish == now.dish or _too_often(answer, slot, choice.dish):
            continue
        other = answer_of(question, {**answer.chosen, slot: choice})
        extra = other.points - answer.points
        if choice.dish not in best or extra < best[choice.dish].points:
            changes = tuple(what_changed(answer, other))
            key = question.offers[choice.dish].key
            best[choice.dish] = Other(key, choice.scale, extra, changes)
    return sorted(best.values(), key=lambda one: one.points)[:most]


def _too_often(answer: Answer, slot: Slot, dish: int) -> bool:
    """True when a dish may not come once more, at that meal."""
    offer = answer.question.offers[dish]
    days = [s[0] for s, c in answer.chosen.items() if c.dish == dish and s != slot]
    near = any(abs(day - slot[0]) < offer.apart for day in days)
    return len(days) >= offer.most_uses or near


def missed(answer: Answer, least_points: float = 0.5) -> list[Missed]:
    """What could not be met, the dearest first."""
    question, found = answer.question, []
    for day, sums in day_sums(answer).items():
        for window in question.windows:
            percent = question.missed_percent(window, sums)
            single = replace(question, windows=(window,), asks=())
            points = single.day_cost(sums) if percent > NEAR else 0.0
            if points >= least_points:
                one, amount = nutrient(window.key), amount_of(window, sums)
                words = f"{one.name} {one.text(amount)}, target {window.text()}"
                found.append(Missed(day, words, points, window.importance))
        for ask in question.asks:
            held = sums[ask.amount_key]
            if ask.is_missed(held):
                points = replace(question, windows=(), asks=(ask,)).day_cost(sums)
                words = f"{ask.name} {held:,.0f} g, target {ask.words()}"
                found.append(Missed(day, words, points, ask.importance))
    for slot in question.slots:
        if not answer.dish(slot) and slot not in question.locks:
            found.append(Missed(slot[0], empty_because(answer, slot), EMPTY, "must"))
    return sorted(found, key=lambda one: -one.points)


def evening_name(day: int) -> str:
    """The name of a cooking evening."""
    return DAY_NAMES[day] if 0 <= day < len(DAY_NAMES) else "the day before the week"


def binding(answer: Answer) -> list[str]:
    """What the week stands against: windows at their line, evenings that are full, dishes as often
    as they may come.
    """
    question, found = answer.question, []
    days = day_sums(answer)
    for window in question.windows:
        if window.importance == "watch":
            continue
        amounts = [amount_of(window, sums) for sums in days.values()]
        for line, word in ((window.low, "low"), (window.high, "high")):
            at = sum(line is not None and abs(a - line) <= 0.03 * abs(line) for a in amounts)
            if at >= 2:
                found.append(f"{nutrient(window.key).name} is at its {word} limit on {at} days")
    for day in question.rules.cooking_days:
        pots = sum(1 for (_, d), n in answer.cooked.items() if d == day and n)
        if pots >= question.rules.most_batches:
            found.append(f"the cooking evening of {evening_name(day)} is full: {pots} batches")
    new = question.new_dishes & {choice.dish for choice in answer.chosen.values()}
    if new and question.rules.most_new is not None and len(new) >= question.rules.most_new:
        found.append(f"new dishes: {len(new)}; at most {question.rules.most_new} allowed")
    for index, offer in enumerate(question.offers):
        uses = sum(c.dish == index for c in answer.chosen.values())
        places = sum(question.meals[meal].name in offer.meals for _, meal in question.slots)
        if offer.most_uses <= uses < places:
            found.append(f"{offer.name} is used as often as allowed: {uses} times")
    return found


def ways_out(
    answer: Answer,
    spare: Sequence[Spare] = (),
    told: ToldOfWays | None = None,
) -> list[WayOut]:
    """What would make the week better, what matters most first: another cooking evening, another
    pot, another dish out of `spare`, a dish oftener, a window only watched (never one that is fixed
    by a clinician or a condition).

    Each is compared with the best week that was found without a change, so a saving is what was
    found and no proof. Where that week is better than the one that stands, planning again with
    nothing changed ("again") comes first, and watching a window less last. `told` hears of each
    change that was tried, and ends the search where it says no.
    """
    present = _as_it_may_stand(answer)
    base = min(first_week(answer.question), present, key=standing_of)
    tried = [*_with_another(answer, spare), *_relaxed(answer)]
    better = list[Answer]()
    for number, (_, _, _, changed) in enumerate(tried):
        if told is not None and not told(number, len(tried), _worthy(present, base, tried, better)):
            break
        found = min(first_week(changed), same_week(changed, base), key=standing_of)
        better.append(found)
        base = _without_the_change(base, found)
    return _worthy(present, base, tried, better)


def _as_it_may_stand(answer: Answer) -> Answer:
    """The week without the dishes that can't be at their meals, for want of cooking or by a
    rule.
    """
    question, chosen = answer.question, dict(answer.chosen)
    for slot, choice in answer.chosen.items():
        options = question.choices(slot)
        if choice.dish not in {one.dish for one in options}:
            chosen[slot] = options[0]
    return answer_of(question, chosen)


def _without_the_change(base: Answer, better: Answer) -> Answer:
    """The better of the two weeks for the question of the first: what needs no change is no merit
    of one.
    """
    same = same_week(base.question, better)
    fits = standing_of(same) < standing_of(base) and not broken_rules(same)
    return same if fits else base


def _is_worth_it(before: Answer, after: Answer) -> bool:
    """True where a week misses less, or as little and is so much better that it is worth a
    change.
    """
    one, two = standing_of(before), standing_of(after)
    if one[:-1] != two[:-1]:
        return two < one
    return one.points - two.points >= WORTH_A_CHANGE


def _worthy(
    present: Answer, base: Answer, tried: Sequence[Change], better: Sequence[Answer]
) -> list[WayOut]:
    """Of planning again and the changes that were tried, those that are worth it, what matters
    most first.
    """
    found: list[tuple[int, Standing, WayOut]] = []
    if _is_worth_it(present, base):
        saved = present.points - base.points
        effect = tuple(what_changed(present, base))
        way = WayOut("plan again with nothing changed", saved, "again", "", effect)
        found.append((0, standing_of(base), way))
    for (text, kind, value, _), week in zip(tried, better, strict=False):
        if _is_worth_it(base, week):
            effect = tuple(what_changed(base, week))
            way = WayOut(text, base.points - week.points, kind, value, effect)
            found.append((2 if kind == "watch" else 1, standing_of(week), way))
    return [
        way for _, _, way in sorted(found, key=lambda one: (one[0], one[1][:-1], -one[2].saves))
    ]


def _relaxed(answer: Answer) -> Iterator[Change]:
    question, rules = answer.question, answer.question.rules
    for day in range(-1, len(question.kinds)):
        if (
            day not in rules.cooking_days
            and question.pots
            and len(rules.cooking_days) < MOST_EVENINGS
        ):
            new = replace(rules, cooking_days=tuple(sorted((*rules.cooking_days, day))))
            yield (
                f"cook on the evening of {evening_name(day)} too",
                "evening",
                str(day),
                replace(question, rules=new),
            )
    if question.pots:
        new = replace(rules, most_batches=rules.most_batches + 1)
        yield (
            "one more batch per cooking evening",
            "pots",
            str(rules.most_batches + 1),
            replace(question, rules=new),
        )
    for window in _worst_windows(answer):
        rest = tuple(w for w in question.windows if w.key != window.key)
        name = nutrient(window.key).name_in_text
        yield (
            f"track {name} without requiring it",
            "watch",
            window.key,
            replace(question, windows=(*rest, replace(window, importance="watch"))),
        )
    for index, offer in enumerate(question.offers):
        if (
            sum(c.dish == index for c in answer.chosen.values())
            >= offer.most_uses
            < len(question.kinds)
            and not offer.least_uses  # it comes as often as was wished for
        ):
            offers = list(question.offers)
            offers[index] = replace(offer, most_uses=offer.most_uses + 1)
            yield (
                f"use {offer.name} once more a week",
                "uses",
                offer.key,
                replace(question, offers=tuple(offers)),
            )
    yield from _oftener(answer)


def _oftener(answer: Answer) -> Iterator[Change]:
    """Dishes nearer to one another, where a meal is empty that they would fill."""
    question = answer.question
    empty = {question.meals[slot[1]].name for slot in question.slots if not answer.dish(slot)}
    for index, offer in enumerate(question.offers):
        if offer.apart and offer.meals & empty:
            offers = list(question.offers)
            offers[index] = replace(offer, apart=offer.apart - 1)
            words = "twice on one day" if offer.apart == 1 else f"{offer.apart - 1} days apart"
            changed = replace(question, offers=tuple(offers))
            yield f"let {offer.name} come {words}", "apart", offer.key, changed


def _with_another(answer: Answer, spare: Sequence[Spare]) -> Iterator[Change]:
    """Each spare dish offered too: the few that would help most at the meals they are for, by the
    planner's own prices, with the rest of the week as it is.
    """
    question = answer.question
    promising = sorted(
        ((_promise(answer, offer, facts), offer.key, offer, facts) for offer, facts in spare),
        key=lambda one: (-one[0], one[1]),
    )
    for _, _, offer, facts in promising[:MOST_SPARE]:
        verb = "cook" if offer.own or offer.table else "plan"
        names = [m.name.lower() for m in question.meals if m.name in offer.meals]
        changed = _also_offered(question, offer, facts)
        yield f"also {verb} {offer.name}, for {' and '.join(names)}", "dish", offer.key, changed


def _also_offered(question: Question, offer: Offer, facts: Sequence[BatchFacts]) -> Question:
    pots = (*question.pots, *(pot for pot in facts if pot.key not in question.pot_index))
    return replace(question, offers=(*question.offers, offer), pots=pots)


def _promise(answer: Answer, offer: Offer, facts: Sequence[BatchFacts]) -> float:
    """Points that a dish saves at its usual portion, added up over the meals where it saves any:
    of the meal and its day alone, without cooking.
    """
    question = _also_offered(answer.question, offer, facts)
    index, saved = len(question.offers) - 1, 0.0
    by_day: dict[int, dict[Slot, Choice]] = {}
    for slot, choice in answer.chosen.items():
        by_day.setdefault(slot[0], {})[slot] = choice
    for slot in question.slots:
        there = [c for c in question.choices(slot) if c.dish == index]
        if slot in question.locks or not there:
            continue
        usual = min(there, key=lambda choice: abs(choice.scale - 1))
        day = by_day[slot[0]]
        gain = _alone(question, day) - _alone(question, {**day, slot: usual})
        saved += max(gain, 0.0)
    return saved


def _alone(question: Question, day: Mapping[Slot, Choice]) -> float:
    """What the meals of a day and the day itself cost."""
    rows = [choice.vector for choice in day.values()]
    sums = dict(zip(question.keys, map(sum, zip(*rows, strict=True)), strict=True))
    return question.day_cost(sums) + sum(choice.cost for choice in day.values())


def _worst_windows(answer: Answer, most: int = 2) -> list[Window]:
    question, points = answer.question, {}
    for window in question.windows:
        single = replace(question, windows=(window,), asks=())
        points[window.key] = sum(single.day_cost(sums) for sums in day_sums(answer).values())
    open_ = (
        w
        for w in question.windows
        if points[w.key] >= WORTH and w.importance != "watch" and w.key not in question.fixed
    )
    worst = sorted(open_, key=lambda w: -points[w.key])
    return worst[:most]
