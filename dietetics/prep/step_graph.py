"""What waits for what in a dish: a graph of its steps, drawn by what they touch.

A dish in the making is a few components: cut onions, a pot of lentils, a dressing. A step works on
the components that hold its foods, that it calls by a word ("the sauce"), or that the step before
left ("it", or nothing named); it waits for those, and leaves one component. It begins a component
of its own where it works on foods that nothing has touched, in a vessel of its own. Where the words
leave it open, it waits.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from dietetics.prep.clauses import BRINGS_TO_BOIL, EVERYTHING, HEATS_A_PAN, Clause
from dietetics.prep.component_words import (
    A_VESSEL,
    AFTERWARDS,
    COOKED_LIQUID,
    CUT,
    DRY_HEAT,
    FOR_THE,
    HOW,
    IN_THE_POT,
    JOINS,
    LEAVES_THE_PAN,
    LIQUID,
    LIQUIDS,
    MADE_TO,
    MIXED,
    MIXING,
    OF_ALL,
    OF_WHAT_STANDS,
    OVER_WHAT_STANDS,
    PART_LEFT,
    PRONOUN,
    SAME_VESSEL,
    SUBORDINATE,
    THE_REST,
    TO_WHAT,
    VEGETABLES,
    WATER_OVER,
    is_about_itself,
    made_nouns,
    takes_the_rest,
)
from dietetics.prep.food_words import Ingredient, named_in, words_for
from dietetics.prep.pot_heat import WARM, with_heat
from dietetics.prep.tasks import BURNER, OVEN, PRESSURE, Minutes, Task

POT_WITHIN = 10  # minutes that a pot may stand between two steps on the heat
HEATS = (BURNER, OVEN, PRESSURE)
SMOOTHING = ("blend", "whisk")
HEATS_ALONE = ("microwave", "air-fry", "slow-cook")
AT_ONCE = 1  # minutes that what is turned may be out of the oven


@dataclass(frozen=True)
class Component:
    """Something in the making: the tasks that it waits for, the ingredients in it by their places,
    the device it still stands on, and the verb that made it last.
    """

    keys: tuple[str, ...]
    foods: frozenset[int]
    device: str = ""
    verb: str = ""
    is_cooked: bool = False
    is_water: bool = False  # water or oil that is hot and waits for its food
    cold_g: float = 0.0  # grams of cold liquid in it that nothing has heated yet
    names: frozenset[str] = frozenset()  # what it was called while it was made: "dough", "sauce"

    @property
    def is_mixed(self) -> bool:
        """True for what was stirred, whisked or blended together."""
        return self.verb in MIXING


def linked(
    early: Sequence[Task],
    written: Sequence[tuple[Clause, Task]],
    ingredients: Sequence[Ingredient],
) -> list[Task]:
    """The tasks of a dish with what each comes after: those that its lines ask for (`early`), then
    those of its steps in their order.
    """
    return _read(early, written, ingredients).done


@dataclass(frozen=True)
class Handled:
    """Ingredients by their places: those that the steps heat (cooked, or put into what stands on
    the stove), and those that they make smooth together.
    """

    heated: frozenset[int]
    smooth: frozenset[int]


def handled(
    early: Sequence[Task],
    written: Sequence[tuple[Clause, Task]],
    ingredients: Sequence[Ingredient],
) -> Handled:
    """What the steps do to the ingredients, as far as it changes how they keep."""
    graph = _read(early, written, ingredients)
    return Handled(frozenset(graph.heated), frozenset(graph.smooth))


def _read(
    early: Sequence[Task],
    written: Sequence[tuple[Clause, Task]],
    ingredients: Sequence[Ingredient],
) -> _Graph:
    graph = _Graph(ingredients, [clause for clause, _ in written])
    for task in early:
        graph.add_early(task)
    for at, (clause, task) in enumerate(written):
        graph.add(at, clause, task)
    return graph


class _Graph:
    """A dish while its steps are read one after another."""

    def __init__(self, ingredients: Sequence[Ingredient], clauses: Sequence[Clause]) -> None:
        self.ingredients = ingredients
        self.clauses = clauses
        self.named = [named_places(clause.text, ingredients) for clause in clauses]
        self.done: list[Task] = []
        self.open: list[Component] = []
        self.heated: set[int] = set()  # ingredients by their places
        self.smooth: set[int] = set()
        self.last: Component | None = None  # what the step before left
        self.main: Component | None = None  # what is added to: the last that was cooked or mixed
        self.started_from: list[Component] = []  # what the step before took up
        self.last_place = ("", 0)  # the step and sentence of the task before

    def add_early(self, task: Task) -> None:
        """A task that an ingredient line asks for: after others on the same food."""
        earlier = [
            one for one in self.done if one.verb in ("soak", "press") and _same_food(one, task)
        ]
        keys = {one.key for one in earlier} | set(task.after)
        taken = [c for c in self.open if keys & set(c.keys)]
        self._put(task, taken, named_places(task.text, self.ingredients))
        cut = self.open.pop()  # each food is a component of its own that waits for this
        self.open += [replace(cut, foods=frozenset({at})) for at in sorted(cut.foods)] or [cut]
        self.last = None

    def add(self, at: int, clause: Clause, task: Task) -> None:
        """A task of the steps."""
        named = self.named[at]
        if clause.during:
            parent = self._running(named, clause.during)
            if parent is not None:
                self._put_inside(at, clause, task, parent)
                return
        taken = self._taken(at, clause, task)
        keys = {key for one in taken for key in one.keys}
        before = [one.key for one in self.done if one.key in keys]
        hot = [c for c in taken if c.device == BURNER]
        linked_task = replace(task, after=tuple(before))
        if hot and task.device in (BURNER, "") and hot[-1].keys[-1] in before:
            linked_task = replace(linked_task, within=POT_WITHIN)
        turned = self.done[-1] if self.done else None
        is_turned = turned and turned.key in before and "turn" in (turned.verb, task.verb)
        if turned and is_turned and OVEN in (turned.device, task.device):
            linked_task = replace(linked_task, within=AT_ONCE)
        self._put(linked_task, taken, named, clause)
        self.last_place = (_step_of(task), clause.sentence)

    # What a step works on

    def _taken(self, at: int, clause: Clause, task: Task) -> list[Component]:
        """The components that a step works on."""
        text, named = HOW.sub("", FOR_THE.sub("", clause.text)), self.named[at]
        clause = replace(clause, text=text)
        same_sentence = (
            self.last is not None and (_step_of(task), clause.sentence) == self.last_place
        )
        is_early = clause.verb.kind == "early"
        if EVERYTHING.search(text) or (takes_the_rest(text, named) and not is_early):
            return list(self.open)
        called = self._called(clause, named)
        fresh = self._fresh(at, named)
        if clause.beside and not PRONOUN.search(text):
            return self._beside(at, text, named, called)
        if not named and not called:
            if clause.verb.name in OF_ALL and not PRONOUN.search(text) and not same_sentence:
                return list(self.open)
            return self._left_by_the_step_before(at, clause, task, same_sentence)
        found = [c for c in self.open if self._holds(c, named) or c in called]
        if is_early and PART_LEFT.search(text):  # of what is in the pot already, nothing is cut
            found = [c for c in found if not (c.is_cooked or c.is_mixed)]
        if PRONOUN.search(text) and self.last is not None and not is_about_itself(text):
            found.append(self.last)
        if is_early or WATER_OVER.search(text):
            return self._unique(found)
        if self._is_about_the_last(text, same_sentence):
            return self._unique([*found, *([self.last] if self.last else [])])
        if clause.verb.device or clause.verb.kind == "cook":
            return self._unique([*found, *self._shared_heat(at, clause, task, found, fresh)])
        return self._unique([*found, *self._mixed_with(at, clause, found, fresh, called)])

    def _is_about_the_last(self, text: str, same_sentence: bool) -> bool:
        """True where a step goes on with what the step before left, beside what it names."""
        goes_on = OF_WHAT_STANDS.search(text) and same_sentence and not A_VESSEL.search(text)
        return bool(OVER_WHAT_STANDS.search(text) or goes_on)

    def _holds(self, component: Component, named: frozenset[int]) -> bool:
        """True where a component holds what a step names. Oil, water and salt are taken from their
        bottle again: they name only what is nothing else, such as oil in a hot pan.
        """
        bottled = frozenset(at for at, one in enumerate(self.ingredients) if one.is_bottled)
        if component.foods <= bottled:
            return bool(component.foods & named)
        return bool(component.foods & (named - bottled))

    def _fresh(self, at: int, named: frozenset[int]) -> bool:
        """True where a step names only foods that no cooking and mixing has touched."""
        used = frozenset[int]().union(*(c.foods for c in self.open if c.is_cooked or c.is_mixed))
        return not named & used

    def _called(self, clause: Clause, named: frozenset[int]) -> list[Component]:
        """Components that a step calls by what they have become: "the sauce", "the mixture"."""
        text = clause.text
        found: list[Component] = []
        others = [c for c in self.open if not c.foods & named] or list(self.open)
        by_name = [c for c in self.open if c.names & made_nouns(text)]
        if by_name:
            return by_name
        if LIQUID.search(text) or clause.verb.name == "marinate":
            found += [c for c in others if c.is_mixed or c.verb in COOKED_LIQUID][-1:]
        if MIXED.search(text):
            found += [c for c in self.open if c.is_mixed][-1:] or self.open[-1:]
        if IN_THE_POT.search(text):
            found += [c for c in self.open if c.device == BURNER][-1:]
        cut = CUT.search(text)
        if cut and not named:
            texts = {task.key: task.text.lower() for task in self.done}
            said = [c for c in self.open if any(cut[0] in texts[key] for key in c.keys)]
            found += (said or [c for c in self.open if c.verb in ("chop", "shape")])[-1:]
        if VEGETABLES.search(text):
            plants = {at for at, one in enumerate(self.ingredients) if one.is_vegetable}
            found += [c for c in self.open if c.foods & plants]
        return found

    def _beside(
        self, at: int, text: str, named: frozenset[int], called: Sequence[Component]
    ) -> list[Component]:
        """What a step takes up that runs beside the one before: its own foods; with none named,
        what the step before started from.
        """
        if not named and not called:
            keys = {key for one in self.started_from for key in one.keys}
            return [c for c in self.open if keys & set(c.keys)] or list(self.started_from)
        running = self.last.keys if self.last is not None else ()
        return [c for c in self.open if (c.foods & named or c in called) and c.keys != running] or [
            c for c in self.open if c in called
        ]

    def _left_by_the_step_before(
        self, at: int, clause: Clause, task: Task, same_sentence: bool
    ) -> list[Component]:
        """What a step without a name works on: what the clause before it left; in a step of its own
        also whatever no later step asks for.
        """
        if self.last is None or TO_WHAT.search(clause.text):
            return list(self.open)
        if A_VESSEL.search(clause.text) and HEATS_A_PAN.search(clause.text):
            return []
        if same_sentence or PRONOUN.search(clause.text):
            waiting = [c for c in self.open if c.is_water and clause.verb.device == BURNER]
            return self._unique([*waiting, self.last])
        free = [c for c in self.open if not self._asked_for_later(c, at)]
        return self._unique([*free, self.last])

    def _shared_heat(
        self, at: int, clause: Clause, task: Task, found: list[Component], fresh: bool
    ) -> list[Component]:
        """What else a step on the heat goes on with: the pan that is hot for it, the pot it is
        cooked in, and what nobody asks for later.
        """
        text = clause.text
        hot = [c for c in self.open if c.device == BURNER]
        if JOINS.search(text) and not A_VESSEL.search(text) and self.main is not None:
            return [self.main, *self._for_nobody(at)]
        if SAME_VESSEL.search(text):
            return hot[-1:] or ([self.main] if self.main and self.main.is_cooked else [])
        if task.device == BURNER:
            water = [c for c in hot if c.is_water]
            if water:
                return water[-1:]
            if A_VESSEL.search(text) or not hot or any(c in hot for c in found):
                return []
            own_pot = self._has_its_own_pot(at, clause, hot[-1])
            return [] if own_pot else [hot[-1], *self._for_nobody(at)]
        if task.device or A_VESSEL.search(text) or (found and clause.verb.name != "do"):
            return []
        if fresh and not found and self.last is not None:
            return self._unique([self.last, *self._for_nobody(at)])
        return []

    def _has_its_own_pot(self, at: int, clause: Clause, hot: Component) -> bool:
        """True where a food is not cooked in the pan that is on the heat: fried beside what
        simmers, or simmered beside it and only later brought together.
        """
        dry, was_dry = clause.verb.name in DRY_HEAT, hot.verb in DRY_HEAT
        if clause.verb.name == "steam" or (dry and not was_dry and hot.foods):
            return True
        if dry:
            return False
        return any(
            named & hot.foods or EVERYTHING.search(one.text) or THE_REST.search(one.text)
            for one, named in zip(self.clauses[at + 1 :], self.named[at + 1 :], strict=True)
        )

    def _mixed_with(
        self,
        at: int,
        clause: Clause,
        found: Sequence[Component],
        fresh: bool,
        called: Sequence[Component],
    ) -> list[Component]:
        """What else is mixed by hand with what a step names: what it is added to; for foods that
        nothing has touched, all that no later step asks for, unless they are a component of their
        own.
        """
        joins = JOINS.search(clause.text)
        to_a_food = re.search(r"\b(?:over|to|into|onto|on|with) the\b", clause.text)
        if joins and not A_VESSEL.search(clause.text):
            cooked = [c for c in found if c.is_cooked or c.is_mixed]
            is_to_what_stands = re.match(r"[a-zé-]+ (?:with|in)\b", clause.text)
            if cooked and (to_a_food or called) and not is_to_what_stands:
                return []
            target = self.main or self.last
            return [*([target] if target else []), *self._for_nobody(at)]
        if any(c.is_cooked or c.is_mixed for c in found) or not fresh:
            return []
        if clause.verb.name in MIXING | {"add"} and self._is_taken_up_later(at):
            return []
        return list(self.open) if not A_VESSEL.search(clause.text) else []

    def _for_nobody(self, at: int) -> list[Component]:
        """Components cut and ready that no later step asks for: they go in now, or nowhere."""
        return [
            c
            for c in self.open
            if not c.is_cooked and not c.is_mixed and not self._asked_for_later(c, at)
        ]

    def _asked_for_later(self, component: Component, at: int) -> bool:
        """True where a later step names what is in a component, and is not about what is cooked."""
        return any(
            named & component.foods and clause.verb.name not in AFTERWARDS
            for clause, named in zip(self.clauses[at + 1 :], self.named[at + 1 :], strict=True)
        )

    def _is_taken_up_later(self, at: int) -> bool:
        """True where a later step names what is mixed here, or calls it by a word, or takes all."""
        mine = self.named[at]
        for clause, named in zip(self.clauses[at + 1 :], self.named[at + 1 :], strict=True):
            text = clause.text
            if named & mine or EVERYTHING.search(text) or THE_REST.search(text):
                return True
            if LIQUID.search(text) or clause.verb.name == "marinate":
                return True
            if MIXED.search(text) and clause.verb.name != "mix":
                return True
            if not named and clause.verb.name in OF_ALL:
                return True
        return False

    # What it leaves

    def _put(
        self,
        task: Task,
        taken: Sequence[Component],
        named: frozenset[int],
        clause: Clause | None = None,
    ) -> None:
        """The task done, and what it leaves in place of what it took up."""
        foods = named.union(*(c.foods for c in taken))
        if clause is not None:
            held = [self.ingredients[at] for at in foods]
            was_hot = any(c.is_cooked or self._came_off_the_heat(c) for c in taken)
            task = with_heat(task, held, sum(c.cold_g for c in taken), was_hot)
            task = self._alone_in_its_pot(task, foods)
        else:
            task = replace(task, after=tuple(key for c in taken for key in c.keys))
        self.done.append(task)
        left = Component(
            (task.key,),
            foods,
            _stands_on(task, clause, taken),
            task.verb,
            bool(clause and clause.verb.kind == "cook") or any(c.is_cooked for c in taken),
            bool(clause and _is_water(clause, named) and not foods - named),
        )
        if not any(c.is_mixed and not named for c in taken) or task.verb in MIXING:
            verb = task.verb
        else:
            verb = next(c.verb for c in reversed(taken) if c.is_mixed)
        cold_g = 0.0 if task.device else sum(c.cold_g for c in taken)
        if clause is not None and not task.device:
            cold_g += self._cold_liquid(clause.text, named, taken)
        names = _names_of(task, clause, taken)
        left = replace(left, verb=verb, names=names, cold_g=cold_g)
        if clause is not None:
            self._note(task, left, named, taken)
        self.open = [c for c in self.open if c not in taken] + [left]
        self.started_from = list(taken)
        self.last = left
        if clause is not None and clause.verb.kind != "early" or self.main in taken:
            self.main = left

    def _note(
        self,
        task: Task,
        left: Component,
        named: frozenset[int],
        taken: Sequence[Component],
    ) -> None:
        """Note what a task heats or makes smooth; where nothing is named ("mix, and bake"), also
        what no other step asks for.
        """
        foods = set(left.foods)
        if not named and not left.is_water:
            foods |= set(range(len(self.ingredients))).difference(*self.named)
        # What is tossed with seeds out of a hot dry pan is not cooked by them.
        in_a_pot = left.device == BURNER and any(c.device and c.verb != "toast" for c in taken)
        if task.device in HEATS or task.verb in HEATS_ALONE or in_a_pot:
            self.heated |= foods
        if task.verb in SMOOTHING:
            self.smooth |= foods

    def _came_off_the_heat(self, component: Component) -> bool:
        """True where the last that was done with a component was on a burner."""
        return any(one.key in component.keys and one.device == BURNER for one in self.done)

    def _cold_liquid(self, text: str, named: frozenset[int], taken: Sequence[Component]) -> float:
        """Grams of cold water, stock or milk that a step adds to what it works on."""
        if WARM.search(text):
            return 0.0
        held = frozenset[int]().union(*(c.foods for c in taken))
        added = named if PART_LEFT.search(text) else named - held
        liquids = (one for one in (self.ingredients[at] for at in added) if one.words & LIQUIDS)
        return sum(one.grams for one in liquids)

    def _alone_in_its_pot(self, task: Task, foods: frozenset[int]) -> Task:
        """A task with its grain or bean as its part, where that cooks by itself in water: several
        dishes can share one pot of it.
        """
        held = [self.ingredients[at] for at in foods]
        if task.device != BURNER or len(held) != 1 or not (held[0].simmers and held[0].food):
            return task
        return replace(task, parts=((held[0].food, held[0].grams),))

    def _running(self, named: frozenset[int], minutes: float) -> Task | None:
        """The task on the heat that a step is said to be done inside of: the last that takes
        longer, of a component that the step names, if it names one that is on the heat.
        """
        heated = [
            task
            for task in self.done
            if task.device in (BURNER, OVEN)
            and task.minutes > max(minutes, 1)
            and any(task.key in c.keys for c in self.open)
        ]
        mine = [
            task
            for task in heated
            if any(task.key in c.keys and c.foods & named for c in self.open)
        ]
        return next(reversed(mine or heated), None)

    def _put_inside(self, at: int, clause: Clause, task: Task, parent: Task) -> None:
        """A task done in the last minutes of another, or at its middle: the other ends there, and
        this one has the rest of its time on the same heat.
        """
        total = parent.wait.likely + (0 if parent.wait.likely else parent.hands.likely)
        rest = total / 2 if clause.during < 0 else min(clause.during, total - 1)
        shorter = _shortened(parent, rest)
        self.done = [shorter if one.key == parent.key else one for one in self.done]
        component = next(c for c in self.open if parent.key in c.keys)
        others = [c for c in self.open if c.foods & self.named[at] and c != component]
        if PRONOUN.search(clause.text) and self.last is not None and self.last != component:
            others.append(self.last)
        others += [c for c in self._for_nobody(at) if c not in others and not self.named[at]]
        hands = min(task.hands.likely, max(1.0, rest))
        inside = replace(
            task,
            hands=Minutes.guess(hands),
            wait=Minutes.exactly(max(0.0, rest - hands)),
            device=parent.device,
            celsius=parent.celsius,
            trays=parent.trays,
            after=tuple(key for c in self._unique([*others, component]) for key in c.keys),
            within=AT_ONCE,
            behind=parent.key,
        )
        self._put(inside, [*others, component], self.named[at], clause)
        self.last_place = (_step_of(task), clause.sentence)

    def _unique(self, found: Iterable[Component]) -> list[Component]:
        """Each once, in the order in which they stand."""
        wanted = list(found)
        return [c for c in self.open if c in wanted]


def named_places(text: str, ingredients: Sequence[Ingredient]) -> frozenset[int]:
    """The ingredients that a text names, by their places; all of them where it says so."""
    plain = SUBORDINATE.split(text.lower())[0]
    named = named_in(plain, ingredients)
    if EVERYTHING.search(plain) or takes_the_rest(plain, named):
        return frozenset(range(len(ingredients)))
    return frozenset(at for at, one in enumerate(ingredients) if one in named)


def _names_of(task: Task, clause: Clause | None, taken: Sequence[Component]) -> frozenset[str]:
    """What a component is called from here on: what its own words make of it ("to a dough", "for
    the sauce"), else what it was called before.
    """
    text = clause.text if clause is not None else ""
    made = frozenset(match[1] for match in MADE_TO.finditer(text))
    return made or frozenset[str]().union(*(c.names for c in taken))


def _is_water(clause: Clause, named: frozenset[int]) -> bool:
    """True for a pan or a pot that is heated for what comes next."""
    is_hot = BRINGS_TO_BOIL.search(clause.text) and "water" in clause.text
    return bool(HEATS_A_PAN.search(clause.text) or (is_hot and len(named) <= 1))


def _stands_on(task: Task, clause: Clause | None, taken: Sequence[Component]) -> str:
    """The device that a component is left on."""
    if clause is None or LEAVES_THE_PAN.search(clause.text):
        return ""
    if task.device:
        return task.device if task.device == BURNER else ""
    if clause.verb.kind == "early" or clause.verb.name in ("cool", "chill", "blend"):
        return ""
    return next((c.device for c in reversed(taken) if c.device), "")


def _shortened(task: Task, minutes: float) -> Task:
    """A task that ends so many minutes sooner."""
    if task.wait.likely >= minutes:
        wait = task.wait
        return replace(
            task,
            wait=Minutes(
                max(0.0, wait.low - minutes), wait.likely - minutes, max(0.0, wait.high - minutes)
            ),
        )
    hands = task.hands
    left = [max(1.0, m - minutes) for m in (hands.low, hands.likely, hands.high)]
    return replace(task, hands=Minutes(*left), wait=Minutes())


def _same_food(soaked: Task, task: Task) -> bool:
    return bool(words_for(soaked.text) & words_for(task.text) - {"soak", "press", "boil", "water"})


def _step_of(task: Task) -> str:
    return task.key.rpartition("-")[0]
