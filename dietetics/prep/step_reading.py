"""Tasks of written steps: the clauses of a step with their times, devices and heat.

What is written stands. What is not is taken from a table, by the grams that a step names, and
marked as a guess.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from dietetics.dishes.steps import OR_OVERNIGHT, read_step
from dietetics.prep.clauses import (
    BRINGS_TO_BOIL,
    EVERYTHING,
    HEATS_A_PAN,
    TURNED_AFTER,
    Clause,
    Verb,
    clauses_of,
)
from dietetics.prep.cutting import cutting_min
from dietetics.prep.food_words import Ingredient, named_in
from dietetics.prep.tasks import BLENDER, BURNER, NIGHT_MINUTES, OVEN, PRESSURE, Minutes, Task

NO_EVENING_MIN = 240.0  # minutes: a wait of four hours or overnight is taken overnight
NIGHT = Minutes(480.0, 600.0, 720.0)
# A Dutch oven is a pot, and an ice cube tray no baking tray.
IN_THE_OVEN = re.compile(
    r"(?<!dutch )\boven\b(?![- ]?(?:proof|safe|glove|mitt))|(?<!cube )(?<!cubes )\btray\b"
)
UNDER_PRESSURE = re.compile(r"\bpressure cooker\b|\b(?:high|low) pressure\b")
PER_SIDE = re.compile(
    r"\b(?:each side|per side|(?:minutes?|mins?|seconds?) a side|on (?:each|both) sides?)\b"
)
NOT_JUST_A_PAN = re.compile(r"\b(?:sauce|soup|milk|cream|gravy|broth to|stock to|water to)\b")
PAN_HOT = Minutes(1.0, 1.0, 3.0)
# "Let the pressure come down by itself" takes about a quarter of an hour (common practice).
RELEASED = re.compile(
    r"\bnatural(?:ly)?\b[^.;,]*?\breleas|\brelease[^.;,]*?\bnatural|"
    r"\bpressure\b[^.;,]*?\b(?:by itself|on its own|naturally)\b"
)
TIME_OF_RELEASE = re.compile(r"\b\d+[ -]?min(?:ute)?s? (?:of )?natural")
RELEASE = Minutes(10.0, 15.0, 25.0)
HANDS_AT_MOST = 3.0  # minutes of a time after "cook for": so short is stood beside
AT_LEAST = re.compile(r"\bat least\b|\bor up to\b|\bor (?:longer|more|overnight)\b|\bup to\b")
STOOD_BY = re.compile(
    r"\b(?:constantly|continuously|often|frequently|all the time|keep stirring)\b"
)
# "Simmer for 8 minutes, stirring": nothing else is done meanwhile.
STIRRED_THROUGHOUT = re.compile(
    r"\b(?:stirr?|whisk)ing\b(?: (?:constantly|continuously|all the time|throughout|gently|well))?"
    r"(?=[,.;]|$| until)|\bkeep stirring\b|\bconstantly\b|\bcontinuously\b"
)
ALL_BY_HAND_MIN, STOOD_BY_SHARE = (
    10.0,
    0.4,
)  # a longer time in a pan is short and often: our judgement
TRAY_G, MOST_TRAYS = 1000, 2  # two trays rather than a crowded one: common practice
CUT = frozenset({"chop", "grate"})
MOST_MORE_HANDS = 12.0  # minutes: a guess from grams is not stretched further


def task_of_clause(
    clause: Clause,
    key: str,
    dish: str,
    ingredients: Sequence[Ingredient],
    oven_celsius: float | None,
) -> Task:
    """A clause as a task of its dish, with nothing said yet of what it comes after.

    Times that are written stand; the others come from the table and are marked as guesses.
    """
    verb, text = clause.verb, clause.text
    read = read_step(text)
    device = _device_of(clause)
    guessed = set()
    hands = Minutes.guess(verb.hands_min + _more_hands(verb, text, ingredients))
    if HEATS_A_PAN.search(text) and not NOT_JUST_A_PAN.search(text):
        verb = replace(verb, wait=PAN_HOT)
        hands = Minutes.guess(1.0)
    wait, celsius = verb.wait, read.celsius
    written = None if read.minutes is None else _minutes_of(text, read.minutes)
    if TURNED_AFTER.search(text):
        written = None  # that is when, and not for how long
    if written is not None and PER_SIDE.search(text):
        written = written.times(2)
    night = (
        verb.night
        or clause.night
        or ("overnight" in text and not _is_shorter(text, written))
        or (written is not None and written.low >= NIGHT_MINUTES)
    )
    if written is not None and device == PRESSURE and _is_released_untimed(text):
        written = written.plus(RELEASE)
    if night:
        wait = NIGHT
    elif written is None:
        wait = _usual_wait(verb, text, ingredients)
        guessed |= {"hands"} | ({"wait"} if wait.likely else set())
    elif _is_of_hands(verb, device, written, text):
        hands, wait = _hands_and_wait(text, device, written)
    else:
        wait = written
        guessed.add("hands")
    if device == OVEN and celsius is None:
        celsius = oven_celsius or verb.celsius or 200.0
        if oven_celsius is None:
            guessed.add("celsius")
    trays = max(1, -(-round(_grams_of(text, ingredients)) // TRAY_G)) if device == OVEN else 1
    words = "; ".join((*clause.before, clause.written or text, *clause.notes))
    sentence = f"{words[0].upper()}{words[1:]}"
    return Task(
        key,
        dish,
        sentence,
        verb.name,
        hands,
        wait,
        device,
        celsius if device == OVEN else None,
        min(trays, MOST_TRAYS),
        night=night,
        guessed=frozenset(guessed),
        dishes=(dish,),
    )


def _minutes_of(text: str, minutes: tuple[float, float]) -> Minutes:
    """A written time. "At least 30 minutes or up to 4 hours" is planned with the least of them."""
    low, high = minutes
    if AT_LEAST.search(text) and high > low:
        return Minutes(low, low, high)
    return Minutes(low, (low + high) / 2, high)


def _is_released_untimed(text: str) -> bool:
    """True where the pressure falls by itself, and nobody says for how long."""
    released = RELEASED.search(text)
    if released is None or TIME_OF_RELEASE.search(text):
        return False
    return read_step(text[released.start() :]).minutes is None


def _is_shorter(text: str, written: Minutes | None) -> bool:
    """True for "2 hours or overnight", which fits into the evening; 4 hours do not."""
    return bool(written is not None and OR_OVERNIGHT.search(text) and written.low < NO_EVENING_MIN)


def _is_stood_by(text: str) -> bool:
    """True for what is stirred often or all the time."""
    return bool(STOOD_BY.search(text) or STIRRED_THROUGHOUT.search(text))


def _hands_and_wait(text: str, device: str, written: Minutes) -> tuple[Minutes, Minutes]:
    """A time in a pan: all of it by hand where it is short or stirred often, else a share."""
    if device != BURNER or written.likely <= ALL_BY_HAND_MIN or _is_stood_by(text):
        return written, Minutes()
    return written.times(STOOD_BY_SHARE), written.times(1 - STOOD_BY_SHARE)


def _usual_wait(verb: Verb, text: str, ingredients: Sequence[Ingredient]) -> Minutes:
    """The table's time of a verb; for grains and beans that are named, the longest of theirs."""
    known = [one.simmers for one in named_in(text, ingredients) if one.simmers is not None]
    if BRINGS_TO_BOIL.search(text) or verb.name not in ("boil", "simmer", "cook") or not known:
        return verb.wait
    return max(known, key=lambda minutes: minutes.likely)


def _is_of_hands(verb: Verb, device: str, written: Minutes, text: str) -> bool:
    """True where a written time is stood beside, false where it passes alone."""
    if device == BURNER and _is_stood_by(text):
        return True
    if verb.device == BURNER and verb.timed == "w" or verb.name == "squeeze":
        return written.high <= HANDS_AT_MOST
    return verb.timed == "h" and device != OVEN


def _device_of(clause: Clause) -> str:
    """The verb's usual device, or the one the words name."""
    text, verb = clause.text, clause.verb
    if verb.kind in ("early", "end"):
        return ""
    if verb.kind == "cook" and UNDER_PRESSURE.search(text) and verb.name != "rest":
        return PRESSURE
    heated = read_step(text).celsius is not None  # no pan is told its degrees
    if verb.device == BURNER and (heated or IN_THE_OVEN.search(text)):
        return OVEN
    if re.search(r"\bblender\b|\bfood processor\b", text):
        return BLENDER
    return verb.device


def _grams_of(text: str, ingredients: Sequence[Ingredient]) -> float:
    """Grams of what a clause names; of everything where it names nothing."""
    named = named_in(text, ingredients) or list(ingredients)
    return sum(one.grams for one in named)


def _more_hands(verb: Verb, text: str, ingredients: Sequence[Ingredient]) -> float:
    """More minutes of hands for more food."""
    if not verb.per_100g:
        return 0.0
    named = named_in(text, ingredients)
    if not named and (verb.kind == "early" or EVERYTHING.search(text.lower())):
        named = [one for one in ingredients if verb.kind != "early" or one.is_vegetable]
    if verb.name in CUT:
        return sum(cutting_min(text, one.grams, one.family) for one in named)
    return min(verb.per_100g * sum(one.grams for one in named) / 100, MOST_MORE_HANDS)


def tasks_of_step(
    step: str, key: str, dish: str, ingredients: Sequence[Ingredient], oven_celsius: float | None
) -> list[tuple[Clause, Task]]:
    """The clauses of a step with their tasks, keyed `key`-1, `key`-2 …

    A heat that was written holds for what goes into the oven after it; what is left overnight was
    put together before, on the same evening.
    """
    found: list[tuple[Clause, Task]] = []
    oven_celsius = oven_heat_of([step]) or oven_celsius
    about: Sequence[Ingredient] = ingredients  # what "it" is, and a verb without a food
    for n, clause in enumerate(clauses_of(step), start=1):
        named = named_in(clause.text, ingredients)
        about = named or about
        of_these = about if clause.verb.kind == "early" and not named else ingredients
        task = task_of_clause(clause, f"{key}-{n}", dish, of_these, oven_celsius)
        if task.device == OVEN and "celsius" not in task.guessed:
            oven_celsius = task.celsius
        if task.night:
            found = [(c, replace(t, night=True)) for c, t in found]
        found.append((clause, task))
    return found


def oven_heat_of(steps: Sequence[str]) -> float | None:
    """The heat of "heat the oven to …", for what is roasted later without a figure."""
    for step in steps:
        if re.search(r"heat (?:the |your )?oven", step.lower()):
            heat = read_step(step).celsius
            if heat is not None:
                return heat
    return None
