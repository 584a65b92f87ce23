"""The tasks of one dish: from its written steps, from words in its ingredient lines ("2 carrots,
diced"), and from what everybody knows (dry beans are soaked the night before).

A dish without steps gets the usual ones by how it is cooked, and says so.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import dataclass, field, replace
from functools import lru_cache

from dietetics.composition.foods import Food, read_table
from dietetics.prep.cutting import cutting_min
from dietetics.prep.food_words import words_for, words_of_line
from dietetics.prep.heating import PAN_OF_WATER_G, minutes_to_boil, minutes_to_pressure
from dietetics.prep.step_reading import (
    BRINGS_TO_BOIL,
    CUT,
    EVERYTHING,
    NIGHT,
    Clause,
    Ingredient,
    Verb,
    is_aside,
    is_note,
    named_in,
    oven_heat_of,
    parts_of,
    tasks_of_step,
    verb_named,
)
from dietetics.prep.tasks import BURNER, OVEN, PRESSURE, Minutes, Task

SHALLOW = "in shallow containers, not too full, lids off until cool"
HOT_WITHIN = 45  # minutes that what was hot may stand before it is shared out to cool
POT_WITHIN = 10  # minutes that a pot may stand between two steps on the heat
TURN_WITHIN = 1  # minutes that what is turned may be out of the oven
PORTION_MIN, PORTION_MORE = 2.0, 0.5  # minutes, and more for each container: common practice
VEGETABLES = frozenset({"vegetable", "starchy-vegetable", "leafy-green", "mushroom", "fruit"})
NAMED_FROM_G = 30.0  # what there is less of is not named in a step of our own
JOINING = frozenset({"mix", "spread", "shape", "blend"})  # what brings together what stood apart
POT_OF_WATER = re.compile(r"\b(?:pot|pan|saucepan) of (?:\w+ )?water\b")
STORED = frozenset({"chill", "freeze"})  # at the end of a dish: it stands in the cold, done
NEEDS_HEAT = frozenset({"legume", "grain", "starchy-vegetable", "mushroom"})
# Words of an ingredient line that ask for something to be done, and the verb they mean.
LINE_WORDS = (
    (re.compile(r"\b(?:diced|chopped|sliced|minced|shredded|cubed|cut|halved|wedges)\b"), "chop"),
    (re.compile(r"\bgrated\b"), "grate"),
    (re.compile(r"\bpressed\b"), "press"),
    (re.compile(r"\bsoaked\b"), "soak"),
    (re.compile(r"\b(?:drained|rinsed)\b"), "rinse"),
)
CAUTIONS: Mapping[str, str] = {
    "beans": "Discard the soaking water; boil until soft all through.",
    "kidney": (
        "Discard the soaking water and boil hard for at least 10 minutes (30 by US FDA advice); "
        "never cook from raw in a slow cooker."
    ),
    "rice": "Cool rice at once: spread it out, in the refrigerator within an hour.",
    "sprouts": "Cook sprouts until steaming hot.",
    "garlic-oil": "Garlic in oil: refrigerate, 4 days at most, or freeze.",
}
THE_REST = re.compile(r"\b(?:rest|remaining|mixture|other ingredients|ingredients)\b")
NO_STEPS = "No method is written: usual steps and times by its ingredients and how it is cooked."


@dataclass(frozen=True)
class CookedLine:
    """An ingredient line: as written, the food it means and grams as cooked now."""

    text: str
    food: Food | None
    grams: float


@dataclass(frozen=True)
class DishToCook:
    """A dish to be cooked: its lines (scaled), its steps, the way it is cooked ("pot", "roasted"
    …), and how many containers it is shared out into. `is_plain` is a single food that everybody
    knows how to cook.
    """

    key: str
    name: str
    lines: tuple[CookedLine, ...]
    steps: tuple[str, ...] = ()
    method: str = "pot"
    containers: int = 1
    corrections: Mapping[str, Mapping[str, float | str]] = field(default_factory=dict)
    is_plain: bool = False


@dataclass(frozen=True)
class DishTasks:
    """The tasks of a dish; `cautions` for the cook, `remarks` about what was not written."""

    tasks: tuple[Task, ...]
    cautions: tuple[str, ...] = ()
    remarks: tuple[str, ...] = ()


@lru_cache(maxsize=1)
def _usual() -> Mapping[str, Mapping[str, str]]:
    return {row["family"]: row for row in read_table("cooking_minutes.csv")}


def tasks_of_dish(dish: DishToCook) -> DishTasks:
    """Every task of a dish, each after what it needs, with corrections of the cook put in."""
    ingredients = [_ingredient(line) for line in dish.lines if line.food is not None]
    remarks = []
    written = _written_tasks(dish, ingredients)
    if not written:
        written = _usual_steps(dish)
        if not dish.is_plain:
            remarks.append(NO_STEPS)
    tasks = _linked(_early_tasks(dish, [task for _, task in written]), written, ingredients)
    tasks = _begun_before(tasks)
    tasks.append(_portioning(dish, tasks))
    return DishTasks(
        tuple(corrected(task, dish.corrections) for task in tasks),
        tuple(_cautions(dish)),
        tuple(remarks),
    )


def _written_tasks(
    dish: DishToCook, ingredients: Sequence[Ingredient]
) -> list[tuple[Clause, Task]]:
    """The tasks of the steps; a heat holds until another is written. Sharing out is added later,
    for every dish alike.
    """
    heat = oven_heat_of(dish.steps)
    found: list[tuple[Clause, Task]] = []
    notes: list[tuple[int, str]] = []  # with the place of the task that they stand beside
    for n, step in enumerate((part for one in dish.steps for part in parts_of(one)), start=1):
        if is_note(step):
            notes.append((len(found) - 1, _tidy(step)))
            continue
        pairs = tasks_of_step(step, f"{dish.key}-s{n}", dish.name, ingredients, heat)
        heat = next((t.celsius for _, t in reversed(pairs) if t.device == OVEN), heat)
        for clause, task in pairs:
            if task.verb == "portion":
                notes.append((len(found) - 1, task.text))
            else:
                found.append((clause, task))
    return [
        (clause, replace(task, text=_with_notes(task.text, at, notes)))
        for at, (clause, task) in enumerate(found)
    ]


def _with_notes(text: str, at: int, notes: Sequence[tuple[int, str]]) -> str:
    """The words of a task with what is noted of it: the heat of the oven in front of the first, the
    rest behind.
    """
    front = [note for place, note in notes if place == at - 1 == -1]
    first = [note for note in front if not is_aside(note)]
    behind = [note for place, note in notes if place == at]
    return "; ".join((*first, text, *(note for note in front if note not in first), *behind))


def _tidy(step: str) -> str:
    """A note as it stands beside a task: without its number and its full stop."""
    return step.strip().lstrip("-•*0123456789.) ").rstrip(" .")


def _ingredient(line: CookedLine) -> Ingredient:
    assert line.food is not None
    names = words_for(line.food.name) | words_for(line.food.family)
    words = names | words_of_line(line.text)
    row = _usual_of(line.food)
    simmers = Minutes(*(float(row[end]) for end in ("low", "likely", "high"))) if row else None
    is_vegetable = line.food.group in VEGETABLES and line.food.state == "raw"
    return Ingredient(words, line.grams, is_vegetable, simmers, line.food.family)


def _early_tasks(dish: DishToCook, written: Sequence[Task]) -> list[Task]:
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
            found += [_soaking(dish, line, n) for n, line in enumerate(lines)]
            continue
        verb = verb_named(name)
        hands = verb.hands_min + sum(_minutes_of_line(verb, line) for line in lines)
        names = _listed([_short(line.food) for line in lines if line.food is not None])
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
    if _usual_of(food).get("soak") == "yes" and "soak" not in found:
        found.append("soak")
    if food.state not in ("raw", "as-sold", "dried", "dry"):
        found = [verb for verb in found if verb not in ("chop", "grate")]  # cut when it was canned
    canned = food.state.startswith("canned")
    if _usual_of(food).get("soak") == "rinse":
        found.append("rinse")
    if not canned and food.state != "dry":
        return [verb for verb in found if verb != "rinse"]
    return found


def _usual_of(food: Food) -> Mapping[str, str]:
    """What is usual for a dry grain or bean; nothing for other foods."""
    return _usual().get(food.family, {}) if food.state == "dry" else {}


def usual_minutes(food: Food) -> float | None:
    """Minutes at a simmer that are usual for a dry grain or bean; None for other foods."""
    row = _usual_of(food)
    return float(row["likely"]) if row else None


def _soaking(dish: DishToCook, line: CookedLine, n: int) -> Task:
    """Soak one food: beans overnight, nuts and the like for a while."""
    assert line.food is not None
    night = line.food.group in ("legume", "grain", "soy-food")
    verb = verb_named("soak")
    return Task(
        f"{dish.key}-soak{n}",
        dish.name,
        f"Soak {_short(line.food)}" + ("" if night else " in boiling water"),
        "soak",
        Minutes.guess(2),
        NIGHT if night else verb.wait,
        night=night,
        guessed=frozenset({"hands", "wait"}),
        dishes=(dish.name,),
        parts=((line.food.key, line.grams),),
    )


def _usual_steps(dish: DishToCook) -> list[tuple[Clause, Task]]:
    """Steps for a dish that has none: the longest of its grains and beans at a simmer, the oven for
    what is roasted, the blender for what is smooth, mixing for what is raw.
    """
    names = [
        f"{line.grams:,.0f} g {_short(line.food)}" if dish.is_plain else _short(line.food)
        for line in dish.lines
        if line.food and (line.grams > NAMED_FROM_G or dish.is_plain)
    ]
    named = _listed(names[:4])
    simmered = [_usual_of(line.food) for line in dish.lines if line.food and _usual_of(line.food)]
    foods = [line.food for line in dish.lines if line.food is not None]
    raw = not any(food.state in ("dry", "raw") and food.group in NEEDS_HEAT for food in foods)
    if dish.method == "roasted":
        step = f"Roast {named} at 200 °C for 30 to 40 minutes"
    elif simmered:
        longest = max(simmered, key=lambda row: float(row["likely"]))
        step = f"Simmer {named} for {longest['low']} to {longest['high']} minutes"
    elif dish.method in ("boiled", "steamed"):
        step = f"{'Boil' if dish.method == 'boiled' else 'Steam'} {named} for 8 to 15 minutes"
    elif dish.method == "raw" or raw:
        step = f"Mix {named}"
    else:
        step = f"Simmer {named} for 20 to 35 minutes"
    return [
        (clause, replace(task, guessed=task.guessed | {"wait"}))
        for clause, task in tasks_of_step(step, f"{dish.key}-u1", dish.name, (), None)
    ]


def _linked(
    early: Sequence[Task],
    written: Sequence[tuple[Clause, Task]],
    ingredients: Sequence[Ingredient],
) -> list[Task]:
    """Tasks with what each comes after. Early ones hang on nothing but work on the same food;
    cooking needs all that is ready, but in the oven or on the hob for what stands apart;
    "meanwhile" starts from what the task before started from.
    """
    done: list[Task] = []
    cooked: set[str] = set()  # what was more than cut, rinsed or soaked
    ready: list[str] = []  # what has been done and not gone into anything yet
    before: list[str] = []  # what was ready before the last cooking
    holds: dict[str, frozenset[int]] = {}  # the ingredients in what a task leaves
    for task in early:
        earlier = [t.key for t in done if t.verb in ("soak", "press") and _same_food(t, task)]
        done.append(replace(task, after=tuple(earlier)))
        ready = [key for key in ready if key not in earlier] + [task.key]
        holds[task.key] = _touched(task.text, ingredients)
    last: Task | None = None
    branch: list[str] = []  # what runs beside the rest, until something joins it
    later = _first_named(done, holds, [clause for clause, _ in written], ingredients)
    for at, (clause, task) in enumerate(written):
        named = _touched(clause.text, ingredients)
        waiting = [key for key in ready if later.get(key, 0) > at]  # for a later step
        ready = [key for key in ready if key not in waiting]
        same = [key for key in ready if holds[key] & named]
        if clause.verb.kind == "early":
            unclear = not named or _is_about_it(clause.text)
            after = _waits_for(task, last, ready, same, unclear)
        elif clause.beside and before != ready:
            after, branch = list(before), [task.key]
        elif _stays(clause, task, last, branch, [k for k in same if k not in branch], cooked):
            after = [key for key in ready if key in branch or key in same]
            branch.append(task.key)
        elif named and _is_apart(clause, task, done):
            after = before = [key for key in ready if key in same or not holds[key]]
            branch = []
        else:
            after, before, branch = list(ready), list(ready), []
        if clause.verb.kind != "early":
            cooked.add(task.key)
        holds[task.key] = named.union(*(holds[key] for key in after))
        heated = _heated(task, sum(ingredients[at].grams for at in holds[task.key]))
        linked = _in_time(replace(heated, after=tuple(dict.fromkeys(after))), last)
        done.append(linked)
        ready = [*waiting, *(key for key in ready if key not in after), task.key]
        last = linked
    return done


def _stays(
    clause: Clause,
    task: Task,
    last: Task | None,
    branch: Sequence[str],
    same: Sequence[str],
    cooked: AbstractSet[str],
) -> bool:
    """True for a task that goes on with what runs beside the rest: with foods that nothing else has
    taken up (`same` is what holds them outside of it), or with none named, in the same step.
    """
    if last is None or last.key not in branch or EVERYTHING.search(clause.text.lower()):
        return False
    if any(key in cooked for key in same) or THE_REST.search(clause.text.lower()):
        return False
    return _step_of(last) == _step_of(task) and clause.verb.name not in JOINING


def _heated(task: Task, grams: float) -> Task:
    """A task with the time that so many grams in the pot take to boil, or to come to pressure."""
    if BRINGS_TO_BOIL.search(task.text.lower()) and "wait" in task.guessed:
        held = PAN_OF_WATER_G if POT_OF_WATER.search(task.text.lower()) else grams
        return replace(task, wait=minutes_to_boil(held)) if held else task
    if task.device == PRESSURE and "wait" not in task.guessed and grams:
        return replace(task, wait=task.wait.plus(minutes_to_pressure(grams)))
    return task


def _first_named(
    early: Sequence[Task],
    holds: Mapping[str, frozenset[int]],
    clauses: Sequence[Clause],
    ingredients: Sequence[Ingredient],
) -> dict[str, int]:
    """For each task that the lines ask for, the first clause that takes up one of its foods: what
    stands before it need not wait. Nothing for one whose foods no clause names.
    """
    named = [_touched(clause.text, ingredients) for clause in clauses]
    found = {}
    for task in early:
        places = (at for at, one in enumerate(named) if one & holds[task.key])
        first = next(places, None)
        if first is not None:
            found[task.key] = first
    return found


def _waits_for(
    task: Task, last: Task | None, ready: Sequence[str], same: Sequence[str], unclear: bool
) -> list[str]:
    """What a task that hangs on nothing by its verb waits for all the same: the task before in its
    step, and what holds the same food (`same`). Where it is `unclear` what it works on ("drain",
    "cut it", "strain the sauce") it waits for all that is ready, of its step if that has begun.
    """
    if last is not None and _step_of(last) == _step_of(task):
        if unclear:
            step = _step_of(task)
            return [key for key in ready if key in same or key.rpartition("-")[0] == step]
        return [*([last.key] if last.verb not in ("chop", "grate") else []), *same]
    return list(ready) if unclear else list(same)


def _is_apart(clause: Clause, task: Task, done: Sequence[Task]) -> bool:
    """True for the oven after the hob, or the hob after the oven, with food of its own."""
    heated = [t.device for t in done if t.device in (OVEN, BURNER)]
    changes = bool(heated) and task.device in (OVEN, BURNER) and heated[-1] != task.device
    return changes and not _is_about_it(clause.text)


def _touched(text: str, ingredients: Sequence[Ingredient]) -> frozenset[int]:
    """The ingredients that a task works on, by their places; all of them where it says so."""
    if EVERYTHING.search(text.lower()) or THE_REST.search(text.lower()):
        return frozenset(range(len(ingredients)))
    named = named_in(text, ingredients)
    return frozenset(at for at, one in enumerate(ingredients) if one in named)


def _is_about_it(text: str) -> bool:
    """True where a clause works on what the clause before it worked on: "cut it into cubes"."""
    return bool(re.search(r"\b(?:it|them)\b", text)) or len(text.split()) <= 2


def _same_food(soaked: Task, task: Task) -> bool:
    return bool(words_for(soaked.text) & words_for(task.text) - {"soak", "press", "boil", "water"})


def _step_of(task: Task) -> str:
    return task.key.rpartition("-")[0]


def _in_time(task: Task, last: Task | None) -> Task:
    """A task that has to follow soon: no pot stands half cooked, a turned tray goes back."""
    if last is None or last.key not in task.after:
        return task
    if OVEN in (last.device, task.device) and "turn" in (last.verb, task.verb):
        return replace(task, within=TURN_WITHIN)
    if last.device == BURNER and task.device in (BURNER, ""):
        return replace(task, within=POT_WITHIN)
    return task


def _begun_before(tasks: list[Task]) -> list[Task]:
    """Nights resolved: what waits a night and is needed after it is begun the evening before, with
    all that leads to it; what stands overnight when all is done waits after the evening.
    """
    needed = {key for task in tasks for key in task.after}
    by_key = {task.key: task for task in tasks}
    night: set[str] = set()
    for task in reversed(tasks):
        if task.wait.low >= NIGHT.low and task.key in needed:
            night |= {task.key} | _leading_to(task, by_key)
    found = []
    for task in tasks:
        if task.key in night:
            found.append(replace(task, night=True))
        elif task.wait.low >= NIGHT.low:
            text = f"{task.text} (it stands overnight)"
            found.append(replace(task, text=text, wait=Minutes(), night=False))
        elif task.verb in STORED and task.key not in needed:
            found.append(replace(task, wait=Minutes(), night=False))
        else:
            found.append(replace(task, night=False))
    return found


def _leading_to(task: Task, by_key: Mapping[str, Task]) -> set[str]:
    found: set[str] = set()
    for key in task.after:
        found |= {key} | _leading_to(by_key[key], by_key)
    return found


def _portioning(dish: DishToCook, tasks: Sequence[Task]) -> Task:
    """Sharing out, when all else is done: hot food into shallow containers, soon."""
    needed = {key for task in tasks for key in task.after}
    ends = tuple(task.key for task in tasks if task.key not in needed)
    hot = any(task.device in (BURNER, OVEN, PRESSURE) for task in tasks)
    count = max(1, dish.containers)
    minutes = PORTION_MIN + PORTION_MORE * count
    many = f"{count} containers" if count > 1 else "a container"
    return Task(
        f"{dish.key}-portion",
        dish.name,
        f"Fill {dish.name} into {many}{f', {SHALLOW}' if hot else ''}; date and label",
        "portion",
        Minutes.guess(minutes),
        after=ends,
        within=HOT_WITHIN if hot else None,
        guessed=frozenset({"hands"}),
        dishes=(dish.name,),
    )


def _cautions(dish: DishToCook) -> Iterable[str]:
    """What a cook of this dish has to know, from its foods."""
    found: dict[str, None] = {}
    foods = [line.food for line in dish.lines if line.food is not None]
    for food in foods:
        key = _usual_of(food).get("caution", "")
        if key:
            found[CAUTIONS[key]] = None
        if "rice" in food.family and food.group == "grain":
            found[CAUTIONS["rice"]] = None
        if "sprouts" in food.family or food.key == "bean-sprouts-raw":
            found[CAUTIONS["sprouts"]] = None
    if any(f.family == "garlic" for f in foods) and any(f.group == "oil" for f in foods):
        found[CAUTIONS["garlic-oil"]] = None
    return found


def corrected(task: Task, corrections: Mapping[str, Mapping[str, float | str]]) -> Task:
    """A task with what the cook said of it: "hands", "wait" and "celsius" in minutes and °C."""
    given = corrections.get(task.key)
    if not given or given.get("text") not in (None, task.text):
        return task  # said of a step that reads otherwise now
    found, guessed = task, set(task.guessed)
    if "hands" in given:
        found = replace(found, hands=Minutes.exactly(float(given["hands"])))
    if "wait" in given:
        found = replace(found, wait=Minutes.exactly(float(given["wait"])))
    if "celsius" in given and task.device == OVEN:
        found = replace(found, celsius=float(given["celsius"]))
    return replace(found, guessed=frozenset(guessed - set(given)))


def _short(food: Food) -> str:
    """A food as a cook calls it."""
    name = food.name.partition(",")[0]
    return name[0].lower() + name[1:]


def _listed(names: Sequence[str]) -> str:
    unique = list(dict.fromkeys(names))
    if len(unique) <= 1:
        return "".join(unique) or "everything"
    return f"{', '.join(unique[:-1])} and {unique[-1]}"
