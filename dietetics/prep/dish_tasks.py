"""The tasks of one dish: from its written steps, from words in its ingredient lines ("2 carrots,
diced"), and from what everybody knows (dry beans are soaked the night before).

A dish without steps gets the usual ones by how it is cooked, and says so.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from dietetics.prep.clauses import Clause, is_aside, is_note, parts_of
from dietetics.prep.food_words import Ingredient, head_of_line, words_for, words_of_line
from dietetics.prep.line_tasks import (
    HARD_BOIL,
    early_tasks,
    hard_boil_words,
    is_boiled_hard,
    is_said_boiled_hard,
    usual_of,
)
from dietetics.prep.pot_heat import TO_THE_BOIL_FIRST
from dietetics.prep.step_graph import handled, linked, named_places
from dietetics.prep.step_reading import CUT, NIGHT, oven_heat_of, tasks_of_step
from dietetics.prep.tasks import BURNER, OVEN, PRESSURE, Minutes, Task
from dietetics.prep.to_cook import CookedLine, DishToCook, listed, short_name

SHALLOW = "Hot food goes into shallow containers, not too full, lids off until it is cool."
HOT_WITHIN = 45  # minutes that what was hot may stand before it is shared out to cool
PORTION_MIN, PORTION_MORE = 2.0, 0.5  # minutes, and more for each container: common practice
VEGETABLES = frozenset({"vegetable", "starchy-vegetable", "leafy-green", "mushroom", "fruit"})
BOTTLED = frozenset({"oil", "salt", "water"})  # with what is in the food table's group of oils
ON_DAY_MIN = 8.0  # minutes of hands that a meal leaves before it is eaten: our judgement
NAMED_FROM_G = 30.0  # what there is less of is not named in a step of our own
COOKS_BEANS = frozenset({"simmer", "boil", "cook", "slow-cook"})
STORED = frozenset({"chill", "freeze"})  # at the end of a dish: it stands in the cold, done
NEEDS_HEAT = frozenset({"legume", "grain", "starchy-vegetable", "mushroom"})
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
NO_STEPS = "No method is written: usual steps and times by its ingredients and how it is cooked."


@dataclass(frozen=True)
class DishTasks:
    """The tasks of a dish; `cautions` for the cook, `remarks` about what was not written, `on_day`
    what its steps leave for the day of eating.
    """

    tasks: tuple[Task, ...]
    cautions: tuple[str, ...] = ()
    remarks: tuple[str, ...] = ()
    on_day: tuple[str, ...] = ()


def tasks_of_dish(dish: DishToCook) -> DishTasks:
    """Every task of a dish, each after what it needs, with corrections of the cook put in."""
    ingredients = [_ingredient(line) for line in dish.lines]
    written, shared_out = _written_tasks(dish, ingredients)
    remarks = [] if written or dish.is_plain else [NO_STEPS]
    written = _boiled_hard_first(dish, written or _usual_steps(dish))
    tasks = linked(early_tasks(dish, [task for _, task in written]), written, ingredients)
    tasks, on_day = _left_for_the_day(tasks, {t.key for c, t in written if c.on_day})
    tasks = _begun_before(tasks)
    tasks.append(_portioning(dish, tasks, shared_out, on_day))
    return DishTasks(
        tuple(corrected(task, dish.corrections) for task in tasks),
        (*_cautions(dish), *([SHALLOW] if _is_hot(tasks) else [])),
        tuple(remarks),
        tuple(on_day),
    )


@dataclass(frozen=True)
class DishDone:
    """What the steps of a dish do to its lines, by their places: what they heat, what they make
    smooth together, what is put on it on the day of eating; and the verbs of all that is done.
    """

    heated: frozenset[int]
    smooth: frozenset[int]
    on_day: frozenset[int]
    verbs: frozenset[str]


def done_to(dish: DishToCook) -> DishDone:
    """What becomes of the lines of a dish. With no steps written, all is done in the dish's way."""
    ingredients = [_ingredient(line) for line in dish.lines]
    written, _ = _written_tasks(dish, ingredients)
    if not written:
        tasks = [task for _, task in _usual_steps(dish)]
        every, none = frozenset(range(len(ingredients))), frozenset[int]()
        hot = every if any(task.device for task in tasks) else none
        return DishDone(hot, none, none, _verbs(tasks))
    early = early_tasks(dish, [task for _, task in written])
    later = [named_places(clause.text, ingredients) for clause, _ in written if clause.on_day]
    before = [
        named_places(clause.text, ingredients)
        for clause, _ in written
        if not clause.on_day and clause.verb.kind != "early"
    ]
    on_day = frozenset[int]().union(*later) - frozenset[int]().union(*before)
    found = handled(early, written, ingredients)
    verbs = _verbs([*early, *(task for _, task in written)])
    return DishDone(found.heated, found.smooth, on_day, verbs)


def _verbs(tasks: Iterable[Task]) -> frozenset[str]:
    return frozenset(task.verb for task in tasks)


def _written_tasks(
    dish: DishToCook, ingredients: Sequence[Ingredient]
) -> tuple[list[tuple[Clause, Task]], list[str]]:
    """The tasks of the steps, and what they say of sharing out, which is a task of every dish. A
    heat holds until another is written.
    """
    heat = oven_heat_of(dish.steps)
    found: list[tuple[Clause, Task]] = []
    shared_out: list[str] = []
    notes: list[tuple[int, str]] = []  # with the place of the task that they stand beside
    for n, step in enumerate((part for one in dish.steps for part in parts_of(one)), start=1):
        if is_note(step):
            notes.append((len(found) - 1, _tidy(step)))
            continue
        pairs = tasks_of_step(step, f"{dish.key}-s{n}", dish.name, ingredients, heat)
        heat = next((t.celsius for _, t in reversed(pairs) if t.device == OVEN), heat)
        shared_out += [task.text for _, task in pairs if task.verb == "portion"]
        found += [(clause, task) for clause, task in pairs if task.verb != "portion"]
    written = [
        (clause, replace(task, text=_with_notes(task.text, at, notes)))
        for at, (clause, task) in enumerate(found)
    ]
    return written, shared_out


def _boiled_hard_first(
    dish: DishToCook, written: list[tuple[Clause, Task]]
) -> list[tuple[Clause, Task]]:
    """The steps, with the hard boil of kidney beans before they are first cooked, where the recipe
    soaks them itself and leaves it out. (Where it does not soak them, both are added.)
    """
    tasks = [task for _, task in written]
    if not any(task.verb == "soak" for task in tasks):
        return written
    found = list(written)
    for line in dish.lines:
        if line.food is None or not is_boiled_hard(line.food):
            continue
        if is_said_boiled_hard(dish, line, tasks):
            continue
        names = words_for(line.food.name) | words_of_line(line.text)
        cooking = [at for at, (c, _) in enumerate(found) if c.verb.name in COOKS_BEANS]
        named = [at for at in cooking if names & words_for(found[at][1].text)]
        at = next(iter(named or cooking), None)
        if at is not None:
            clause, task = found[at]
            text = f"{hard_boil_words(short_name(line.food))} first; {task.text}"
            found[at] = clause, replace(task, text=text, wait=task.wait.plus(HARD_BOIL))
    return found


def _left_for_the_day(tasks: list[Task], on_day: set[str]) -> tuple[list[Task], list[str]]:
    """The tasks of the evening, and in words what is done on the day of eating: what the steps say
    so of (`on_day`), and what is cut for it alone. What needs heat or a wait, or leads to what
    does, is work of the evening all the same.
    """
    later = {task.key for task in tasks if task.key in on_day and not _takes_time(task)}
    for task in tasks:
        if later & set(task.after) and not _takes_time(task):
            later.add(task.key)
    for task in reversed(tasks):
        if task.key in later and any(
            task.key in one.after and one.key not in later for one in tasks
        ):
            later.discard(task.key)
    for task in reversed(tasks):
        users = [one.key for one in tasks if task.key in one.after]
        if users and set(users) <= later and task.verb in CUT | {"peel", "zest", "split"}:
            later.add(task.key)
    evening = [
        replace(task, after=tuple(key for key in task.after if key not in later))
        for task in tasks
        if task.key not in later
    ]
    return evening, [task.text for task in tasks if task.key in later]


def _takes_time(task: Task) -> bool:
    return bool(task.device) or task.wait.likely > 0 or task.hands.likely > ON_DAY_MIN


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
    """A line as what steps may name; by its own words only where the food is not known."""
    words, heads = words_of_line(line.text), head_of_line(line.text)
    food = line.food
    if food is None:
        return Ingredient(words, line.grams, heads=heads, is_bottled=bool(words & BOTTLED))
    names = words_for(food.name) | words_for(food.family)
    row = usual_of(food)
    simmers = Minutes(*(float(row[end]) for end in ("low", "likely", "high"))) if row else None
    is_vegetable = food.group in VEGETABLES and food.state == "raw"
    heads |= head_of_line(food.name)
    return Ingredient(
        words | names,
        line.grams,
        is_vegetable,
        simmers,
        food.family,
        heads,
        food.key,
        food.group == "oil" or food.family in BOTTLED,
    )


def _usual_steps(dish: DishToCook) -> list[tuple[Clause, Task]]:
    """Steps for a dish that has none: the longest of its grains and beans at a simmer, the oven for
    what is roasted, the blender for what is smooth, mixing for what is raw.
    """
    names = [
        f"{line.grams:,.0f} g {short_name(line.food)}" if dish.is_plain else short_name(line.food)
        for line in dish.lines
        if line.food and (line.grams > NAMED_FROM_G or dish.is_plain)
    ]
    named = listed(names[:4])
    simmered = [usual_of(line.food) for line in dish.lines if line.food and usual_of(line.food)]
    foods = [line.food for line in dish.lines if line.food is not None]
    raw = not any(food.state in ("dry", "raw") and food.group in NEEDS_HEAT for food in foods)
    if dish.method == "roasted":
        step = f"Roast {named} at 200 °C for 30 to 40 minutes"
    elif simmered:
        longest = max(simmered, key=lambda row: float(row["likely"]))
        step = f"Simmer {named} for {longest['low']} to {longest['high']} minutes"
        if not any(row["caution"] == "kidney" for row in simmered):  # those boil already
            minutes = f"{longest['low']} to {longest['high']} minutes"
            step = f"Bring {named} to the boil in fresh water; simmer for {minutes}"
        if any(food.group == "legume" for food in foods):
            step += ", then drain"
    elif dish.method in ("boiled", "steamed"):
        how = "Boil" if dish.method == "boiled" else "Steam"
        step = f"{how} {named} for 8 to 15 minutes{', then drain' if how == 'Boil' else ''}"
    elif dish.method == "raw" or raw:
        step = f"Mix {named}"
    else:
        step = f"Simmer {named} for 20 to 35 minutes"
    return [
        (clause, replace(task, guessed=task.guessed | {"wait"}))
        for clause, task in tasks_of_step(step, f"{dish.key}-u1", dish.name, (), None)
    ]


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


def _portioning(
    dish: DishToCook, tasks: Sequence[Task], shared_out: Sequence[str], on_day: Sequence[str]
) -> Task:
    """Sharing out, when all else is done: hot food into shallow containers, soon; with what the
    steps say of it, and what is left for the day of eating.
    """
    needed = {key for task in tasks for key in task.after}
    ends = tuple(task.key for task in tasks if task.key not in needed)
    hot = _is_hot(tasks)
    count = max(1, dish.containers)
    minutes = PORTION_MIN + PORTION_MORE * count
    many = f"{count} containers" if count > 1 else "a container"
    said = "".join(f"; {text}" for text in shared_out)
    said += f". On the day: {'; '.join(on_day)}" if on_day else ""
    return Task(
        f"{dish.key}-portion",
        dish.name,
        f"Fill {dish.name} into {many}; date and label{said}",
        "portion",
        Minutes.guess(minutes),
        after=ends,
        within=HOT_WITHIN if hot else None,
        guessed=frozenset({"hands"}),
        dishes=(dish.name,),
    )


def _is_hot(tasks: Sequence[Task]) -> bool:
    return any(task.device in (BURNER, OVEN, PRESSURE) for task in tasks)


def _cautions(dish: DishToCook) -> Iterable[str]:
    """What a cook of this dish has to know, from its foods."""
    found: dict[str, None] = {}
    foods = [line.food for line in dish.lines if line.food is not None]
    for food in foods:
        key = usual_of(food).get("caution", "")
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
    written = task.text.partition(TO_THE_BOIL_FIRST)[0]
    if not given or given.get("text") not in (None, task.text, written):
        return task  # said of a step that reads otherwise now
    found, guessed = task, set(task.guessed)
    if "hands" in given:
        found = replace(found, hands=Minutes.exactly(float(given["hands"])))
    if "wait" in given:
        minutes = Minutes.exactly(float(given["wait"]))
        found = replace(found, wait=minutes, to_boil=Minutes())  # as it is on this cook's hob
    if "celsius" in given and task.device == OVEN:
        found = replace(found, celsius=float(given["celsius"]))
    return replace(found, guessed=frozenset(guessed - set(given)))
