"""What several dishes of an evening can share: food that is cut or soaked once for all, and one
heat of the oven for what wants about the same.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from dietetics.composition.foods import Shelf, load_shelf
from dietetics.prep.clauses import verb_named
from dietetics.prep.heating import WATER_FOR_DRY, minutes_to_boil
from dietetics.prep.line_tasks import BOIL_HARD, hard_boil_wait, hard_boil_words, is_boiled_hard
from dietetics.prep.tasks import OVEN, Minutes, Task

SHARED_VERBS = ("soak", "rinse", "drain", "grate", "chop")
ONE_POT_VERBS = (
    BOIL_HARD,
    "boil",
    "simmer",
    "cook",
)  # of a grain or bean that is alone in its water
AWAY = "; pour the soaking water away"
HEAT_APART = 15.0  # °C to each side within which dishes share an oven: common practice
# Ten degrees more shorten a time by about a tenth: common practice, for what is roasted; what has
# to rise is not moved.
SHARE_A_DEGREE = 0.01


def joined(tasks: Sequence[Task], shelf: Shelf | None = None) -> list[Task]:
    """The tasks, with a food that several dishes cut, rinse, soak or cook by itself done once for
    all of them.
    """
    found = list(tasks)
    for verb in SHARED_VERBS:
        by_food: dict[str, list[Task]] = {}
        for task in found:
            for food, _ in task.parts if task.verb == verb else ():
                by_food.setdefault(food, []).append(task)
        for food, users in by_food.items():
            if len({task.dish for task in users}) > 1:
                keys = {task.key for task in users}
                found = _done_once(found, verb, food, keys, shelf or load_shelf())
    return _in_one_pot(found, shelf or load_shelf())


def _done_once(tasks: list[Task], verb: str, food: str, keys: set[str], shelf: Shelf) -> list[Task]:
    """One task for a food in place of its part in the tasks with these keys."""
    users = [task for task in tasks if task.key in keys]
    grams = sum(g for task in users for key, g in task.parts if key == food)
    known = verb_named(verb)
    minutes = known.hands_min + min(known.per_100g * grams / 100, 15.0)
    dishes = tuple(dict.fromkeys(name for task in users for name in task.dishes))
    name = shelf.foods[food].name.partition(",")[0].lower() if food in shelf.foods else food
    shared = Task(
        f"{verb}-{food}",
        " and ".join(dishes),
        f"{verb.capitalize()} {name} for {' and '.join(dishes)} ({grams:,.0f} g)"
        + (AWAY if verb == "drain" else ""),
        verb,
        Minutes.guess(minutes),
        users[0].wait,
        after=tuple(dict.fromkeys(key for task in users for key in task.after)),
        night=users[0].night,
        guessed=users[0].guessed,
        dishes=dishes,
        parts=((food, grams),),
    )
    gone: dict[str, tuple[str, ...]] = {}
    kept: list[Task] = [shared]
    for task in tasks:
        if task.key not in keys:
            kept.append(task)
            continue
        rest = tuple(part for part in task.parts if part[0] != food)
        if not rest:
            gone[task.key] = task.after
            continue
        kept.append(_only(task, rest, shelf))
    return [_waiting_for(task, shared.key, keys, gone) for task in kept]


def _in_one_pot(tasks: list[Task], shelf: Shelf) -> list[Task]:
    """The tasks, with one pot of a grain or bean for the dishes that cook it alone in water:
    brought to the boil together, kidney beans boiled hard, then for as long as the longest asks.
    """
    by_food: dict[str, dict[str, list[Task]]] = {}
    for task in tasks:
        if task.verb in ONE_POT_VERBS and len(task.parts) == 1:
            by_food.setdefault(task.parts[0][0], {}).setdefault(task.dish, []).append(task)
    for food, chains in by_food.items():
        if len(chains) > 1 and all(map(_can_share, chains.values())):
            tasks = _one_pot(tasks, food, chains, shelf)
    return tasks


def _can_share(chain: Sequence[Task]) -> bool:
    """True for what is cooked at once, or brought to the boil first; a recipe that boils it for a
    time of its own keeps its own pot.
    """
    first = chain[0]
    is_begun_alike = first.verb == BOIL_HARD or "wait" in first.guessed
    return len(chain) == 1 or (len(chain) == 2 and is_begun_alike)


def _one_pot(
    tasks: list[Task], food: str, chains: Mapping[str, Sequence[Task]], shelf: Shelf
) -> list[Task]:
    """One pot in place of these, each dish's own tasks in their order."""
    grams = {dish: chain[-1].parts[0][1] for dish, chain in chains.items()}
    total = sum(grams.values())
    shares = ", ".join(f"{g:,.0f} g for {dish}" for dish, g in grams.items())
    name = shelf.foods[food].name.partition(",")[0].lower()
    last = [chain[-1] for chain in chains.values()]
    first = [chain[0] for chain in chains.values() if len(chain) > 1]
    begun = tuple(dict.fromkeys(key for chain in chains.values() for key in chain[0].after))
    is_hard = is_boiled_hard(shelf.foods[food])
    to_boil = replace(
        (first or last)[0],
        key=f"boil-{food}",
        dish=" and ".join(grams),
        text=f"{hard_boil_words(name)}, one pot of {total:,.0f} g ({shares})"
        if is_hard
        else f"Bring {total:,.0f} g {name} to the boil in fresh water, one pot ({shares})",
        verb=BOIL_HARD if is_hard else "boil",
        wait=hard_boil_wait(total) if is_hard else minutes_to_boil(total * (1 + WATER_FOR_DRY)),
        after=begun,
        dishes=tuple(grams),
        parts=((food, total),),
        pot_g=total * (1 + WATER_FOR_DRY),
        to_boil=minutes_to_boil(total * (1 + WATER_FOR_DRY)),
    )
    longest = max(last, key=lambda task: task.wait.likely)
    simmers = longest.wait.less(longest.to_boil)
    cooked = replace(
        longest,
        key=f"{longest.verb}-{food}",
        dish=to_boil.dish,
        text=f"Simmer the {name} for {simmers.words()}; share the pot by what went in",
        after=(to_boil.key,),
        dishes=to_boil.dishes,
        parts=to_boil.parts,
        pot_g=to_boil.pot_g,
        wait=simmers,
        to_boil=Minutes(),
    )
    gone = {task.key: (to_boil.key,) for task in first} | {task.key: (cooked.key,) for task in last}
    rest = [task for task in tasks if task.key not in gone]
    return [*(_waiting_for(task, cooked.key, set(gone), gone) for task in rest), to_boil, cooked]


def _only(task: Task, rest: tuple[tuple[str, float], ...], shelf: Shelf) -> Task:
    """A task with what is left of its parts, where one is done elsewhere."""
    known = verb_named(task.verb)
    minutes = known.hands_min + min(known.per_100g * sum(g for _, g in rest) / 100, 15.0)
    names = [
        shelf.foods[key].name.partition(",")[0].lower() for key, _ in rest if key in shelf.foods
    ]
    text = f"{task.verb.capitalize()} {', '.join(dict.fromkeys(names))}"
    return replace(task, parts=rest, hands=Minutes.guess(minutes), text=text)


def _waiting_for(
    task: Task, shared: str, keys: set[str], gone: Mapping[str, tuple[str, ...]]
) -> Task:
    """A task with the shared one among what it waits for, and without those that are gone."""
    if not keys & set(task.after):
        return task
    after: list[str] = []
    for key in task.after:
        after += gone.get(key, (key,))
        if key in keys:
            after.append(shared)
    return replace(task, after=tuple(dict.fromkeys(key for key in after if key != task.key)))


def sharing_heat(tasks: Sequence[Task]) -> tuple[list[Task], list[str]]:
    """The tasks with as few heats of the oven as serve, times corrected, and each change in words.

    Heats in order; each group reaches as far as one heat within 15 °C of all its members exists:
    no choice needs fewer groups. The group's heat is the one its members ask for most, within
    reach of all.
    """
    heats = sorted({t.celsius for t in tasks if t.device == OVEN and t.celsius is not None})
    groups: list[list[float]] = []
    for heat in heats:
        if groups and heat - groups[-1][0] <= 2 * HEAT_APART:
            groups[-1].append(heat)
        else:
            groups.append([heat])
    chosen = {heat: _heat_of(group, tasks) for group in groups for heat in group}
    found, words = [], []
    for task in tasks:
        to = chosen.get(task.celsius) if task.celsius is not None else None
        if task.device != OVEN or to is None or to == task.celsius:
            found.append(task)
            continue
        assert task.celsius is not None
        factor = 1 + (task.celsius - to) * SHARE_A_DEGREE
        moved = replace(
            task,
            celsius=to,
            wait=task.wait.times(factor),
            asked_celsius=task.celsius,
            asked_wait=task.wait,
        )
        found.append(moved)
        words.append(
            f"{task.dish}: {to:.0f} °C instead of {task.celsius:.0f}, so that the oven is shared; "
            f"{moved.wait_min} min instead of {task.wait_min}."
        )
    return found, words


def _heat_of(group: Sequence[float], tasks: Sequence[Task]) -> float:
    """The heat of a group: what most of its members ask for, within reach of all."""
    low, high = max(group) - HEAT_APART, min(group) + HEAT_APART
    asked = [t.celsius for t in tasks if t.device == OVEN and t.celsius in group]
    within = [heat for heat in asked if heat is not None and low <= heat <= high]
    if not within:
        return round((low + high) / 2 / 5) * 5.0
    return max(within, key=lambda heat: (within.count(heat), heat))
