"""What the lines of a dish ask for that no step says: cutting and rinsing by their words ("2
carrots, diced"), and what everybody knows of dry beans: soaked the night before, the water poured
away, and kidney beans boiled hard.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

from dietetics.composition.foods import Food, read_table
from dietetics.prep.clauses import Verb, verb_named
from dietetics.prep.cutting import cutting_min
from dietetics.prep.food_words import words_for, words_of_line
from dietetics.prep.heating import WATER_FOR_DRY, minutes_to_boil
from dietetics.prep.pot_heat import to_the_boil_words
from dietetics.prep.step_reading import CUT, NIGHT
from dietetics.prep.tasks import BURNER, PRESSURE, Minutes, Task
from dietetics.prep.to_cook import CookedLine, DishToCook, listed, short_name

# Words of an ingredient line that ask for something to be done, and the verb they mean.
LINE_WORDS = (
    (re.compile(r"\b(?:diced|chopped|sliced|minced|shredded|cubed|cut|halved|wedges)\b"), "chop"),
    (re.compile(r"\bgrated\b"), "grate"),
    (re.compile(r"\bpressed\b"), "press"),
    (re.compile(r"\bsoaked\b"), "soak"),
    (re.compile(r"\b(?:drained|rinsed)\b"), "rinse"),
)

DRAINING_MIN = 1.0
BOIL_HARD = "boil hard"
ONTO_THE_HEAT = frozenset({"boil", "simmer", "cook", "slow-cook", "pressure-cook"})
HARD_BOIL = Minutes(10.0, 10.0, 30.0)  # as the caution of kidney beans says, with its sources
SHORT = 3  # words of a step that names nothing: "Drain and rinse"


@lru_cache(maxsize=1)
def _usual() -> Mapping[str, Mapping[str, str]]:
    return {row["family"]: row for row in read_table("cooking_minutes.csv")}


def early_tasks(dish: DishToCook, written: Sequence[Task]) -> list[Task]:
    """What the lines ask for that no step says: cutting, soaking, rinsing. All that is cut of a
    dish is one task.
    """
    found: list[Task] = []
    said = {task.verb for task in written}
    for name in ("soak", "press", "rinse", "grate", "chop"):
        lines = [line for line in dish.lines if name in _asked_of(line) and line.food is not None]
        if not lines or name in said:
            continue
        if name == "soak":
            for n, line in enumerate(lines):
                found += _soaked(dish, line, n, written)
            continue
        verb = verb_named(name)
        hands = verb.hands_min + sum(_minutes_of_line(verb, line) for line in lines)
        names = listed([short_name(line.food) for line in lines if line.food is not None])
        found.append(
            Task(
                f"{dish.key}-{name}",
                dish.name,
                f"{name.capitalize()} {names}",
                name,
                Minutes.guess(hands),
                verb.wait,
                guessed=frozenset({"hands", "wait"} if verb.wait.likely else {"hands"}),
                dishes=(dish.name,),
                parts=tuple((line.food.key, line.grams) for line in lines if line.food),
            )
        )
    return found


def _minutes_of_line(verb: Verb, line: CookedLine) -> float:
    """Minutes of hands for one line, by its grams, and by its cut where it is cut."""
    if verb.name in CUT:
        return cutting_min(line.text, line.grams, line.food.family if line.food else "")
    return verb.per_100g * line.grams / 100


def _asked_of(line: CookedLine) -> list[str]:
    """The verbs that a line asks for, by its words or because everybody does so."""
    text = line.text.lower()
    found = [verb for pattern, verb in LINE_WORDS if pattern.search(text)]
    food = line.food
    if food is None:
        return found
    if usual_of(food).get("soak") == "yes" and "soak" not in found:
        found.append("soak")
    if food.state not in ("raw", "as-sold", "dried", "dry"):
        found = [verb for verb in found if verb not in ("chop", "grate")]  # cut when it was canned
    canned = food.state.startswith("canned")
    if usual_of(food).get("soak") == "rinse":
        found.append("rinse")
    if not canned and food.state != "dry":
        return [verb for verb in found if verb != "rinse"]
    return found


def usual_of(food: Food) -> Mapping[str, str]:
    """What is usual for a dry grain or bean; nothing for other foods."""
    return _usual().get(food.family, {}) if food.state == "dry" else {}


def usual_minutes(food: Food) -> float | None:
    """Minutes at a simmer that are usual for a dry grain or bean; None for other foods."""
    row = usual_of(food)
    return float(row["likely"]) if row else None


def _soaked(dish: DishToCook, line: CookedLine, n: int, written: Sequence[Task]) -> list[Task]:
    """Soak one food: beans overnight, nuts and the like for a while. The water of beans is poured
    away, and kidney beans are boiled hard, where no step says so.
    """
    assert line.food is not None
    soak = _soaking(dish, line, n)
    if line.food.group != "legume":
        return [soak]
    name = short_name(line.food)
    found = [soak]
    if not _is_said(line, _before_the_heat(line, written), ("drain", "rinse")):
        words = f"Drain and rinse the soaked {name}; pour the soaking water away"
        found.append(_after(soak, "drained", words, "drain", Minutes.guess(DRAINING_MIN)))
    if is_boiled_hard(line.food) and not is_said_boiled_hard(dish, line, written):
        boiled = _after(found[-1], "boiled", hard_boil_words(name), BOIL_HARD, Minutes.guess(1))
        wait = hard_boil_wait(line.grams)
        text = to_the_boil_words(boiled.text, wait.less(HARD_BOIL))
        found.append(
            replace(
                boiled,
                text=text,
                wait=wait,
                device=BURNER,
                pot_g=line.grams * (1 + WATER_FOR_DRY),
                to_boil=wait.less(HARD_BOIL),
            )
        )
    return found


def is_boiled_hard(food: Food) -> bool:
    """True for dry kidney beans and their kin: raw they hold a poison that a simmer leaves."""
    return usual_of(food).get("caution") == "kidney"


def hard_boil_words(name: str) -> str:
    """What is done with kidney beans before they simmer, in the words of their caution."""
    return f"Boil the {name} hard in fresh water for at least 10 minutes (30 by US FDA advice)"


def hard_boil_wait(grams: float) -> Minutes:
    """How long so many grams of dry beans take to the boil and in it."""
    return minutes_to_boil(grams * (1 + WATER_FOR_DRY)).plus(HARD_BOIL)


def _after(task: Task, key: str, text: str, verb: str, hands: Minutes) -> Task:
    """What is done next with the food of a task, on the evening itself."""
    return replace(
        task,
        key=f"{task.key}-{key}",
        text=text,
        verb=verb,
        hands=hands,
        wait=Minutes(),
        after=(task.key,),
        night=False,
        guessed=frozenset({"hands"}),
    )


def _is_said(line: CookedLine, written: Sequence[Task], verbs: Sequence[str]) -> bool:
    """True where a step does one of these with the food of a line, or names none."""
    words = _words_of(line)
    return any(
        task.verb in verbs and (words & words_for(task.text) or len(task.text.split()) <= SHORT)
        for task in written
    )


def _before_the_heat(line: CookedLine, written: Sequence[Task]) -> Sequence[Task]:
    """The steps until a food goes on the heat: it is drained of its soaking water before, and of
    what it was cooked in behind.
    """
    mine = _words_of(line)
    for at, task in enumerate(written):
        heated = task.device in (BURNER, PRESSURE) and task.verb in ONTO_THE_HEAT
        if heated and (mine & words_for(task.text) or len(task.text.split()) <= SHORT):
            return written[:at]
    return written


def is_said_boiled_hard(dish: DishToCook, line: CookedLine, written: Sequence[Task]) -> bool:
    """True where a step boils a food for ten minutes, or cooks it under pressure: by its name, or
    without naming another food of the dish.
    """
    mine = _words_of(line)
    others = frozenset[str]().union(*(_words_of(one) for one in dish.lines if one is not line))
    return any(
        mine & words_for(task.text) or not (others - mine) & words_for(task.text)
        for task in written
        if task.device == PRESSURE or _boils_ten_minutes(task)
    )


def _boils_ten_minutes(task: Task) -> bool:
    minutes = task.wait.likely + task.hands.likely
    return task.verb == "boil" and "wait" not in task.guessed and minutes >= HARD_BOIL.likely


def _words_of(line: CookedLine) -> frozenset[str]:
    """The words by which a step may name the food of a line."""
    return words_of_line(line.text) | (words_for(line.food.name) if line.food else frozenset())


def _soaking(dish: DishToCook, line: CookedLine, n: int) -> Task:
    """Soak one food; its grams are said where nobody else says them."""
    assert line.food is not None
    night = line.food.group in ("legume", "grain", "soy-food")
    verb = verb_named("soak")
    amount = f"{line.grams:,.0f} g " if dish.is_plain else ""
    how = " overnight in plenty of water" if night else " in boiling water"
    return Task(
        f"{dish.key}-soak{n}",
        dish.name,
        f"Soak {amount}{short_name(line.food)}{how}",
        "soak",
        Minutes.guess(2),
        NIGHT if night else verb.wait,
        night=night,
        guessed=frozenset({"hands", "wait"}),
        dishes=(dish.name,),
        parts=((line.food.key, line.grams),),
    )
