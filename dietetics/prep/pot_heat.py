"""What a task on a burner takes until its pot boils: a recipe counts from the boil, and a cook
waits for it.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from dietetics.prep.clauses import BRINGS_TO_BOIL
from dietetics.prep.component_words import LIQUIDS, POT_OF_WATER
from dietetics.prep.food_words import Ingredient
from dietetics.prep.heating import (
    BURNER_KW,
    PAN_OF_WATER_G,
    WATER_FOR_DRY,
    WATER_TO_BOIL_IN,
    minutes_to_boil,
    minutes_to_pressure,
)
from dietetics.prep.tasks import BURNER, PRESSURE, Minutes, Task

SIMMERED = frozenset({"simmer", "boil", "cook", "blanch"})
IN_WATER = frozenset({"boil", "blanch"})
TO_THE_BOIL_FIRST = "; to the boil first, about"
WARM = re.compile(r"\b(?:boiling|(?:the|a|full) boil|hot|warm|kettle)\b")
LEAST_COLD_G = 300.0  # less is hot again in no time: our judgement


def with_heat(task: Task, held: Sequence[Ingredient], cold_g: float, was_hot: bool) -> Task:
    """A task with the time until what is in its pot boils, or comes to pressure. `held` is all that
    is in it, `cold_g` grams of cold liquid that were added to what was hot (`was_hot`).
    """
    grams = grams_in_the_pot(held)
    is_in_a_pot = task.verb in SIMMERED or BRINGS_TO_BOIL.search(task.text.lower())
    if task.device == BURNER and is_in_a_pot:
        task = replace(task, pot_g=grams)
    if BRINGS_TO_BOIL.search(task.text.lower()) and "wait" in task.guessed:
        water = PAN_OF_WATER_G if POT_OF_WATER.search(task.text.lower()) else grams
        boil = minutes_to_boil(water)
        return replace(task, wait=boil, to_boil=boil) if water else task
    if task.device == PRESSURE and "wait" not in task.guessed and grams:
        boil = minutes_to_boil(grams)
        return replace(task, wait=task.wait.plus(minutes_to_pressure(grams)), to_boil=boil)
    if task.device != BURNER or task.verb not in SIMMERED or WARM.search(task.text.lower()):
        return task
    if was_hot:
        return _first_to_the_boil(task, cold_g) if cold_g >= LEAST_COLD_G else task
    has_a_pot = any(one.simmers or one.words & LIQUIDS for one in held)
    if task.verb in IN_WATER and not has_a_pot:
        grams *= 1 + WATER_TO_BOIL_IN
    return _first_to_the_boil(task, grams) if has_a_pot or task.verb in IN_WATER else task


def grams_in_the_pot(held: Sequence[Ingredient]) -> float:
    """Grams that are brought to the boil: dry grains and beans with their water, where no line says
    what they are cooked in.
    """
    has_liquid = any(one.words & LIQUIDS for one in held)
    water = 0 if has_liquid else WATER_FOR_DRY
    return sum(one.grams * (1 + (water if one.simmers else 0)) for one in held)


def _first_to_the_boil(task: Task, grams: float) -> Task:
    """A task that so many grams are brought to the boil for, and says so."""
    if not grams or not task.minutes:
        return task
    first = minutes_to_boil(grams)
    text = to_the_boil_words(task.text, first)
    return replace(task, wait=task.wait.plus(first), text=text, to_boil=first)


def on_a_burner(task: Task, burner_kw: float) -> Task:
    """A task with the time that its pot takes to boil on a burner of so many kilowatts: half the
    power takes twice as long.
    """
    if not task.to_boil.likely or burner_kw == BURNER_KW:
        return task
    boil = task.to_boil.times(BURNER_KW / burner_kw)
    text, said, _ = task.text.partition(TO_THE_BOIL_FIRST)
    return replace(
        task,
        wait=task.wait.less(task.to_boil).plus(boil),
        text=to_the_boil_words(text, boil) if said else text,
        to_boil=boil,
    )


def to_the_boil_words(text: str, first: Minutes) -> str:
    """The words of a task with how long its pot takes to boil."""
    return f"{text}{TO_THE_BOIL_FIRST} {first.likely:.0f} min"
