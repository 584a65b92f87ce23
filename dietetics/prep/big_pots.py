"""One big pot for several dishes: what holds more than a saucepan is cooked in turns, and the pot
is washed between.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import permutations

from dietetics.errors import DieteticsError
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.planning import quick_timetable
from dietetics.prep.tasks import BURNER, Minutes, Task
from dietetics.prep.timetable import asked_of

SAUCEPAN_G = 3000.0  # what a usual saucepan holds; more wants the big pot: common practice
WASH_POT_MIN = 3.0  # to wash it between two dishes: common practice
MOST_TRIED = 3  # dishes whose every order is tried; of more, the longest goes first
FEW_ORDERS = 6
Stay = tuple[str, ...]  # the keys of the tasks of one dish that hold the big pot


def cooked_in_turns(tasks: Sequence[Task], kitchen: Kitchen) -> tuple[list[Task], list[str]]:
    """The tasks, where more dishes want a big pot than there are: one after another, in the order
    that makes the evening shortest, each after the pot was washed; and the choice in words.
    """
    stays = _stays(tasks)
    if len(stays) <= kitchen.big_pots:
        return list(tasks), []
    best: tuple[int, list[Task], tuple[str, ...]] | None = None
    for order in _orders(stays, tasks):
        turned = _turned(tasks, stays, order, kitchen.big_pots)
        try:
            length = quick_timetable(asked_of(turned, kitchen), FEW_ORDERS).length
        except DieteticsError:
            continue  # one of them waits for the other in another way
        if best is None or length < best[0]:
            best = (length, turned, order)
    if best is None:
        alone = [replace(task, pot_g=0.0) for task in tasks]
        return alone, [f"{' and '.join(stays)} want a big pot at the same time: borrow one."]
    pots = "one big pot" if kitchen.big_pots == 1 else f"{kitchen.big_pots} big pots"
    return best[1], [f"{pots.capitalize()} for {', then '.join(best[2])}; washed between."]


def _stays(tasks: Sequence[Task]) -> dict[str, Stay]:
    """The dishes that want a big pot, each with the tasks on the heat that it is wanted for."""
    found: dict[str, Stay] = {}
    for task in tasks:
        if task.device == BURNER and not task.night and task.pot_g > SAUCEPAN_G:
            found[task.dish] = (*found.get(task.dish, ()), task.key)
    return found


def _orders(stays: dict[str, Stay], tasks: Sequence[Task]) -> list[tuple[str, ...]]:
    """The orders that are tried."""
    if len(stays) <= MOST_TRIED:
        return list(permutations(stays))
    minutes = {t.key: t.minutes for t in tasks}
    return [tuple(sorted(stays, key=lambda dish: -sum(minutes[key] for key in stays[dish])))]


def _turned(
    tasks: Sequence[Task], stays: dict[str, Stay], order: Sequence[str], pots: int
) -> list[Task]:
    """The tasks with each dish in the pot after the one before it, and the pot washed."""
    found = list(tasks)
    for earlier, later in zip(order, order[pots:], strict=False):
        emptied = (
            tuple(task.key for task in found if task.verb == "portion" and earlier in task.dishes)
            or stays[earlier][-1:]
        )
        wash = Task(
            f"wash-pot-{stays[later][0]}",
            later,
            f"Wash the big pot for {later}",
            "wash",
            Minutes.guess(WASH_POT_MIN),
            after=emptied,
            guessed=frozenset({"hands"}),
            dishes=(later,),
        )
        first = stays[later][0]
        found = [
            replace(task, after=(*task.after, wash.key)) if task.key == first else task
            for task in found
        ]
        found.append(wash)
    return found
