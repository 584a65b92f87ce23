"""How a row accounts for a phrase: which words it honours, which clash, which are doubted; and
which row does it best.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from dietetics.amounts.claims import CLAIM_WORDS, honours
from dietetics.amounts.denials import is_denied, may_be_denied
from dietetics.amounts.foods_not_held import animal_words, plant_heads
from dietetics.amounts.phrases import Name, NameIndex, Phrase, named
from dietetics.amounts.vocabulary import (
    CHANGING_WORDS,
    COLOUR_WORDS,
    DONE_LATER,
    FORM_WORDS,
    HANDLING_STATES,
    NATURAL_FORMS,
    NEUTRAL_WORDS,
    PRODUCE_GROUPS,
    STATE_WORDS,
    VARIETY_WORDS,
)
from dietetics.composition.foods import Food

# A claim that names a row by another: "sugar-free applesauce" is looked for among the unsweetened,
# and then asked about.
IMPLIED: Mapping[str, tuple[str, ...]] = {
    "sugar-free": ("unsweetened",),
    "salt-free": ("salt-low",),
    "fat-free": ("fat-low",),
}
# Of the words behind a comma, those that change a food wherever they stand; other words there are
# told of the dish.
NOTED_WORDS = frozenset(
    (CHANGING_WORDS | {"oil", "syrup", "brine"})
    - {"fresh", "hot", "strong", "filled", "coated", "nut", "ground"}
)
UNASKED_TAGS = frozenset(
    {"in-oil", "in-syrup", "in-juice", "fat-low", "salt-low", "salt-free", "sweetened", "sugar-low",
    "gluten-free",
     "unfortified"}
)  # fmt: skip


@dataclass(frozen=True)
class Account:
    """How a row and a name account for a phrase."""

    name: Name
    clashes: tuple[str, ...]
    doubts: tuple[str, ...]
    honoured: tuple[str, ...]
    neutral: tuple[str, ...]
    state_rank: int
    together: bool
    last: int
    later: tuple[str, ...]

    @property
    def food(self) -> Food:
        """The row."""
        return self.name.food


class Reading:
    """One phrase, tried against the rows of a shelf."""

    def __init__(self, phrase: Phrase, notes: Phrase, container: str, index: NameIndex) -> None:
        self.phrase, self.notes, self.container, self.index = phrase, notes, container, index
        self.claims = phrase.claims | notes.claims
        self.implied = self.claims | {
            more for claim in self.claims for more in IMPLIED.get(claim, ())
        }
        self.light = "light" in phrase.words
        self.places = {word: i for i, word in enumerate(phrase.words)}
        self.rest = [
            w
            for w in dict.fromkeys(phrase.words)
            if w not in NEUTRAL_WORDS and w not in VARIETY_WORDS
        ]
        self.states = [w for w in dict.fromkeys(phrase.words) if w in STATE_WORDS]
        self.note_states = [
            w for w in dict.fromkeys(notes.words) if w in STATE_WORDS and w not in self.places
        ]
        changing = (w for w in notes.words if w in NOTED_WORDS or w in notes.forms)
        self.note_changes = [w for w in dict.fromkeys(changing) if w not in self.places]

    def accounts(self) -> list[Account]:
        """Every row whose name stands in the phrase, with how it accounts for the other words, best
        first.
        """
        found = []
        for word in dict.fromkeys(self.phrase.words):
            for name in self.index.by_word.get(word, ()):
                there = self.places.keys() >= set(name.words) and name.claims <= self.implied
                if there and not self.is_denied(name.food, name):
                    found.append(self._account(name))
        return sorted(found, key=self._rank)

    def is_denied(self, food: Food, name: Name | None = None) -> bool:
        """True for a row that the line says is not meant, found by a name or looked up."""
        words = name.words if name else named(food.name).words
        return is_denied(food, self.index.denied, words, self.places)

    def may_be_denied(self, food: Food) -> bool:
        """True for a row that stands for several kinds, one of which is denied."""
        denied = [one for one in self.index.denied if not set(one.telling) <= set(self.places)]
        return may_be_denied(food, self.index.says[food.key], denied)

    def _rank(self, one: Account) -> tuple[object, ...]:
        food = one.food
        unasked = len((food.tags & UNASKED_TAGS) - self.claims - one.name.claims)
        heavy = sum(
            0.5 for word in one.clashes if word in FORM_WORDS
        )  # another form is another food, sooner than a claim
        return (
            len(one.clashes) + heavy,
            -len(one.name.words) - len(one.name.claims),
            not one.together,
            len(one.doubts),
            one.state_rank,
            unasked,
            _tie_rank(self.index.shelf.families[food.family]),
            0 if is_called_so(food, one.name) else 1,
            not food.default,
            -one.last,
            food.key,
        )

    def _account(self, name: Name) -> Account:
        food, said = name.food, self.index.says[name.food.key]
        clashes: list[str] = []
        doubts: list[str] = []
        honoured: list[str] = []
        at = [self.places[word] for word in name.words]
        last = max(at)
        for word in self.rest:
            if word in name.words:
                continue
            if word in said:
                honoured.append(word)
            elif word in STATE_WORDS:
                self._state(word, food, clashes, doubts, honoured)
            else:
                self._other(word, food, self.places[word] > last, clashes, doubts)
        for claim in self.claims:
            (honoured if honours(food, claim) or claim in name.claims else clashes).append(
                CLAIM_WORDS[claim]
            )
        later = self._notes(food, said, clashes, doubts, honoured)
        if self.container == "can" and not _canned(food):
            clashes.append("canned")
        elif self.container == "can" and food.state in ("raw", "dry", "frozen"):
            doubts.append("canned")
        together = at == list(range(at[0], at[0] + len(at)))
        neutral = tuple(w for w in self.phrase.words if w not in self.rest and w not in name.words)
        return Account(
            name,
            tuple(clashes),
            tuple(doubts),
            tuple(honoured),
            neutral,
            self._state_rank(food),
            together,
            last,
            later,
        )

    def _state(
        self, word: str, food: Food, clashes: list[str], doubts: list[str], honoured: list[str]
    ) -> None:
        if (
            food.state in STATE_WORDS[word]
            or word in HANDLING_STATES
            and not _holds_liquid(food, word)
            or word == "raw"
            and food.state in ("as-sold", "dried")
        ):
            honoured.append(word)
        elif word == "frozen" and food.state in ("raw", "as-sold", "label"):
            doubts.append(word)
        elif word == "dried" and food.group == "herb-spice" and food.state == "dried":
            honoured.append(word)
        else:
            clashes.append(word)

    def _other(
        self, word: str, food: Food, behind: bool, clashes: list[str], doubts: list[str]
    ) -> None:
        if any(ch.isdigit() for ch in word) or word in NATURAL_FORMS.get(food.group, ()):
            return
        if word in COLOUR_WORDS and food.group in PRODUCE_GROUPS:
            return
        if word == "ground" and food.group not in ("grain", "starchy-vegetable", "legume"):
            return
        if word == "fresh" and food.state in ("raw", "as-sold", "label"):
            return
        if word == "leaf" and _has_leaves(food):
            return
        if (
            behind
            or word in FORM_WORDS
            or word in CHANGING_WORDS
            or word in animal_words()
            or word in self.index.heads
            or word in plant_heads()
        ):
            clashes.append(word)
        else:
            doubts.append(word)

    def _notes(
        self,
        food: Food,
        said: frozenset[str],
        clashes: list[str],
        doubts: list[str],
        honoured: list[str],
    ) -> tuple[str, ...]:
        """States behind the comma: the row's own are honoured; what is done after measuring is
        noted; others are doubts.
        """
        later = []
        for word in self.note_states:
            if _holds_liquid(food, word):
                doubts.append(word)
            elif word in said or food.state in STATE_WORDS[word] or word in HANDLING_STATES:
                honoured.append(word)
            elif word == "undrained":
                clashes.append(word)
            elif word in DONE_LATER and food.state in ("raw", "as-sold", "label", "frozen"):
                later.append(word)
            elif word == "raw" and food.state in ("as-sold", "dried"):
                honoured.append(word)
            else:
                doubts.append(word)
        for word in self.note_changes:
            if (
                word in STATE_WORDS
                or self._claimed(word, food)
                or word in NATURAL_FORMS.get(food.group, ())
            ):
                continue
            if word == "leaf" and _has_leaves(food):
                continue
            (honoured if word in said else doubts).append(word)
        return tuple(later)

    def _claimed(self, word: str, food: Food) -> bool:
        """True for a word that is a claim of its own ("light") which the row honours."""
        return word in self.claims and honours(food, word)

    def _state_rank(self, food: Food) -> int:
        wanted: list[str] = []
        for word in [*self.states, *self.note_states]:
            wanted.extend(STATE_WORDS[word])
        if self.container:
            canned = [s for s in wanted if s.startswith("canned")] or [
                "canned-drained",
                "canned-undrained",
            ]
            wanted = [*canned, *wanted]
        if "canned-rinsed" in wanted:
            wanted.insert(0, "canned-rinsed")
        if "soaked" in self.notes.words and food.group in ("legume", "soy-food"):
            wanted.insert(0, "dry")
        if "undrained" in self.claims:
            wanted.insert(0, "canned-undrained")
        return wanted.index(food.state) if food.state in wanted else len(wanted)


def _holds_liquid(food: Food, word: str) -> bool:
    """True for "drained" of a row that is with its juice or syrup: the figures are of both
    together.
    """
    return word in ("drained", "rinsed") and (
        food.state == "canned-undrained" or not {"in-juice", "in-syrup"}.isdisjoint(food.tags)
    )


def _has_leaves(food: Food) -> bool:
    """True for a fresh herb, which is its leaves."""
    return food.group == "herb-spice" and food.state == "raw" and food.measure("stalk") is None


def _canned(food: Food) -> bool:
    known = {m.unit for m in food.measures}
    return food.state.startswith("canned") or "can" in known or "jar" in known


def is_called_so(food: Food, name: Name) -> bool:
    """True where a food is called so outright ("sugar" of white sugar), and not only its name
    begins so.
    """
    return any(
        (heard := named(text)).words == name.words and heard.claims == name.claims
        for text in food.synonyms
    )


def _tie_rank(family: Sequence[Food]) -> int:
    """Between foods of one name: an own label or dish first, then the family with a usual state, a
    median of labels last.
    """
    if any(food.key.startswith(("own-", "dish-")) for food in family):
        return -1
    if all(food.state == "label" for food in family):
        return 2
    return 0 if any(food.default for food in family) else 1
