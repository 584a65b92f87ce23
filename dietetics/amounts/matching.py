"""Which food, in which state, a written phrase means, with every word of it accounted for.

Of all rows whose name stands in the phrase, the one is taken that leaves the fewest words unhonoured: the name
itself, states (dry, cooked, canned), claims (unsalted, in oil), kinds and neutral words are accounted for. A word that
makes another food of it and that the row does not honour is a *clash*: the phrase is then not read, and the nearest
rows are offered with what would differ. A word nobody knows, before the name, is a *doubt*: the line asks.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache

from dietetics.amounts.claims import CLAIM_WORDS, honours
from dietetics.amounts.not_held import NotHeld, animal_words, known_words, name_not_held, plant_heads
from dietetics.amounts.vocabulary import (
    CHANGING_WORDS,
    CLAIM_OF,
    CLAIM_PATTERN,
    COLOUR_WORDS,
    COOKING_STATES,
    CUT_WORDS,
    DONE_LATER,
    FORM_WORDS,
    HANDLING_STATES,
    NATURAL_FORMS,
    NEUTRAL_WORDS,
    PRODUCE_GROUPS,
    SAME_WORD,
    STATE_WORDS,
    VARIETY_WORDS,
)
from dietetics.composition.foods import Food, Shelf
from dietetics.composition.names import fold, words_of
from dietetics.composition.search import SearchIndex

MOST_CHOICES = 4
# One written name, two foods: which is meant by the spoon, which otherwise, and why; without a why the measure decides.
TWO_MEANINGS: Mapping[tuple[str, ...], tuple[str, str, str]] = {
    ("pepper",): ("black-pepper", "red-pepper-raw", ""),
    ("chili",): ("chili-powder", "red-chili-raw", "Chilli by the spoon is taken as the powder, not the fresh pepper"),
    ("tomato", "puree"): (
        "tomato-paste",
        "tomato-puree",
        "Tomato purée by the spoon is taken as the British name for tomato paste; the American purée is thinner",
    ),
    ("coriander",): (
        "coriander-seed",
        "cilantro-fresh",
        "Coriander by the spoon is taken as the ground seed, not the leaf",
    ),
}
LEAFY_WORDS = frozenset({"chopped", "fresh", "leaf", "torn", "picked", "bunch", "sprig"})  # of coriander: the leaf
# Names that say what a thing is for and not what it is: taken for the usual one, and always asked about.
LOOSE_NAMES: Mapping[tuple[str, ...], tuple[str, str]] = {
    ("plant", "milk"): ("soy-milk-unsweetened", "Which plant milk is not said: protein, energy and allergens differ"),
    ("protein", "powder"): ("soy-protein-isolate", "Which protein powder is not said: read its label"),
    ("coconut",): ("coconut-desiccated", "Fresh or dried coconut is not said: dried has twice the energy"),
    ("oil",): ("olive-oil", "Which oil is not said: energy is the same, fatty acids and allergens are not"),
    ("bread",): ("bread-whole-wheat", "Which bread is not said"),
    ("toast",): ("bread-whole-wheat", "Which bread is not said"),
    ("brown", "bread"): ("bread-whole-wheat", "Brown bread is taken as whole-wheat bread"),
    ("tortilla",): ("tortilla-corn", "Corn or wheat is not said: wheat tortillas hold gluten and often oil"),
    ("wrap",): ("tortilla-whole-wheat", "Which wrap is not said"),
    ("light", "soy", "sauce"): (
        "soy-sauce",
        "British and Asian “light” soy sauce is full salt; some labels mean reduced salt by it",
    ),
    ("sprout",): ("brussels-sprouts-raw", "Sprouts are Brussels sprouts in Britain, alfalfa or bean sprouts elsewhere"),
    ("noodle",): ("pasta-dry", "Which noodles is not said: wheat, rice and konjac differ much"),
}
# A claim that names a row by another: "sugar-free applesauce" is looked for among the unsweetened, and then asked about.
IMPLIED: Mapping[str, tuple[str, ...]] = {
    "sugar-free": ("unsweetened",),
    "salt-free": ("salt-low",),
    "fat-free": ("fat-low",),
}
# Of the words behind a comma, those that change a food wherever they stand; other words there are told of the dish.
# Cut at home: "3 tomatoes, diced" are no canned diced tomatoes.
_CUTS = (CUT_WORDS.keys() - {"ground"}) | {
    *(
        "whole",
        "peeled",
        "crushed",
        "mashed",
        "halved",
        "quartered",
        "torn",
        "minced",
        "cubed",
        "cut",
        "pureed",
        "puree",
    )
}
_TELLING = frozenset(
    {"for", "with", "to", "in", "on", "or", "and", "if", "from", "as", "into", "plus", "like", "per", "by"}
)
NOTED_WORDS = frozenset(
    (CHANGING_WORDS | {"oil", "syrup", "brine"}) - {"fresh", "hot", "strong", "filled", "coated", "nut", "ground"}
)
DAIRY_WORDS = frozenset({"milk", "cream", "butter", "cheese", "yogurt", "yoghurt"})
UNASKED_TAGS = frozenset(
    {"in-oil", "in-syrup", "in-juice", "fat-low", "salt-low", "salt-free", "sweetened", "sugar-low", "gluten-free",
     "unfortified"}
)  # fmt: skip


@dataclass(frozen=True)
class Phrase:
    """The words of a written phrase: in order, with the claims it makes; `neutral` words are heard and change nothing.

    `forms` are, of the words behind a comma, those that stand alone there and name a form: "carrots, juice".
    """

    words: tuple[str, ...]
    claims: frozenset[str]
    neutral: tuple[str, ...] = ()
    forms: frozenset[str] = frozenset()

    def and_then(self, other: Phrase) -> Phrase:
        """Two phrases as one, the second behind the first."""
        return Phrase(self.words + other.words, self.claims | other.claims, self.neutral + other.neutral)


@dataclass(frozen=True)
class Choice:
    """A row that a line may have meant, and what would differ from what was written."""

    food: Food
    differs: str


@dataclass(frozen=True)
class Match:
    """The food a phrase means, what else it may mean, the words not understood, and remarks.

    `clashes` is what forbids the reading; then `choices` holds the nearest rows. `honoured` are the words that chose
    the row, `neutral` those that changed nothing, `later` what is done after measuring ("onions, roasted").
    """

    food: Food
    alternatives: tuple[Food, ...] = ()
    not_understood: tuple[str, ...] = ()
    remarks: tuple[str, ...] = ()
    sure: bool = True
    clashes: tuple[str, ...] = ()
    choices: tuple[Choice, ...] = ()
    honoured: tuple[str, ...] = ()
    neutral: tuple[str, ...] = ()
    later: tuple[str, ...] = ()


@dataclass(frozen=True)
class NoMatch:
    """Why a phrase means no food of the shelf, and what may stand in."""

    reason: str
    choices: tuple[Choice, ...] = ()


@lru_cache(maxsize=4096)
def hear(text: str) -> Phrase:
    """Return the words and claims of a written phrase: "no-salt-added diced tomatoes" claims salt-free."""
    folded = fold(text)
    claims: set[str] = set()
    neutral: list[str] = []
    pieces: list[str] = []
    at = 0
    for found in CLAIM_PATTERN.finditer(folded):
        pieces.append(folded[at : found.start()])
        at = found.end()
        claim = CLAIM_OF[str(found.lastgroup)]
        if claim in {"neutral", "instead"}:
            neutral.append(found.group().strip())
        elif claim in ("cooked", "wholegrain"):
            pieces.append(f" {claim} ")
        else:
            claims.add(claim)
            if claim == "vegan":
                pieces.append(" vegan ")
    pieces.append(folded[at:])
    words = tuple(SAME_WORD.get(word, word) for word in words_of(" ".join(pieces)))
    return Phrase(words, frozenset(claims), tuple(neutral))


@dataclass(frozen=True)
class Name:
    """A name of a row: its words, and the claims that must be made for it to be meant."""

    words: tuple[str, ...]
    claims: frozenset[str]
    food: Food


@dataclass
class NameIndex:
    """Every name of a shelf by its last word, and the words each row's names say."""

    shelf: Shelf
    search: SearchIndex
    by_word: dict[str, list[Name]] = field(default_factory=dict)
    says: dict[str, frozenset[str]] = field(default_factory=dict)
    heads: set[str] = field(default_factory=set)
    vocabulary: set[str] = field(default_factory=set)

    def __post_init__(self) -> None:
        for food in self.shelf:
            said: set[str] = set()
            seen: set[tuple[tuple[str, ...], frozenset[str]]] = set()
            for text in food.names:
                said.update(_named(text).words)
                phrase = _named(text.split(",")[0])
                key = (phrase.words, phrase.claims)
                if phrase.words and key not in seen:
                    seen.add(key)
                    self.by_word.setdefault(phrase.words[-1], []).append(Name(*key, food))
            self.says[food.key] = frozenset(said)
            self.vocabulary.update(said)
        self.heads = {word for word in self.by_word if word not in NEUTRAL_WORDS and word not in STATE_WORDS}

    @property
    def known(self) -> Collection[str]:
        """Every word that needs no correction."""
        return self.vocabulary


@lru_cache(maxsize=16384)
def _named(text: str) -> Phrase:
    """A name's words and claims; what it carries in brackets is left out of its words."""
    plain = text.split("(", maxsplit=1)[0] if text.strip().endswith(")") else text
    return hear(plain or text)


@dataclass(frozen=True)
class _Account:
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


class _Reading:
    """One phrase, tried against the rows of a shelf."""

    def __init__(self, phrase: Phrase, notes: Phrase, container: str, index: NameIndex) -> None:
        self.phrase, self.notes, self.container, self.index = phrase, notes, container, index
        self.claims = phrase.claims | notes.claims
        self.implied = self.claims | {more for claim in self.claims for more in IMPLIED.get(claim, ())}
        self.light = "light" in phrase.words
        self.places = {word: i for i, word in enumerate(phrase.words)}
        self.rest = [w for w in dict.fromkeys(phrase.words) if w not in NEUTRAL_WORDS and w not in VARIETY_WORDS]
        self.states = [w for w in dict.fromkeys(phrase.words) if w in STATE_WORDS]
        self.note_states = [w for w in dict.fromkeys(notes.words) if w in STATE_WORDS and w not in self.places]
        changing = (w for w in notes.words if w in NOTED_WORDS or w in notes.forms)
        self.note_changes = [w for w in dict.fromkeys(changing) if w not in self.places]

    def accounts(self) -> list[_Account]:
        """Every row whose name stands in the phrase, with how it accounts for the other words, best first."""
        found = []
        for word in dict.fromkeys(self.phrase.words):
            for name in self.index.by_word.get(word, ()):
                if self.places.keys() >= set(name.words) and name.claims <= self.implied:
                    found.append(self._account(name))
        return sorted(found, key=self._rank)

    def _rank(self, one: _Account) -> tuple[object, ...]:
        food = one.food
        unasked = len((food.tags & UNASKED_TAGS) - self.claims - one.name.claims)
        heavy = sum(
            0.5 for word in one.clashes if word in FORM_WORDS
        )  # another form is another food, sooner than a claim
        return (
            len(one.clashes) + heavy, -len(one.name.words) - len(one.name.claims), not one.together, len(one.doubts),
            one.state_rank, unasked, _tie_rank(self.index.shelf.families[food.family]),
            0 if _outright(food, one.name) else 1, not food.default, -one.last, food.key,
        )  # fmt: skip

    def _account(self, name: Name) -> _Account:
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
            (honoured if honours(food, claim) or claim in name.claims else clashes).append(CLAIM_WORDS[claim])
        later = self._notes(food, said, clashes, doubts, honoured)
        if self.container == "can" and not _canned(food):
            clashes.append("canned")
        elif self.container == "can" and food.state in ("raw", "dry", "frozen"):
            doubts.append("canned")
        together = at == list(range(at[0], at[0] + len(at)))
        neutral = tuple(w for w in self.phrase.words if w not in self.rest and w not in name.words)
        return _Account(
            name, tuple(clashes), tuple(doubts), tuple(honoured), neutral, self._state_rank(food), together, last, later
        )

    def _state(self, word: str, food: Food, clashes: list[str], doubts: list[str], honoured: list[str]) -> None:
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

    def _other(self, word: str, food: Food, behind: bool, clashes: list[str], doubts: list[str]) -> None:
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
        self, food: Food, said: frozenset[str], clashes: list[str], doubts: list[str], honoured: list[str]
    ) -> tuple[str, ...]:
        """States behind the comma: the row's own are honoured; what is done after measuring is noted; others are doubts."""
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
            if word in STATE_WORDS or self._claimed(word, food) or word in NATURAL_FORMS.get(food.group, ()):
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
            canned = [s for s in wanted if s.startswith("canned")] or ["canned-drained", "canned-undrained"]
            wanted = [*canned, *wanted]
        if "canned-rinsed" in wanted:
            wanted.insert(0, "canned-rinsed")
        if "soaked" in self.notes.words and food.group in ("legume", "soy-food"):
            wanted.insert(0, "dry")
        if "undrained" in self.claims:
            wanted.insert(0, "canned-undrained")
        return wanted.index(food.state) if food.state in wanted else len(wanted)


def _holds_liquid(food: Food, word: str) -> bool:
    """True for "drained" of a row that is with its juice or syrup: the figures are of both together."""
    return word in ("drained", "rinsed") and (
        food.state == "canned-undrained" or not {"in-juice", "in-syrup"}.isdisjoint(food.tags)
    )


def _has_leaves(food: Food) -> bool:
    """True for a fresh herb, which is its leaves."""
    return food.group == "herb-spice" and food.state == "raw" and food.measure("stalk") is None


def _canned(food: Food) -> bool:
    known = {m.unit for m in food.measures}
    return food.state.startswith("canned") or "can" in known or "jar" in known


def _outright(food: Food, name: Name) -> bool:
    """True where a food is called so outright ("sugar" of white sugar), and not only its name begins so."""
    return any(
        (named := _named(synonym)).words == name.words and named.claims == name.claims for synonym in food.synonyms
    )


def _tie_rank(family: Sequence[Food]) -> int:
    """Between foods of one name: an own label first, then the family with a usual state, a median of labels last."""
    if any(food.key.startswith("own-") for food in family):
        return -1
    if all(food.state == "label" for food in family):
        return 2
    return 0 if any(food.default for food in family) else 1


def match_food(phrase: str, notes: str, spoon: bool, container: str, index: NameIndex) -> Match | NoMatch:
    """Return the food meant by `phrase` (the words before the first comma), or why there is none.

    `notes` are the words after it, `spoon` whether it was measured by spoon, `container` "can", "jar" or "".
    """
    head, behind = hear(phrase), _noted(notes)
    first = _matched(head, behind, spoon, container, index)
    changing = _naming(head, behind, index) or tuple(
        w for w in dict.fromkeys(behind.words) if w in NOTED_WORDS and w not in head.words
    )
    if changing:
        fronted = _matched(
            replace(head, words=(*changing, *head.words)), _less(behind, changing), spoon, container, index
        )
        if isinstance(fronted, Match) and not fronted.clashes and not fronted.not_understood:
            return fronted
    if isinstance(first, Match) and not first.clashes:
        return first
    mended, corrections = _corrected(head, index)
    if corrections:
        again = _matched(mended, behind, spoon, container, index)
        if isinstance(again, Match) and not again.clashes:
            remarks = tuple(f"“{wrong}” read as “{right}”" for wrong, right in corrections.items())
            return replace(again, sure=False, remarks=(*remarks, *again.remarks))
    inverted = _inverted(head, behind, spoon, container, index)
    return inverted if inverted is not None else first


def _noted(notes: str) -> Phrase:
    """What is heard behind the comma or in brackets; a piece of it that holds nothing but a form names a form."""
    forms: set[str] = set()
    for piece in notes.split(","):
        heard = [word for word in hear(piece).words if word not in NEUTRAL_WORDS]
        told = piece.split() and piece.split()[0].lower() in _TELLING
        if (
            not told
            and heard
            and all(word in FORM_WORDS or word in STATE_WORDS or word in CHANGING_WORDS for word in heard)
        ):
            forms.update(word for word in heard if word in FORM_WORDS)
    return replace(hear(notes.replace(",", " ")), forms=frozenset(forms))


def _naming(head: Phrase, behind: Phrase, index: NameIndex) -> tuple[str, ...]:
    """The words behind the comma that belong to a name: "tofu, extra firm" and "sugar, brown". The longest name counts."""
    noted = {
        word: place
        for place, word in enumerate(behind.words)
        if word not in STATE_WORDS and word not in _CUTS and word not in head.words
    }
    best: tuple[str, ...] = ()
    for word in head.words if noted else ():
        for name in index.by_word.get(word, ()):
            taken = [w for w in name.words if w in noted]
            there = all(w in noted or w in head.words for w in name.words)
            if (
                len(taken) > len(best)
                and there
                and len(taken) < len(name.words)
                and name.claims <= head.claims | behind.claims
            ):
                places = sorted(noted[w] for w in taken)
                if places == list(range(places[0], places[0] + len(places))):
                    best = tuple(taken)
    return best


def _less(phrase: Phrase, words: Collection[str]) -> Phrase:
    return replace(phrase, words=tuple(w for w in phrase.words if w not in words))


def match_name_in_brackets(inside: str, phrase: str, notes: str, index: NameIndex) -> Match | NoMatch:
    """The food named in brackets, with the words of the phrase before it that change a food: "dried kelp (kombu)"."""
    before, named = hear(phrase), hear(inside)
    changing = tuple(w for w in before.words if w in STATE_WORDS or w in FORM_WORDS or w in CHANGING_WORDS)
    head = Phrase((*changing, *named.words), before.claims | named.claims)
    return _matched(head, _noted(notes), False, "", index)


def _inverted(head: Phrase, behind: Phrase, spoon: bool, container: str, index: NameIndex) -> Match | None:
    """ "Peppers, red" and "Flour, rice": the words behind the comma belong in front. Asked about, never sure."""
    words = [w for w in behind.words if w not in NEUTRAL_WORDS]
    if not words or len(words) > 3 or len(head.words) > 3:
        return None
    found = _matched(behind.and_then(head), Phrase((), frozenset()), spoon, container, index)
    if isinstance(found, Match) and not found.clashes and len(found.honoured) < len(words) + len(head.words):
        return replace(found, sure=False)
    return None


def _matched(head: Phrase, behind: Phrase, spoon: bool, container: str, index: NameIndex) -> Match | NoMatch:
    loose = LOOSE_NAMES.get(tuple(w for w in head.words if w not in NEUTRAL_WORDS))
    if loose is not None:
        food = index.shelf.foods.get(loose[0])
        if food is not None and all(honours(food, claim) for claim in head.claims | behind.claims):
            return Match(food, remarks=(loose[1],), sure=False, neutral=head.words)
    reading = _Reading(head, behind, container, index)
    accounts = reading.accounts()
    missing = name_not_held(head.words)
    if not accounts:
        return _no_match(head, missing, index)
    best = accounts[0]
    if best.clashes:
        if missing is not None and not _says(best, missing) and _names_more(missing, best):
            return NoMatch(_reason(head, missing, index), _stand_ins(missing, index) or _choices(accounts))
        return Match(
            best.food, clashes=best.clashes, choices=_choices(accounts), honoured=best.honoured, neutral=best.neutral
        )
    if missing is not None and len(missing.words) > len(best.name.words) and not missing.animal:
        return NoMatch(missing.reason(), _choices(accounts))
    return _match_of(best, accounts, reading, spoon)


def _says(best: _Account, missing: NotHeld) -> bool:
    """True where the row's own name holds the name that is not held: soy *yogurt* is no dairy yogurt."""
    return set(missing.words) < set(best.name.words)


def _names_more(missing: NotHeld, best: _Account) -> bool:
    """True where a name that is not held explains the words that clash better than the row's own name does."""
    return missing.animal or len(missing.words) > len(best.name.words) or set(best.clashes) <= set(missing.words)


def _match_of(best: _Account, accounts: Sequence[_Account], reading: _Reading, spoon: bool) -> Match:
    food = best.food
    remarks: list[str] = []
    others = _others_of_the_name(best, accounts)
    meanings, why = TWO_MEANINGS.get(best.name.words), ""
    if meanings is not None:
        by_spoon, otherwise, why = meanings
        heard = {*reading.phrase.words, *reading.notes.words}
        if otherwise == "cilantro-fresh" and heard & LEAFY_WORDS:
            spoon = False
        if not spoon and best.name.words in (("coriander",), ("chili",)):
            why = ""
        shelf = reading.index.shelf
        food, other = (shelf.food(k) for k in ((by_spoon, otherwise) if spoon else (otherwise, by_spoon)))
        others, remarks = ([other], [why]) if why else ([], [])
    asked = bool(reading.states or reading.note_states or reading.container or "soaked" in reading.notes.words)
    siblings = [] if asked else _wet_or_dry(best, accounts)
    if best.later:
        siblings = [*siblings, *_cooked_of(food, reading.index, best.later)]
        remarks.append(f"{', '.join(best.later)} afterwards: measured before it")
    if _cooked_behind(reading, food):
        siblings = [*siblings, *(f for f in reading.index.shelf.families[food.family] if f.state in ("dry", "raw"))][:2]
    often_animal = "vegan" in food.tags and "vegan" not in reading.claims
    if often_animal:
        remarks.append(f"{food.name}: ordinary kinds often hold an animal food. Is it a vegan one?")
    frozen = [w for w in best.doubts if w == "frozen"]
    if frozen:
        remarks.append("no frozen row: the one that is not frozen stands in")
    return Match(
        food,
        tuple({f.key: f for f in (*siblings, *others) if f is not food}.values())[:3],
        tuple(w for w in best.doubts if w != "frozen"),
        tuple(remarks),
        sure=not best.doubts
        and not often_animal
        and not (meanings and why)
        and not siblings
        and not (others and not _outright(food, best.name)),
        honoured=(*best.name.words, *best.honoured),
        later=best.later,
        neutral=(*best.neutral, *reading.phrase.neutral, *(w for w in reading.notes.words if w in NEUTRAL_WORDS)),
    )


def _cooked_behind(reading: _Reading, food: Food) -> bool:
    """ "1 cup quinoa, cooked": measured cooked, or measured dry and then cooked; for grain and pulses that matters."""
    said = set(reading.note_states) & COOKING_STATES
    return bool(said) and food.group in ("grain", "legume") and food.state == "cooked"


def _cooked_of(food: Food, index: NameIndex, words: Sequence[str]) -> list[Food]:
    wanted = [state for word in words for state in STATE_WORDS[word]]
    return [f for f in index.shelf.families[food.family] if f.state in wanted][:1]


def _others_of_the_name(best: _Account, accounts: Sequence[_Account]) -> list[Food]:
    """Rows of other families that bear the very same name."""
    return [
        one.food
        for one in accounts
        if one.name.words == best.name.words
        and one.name.claims == best.name.claims
        and len(one.clashes) == 0
        and one.food.family != best.food.family
        and one.state_rank == best.state_rank
        and (one.food.default or not best.food.default)
        and _outright(one.food, one.name)
        and not (one.food.tags & UNASKED_TAGS - best.food.tags)
    ]


def _wet_or_dry(best: _Account, accounts: Sequence[_Account]) -> list[Food]:
    """Where a name is borne by the dry and the cooked row and no word says which: the other one."""
    if best.food.state not in ("dry", "cooked"):
        return []
    return [
        one.food
        for one in accounts
        if one.food.family == best.food.family
        and one.food is not best.food
        and one.name.words == best.name.words
        and {one.food.state, best.food.state} == {"dry", "cooked"}
    ][:1]


def _choices(accounts: Sequence[_Account]) -> tuple[Choice, ...]:
    found: dict[str, Choice] = {}
    for one in accounts:
        if one.food.key not in found:
            words = ", ".join(dict.fromkeys(one.clashes))
            found[one.food.key] = Choice(one.food, f"differs: {words}" if words else "as it stands")
        if len(found) == MOST_CHOICES:
            break
    return tuple(found.values())


def _stand_ins(missing: NotHeld, index: NameIndex) -> tuple[Choice, ...]:
    foods = [index.shelf.foods[key] for key in missing.stand_ins if key in index.shelf.foods]
    return tuple(Choice(food, f"instead of {missing.name}") for food in foods[:MOST_CHOICES])


def _no_match(head: Phrase, missing: NotHeld | None, index: NameIndex) -> NoMatch:
    if missing is not None:
        return NoMatch(_reason(head, missing, index), _stand_ins(missing, index))
    return NoMatch("")


def _reason(head: Phrase, missing: NotHeld, index: NameIndex) -> str:
    """Why it is not read; oat cream is no dairy cream, and not on this shelf all the same."""
    if missing.animal and len(missing.words) == 1 and missing.words[0] in DAIRY_WORDS:
        at = head.words.index(missing.words[0])
        if at and head.words[at - 1] in index.vocabulary and head.words[at - 1] not in animal_words():
            return f"{' '.join(head.words[at - 1 : at + 1])} is not on this shelf"
    return missing.reason()


def _corrected(head: Phrase, index: NameIndex) -> tuple[Phrase, dict[str, str]]:
    """The phrase with its misspelt words mended; a word that is known anywhere is never mended."""
    corrections: dict[str, str] = {}
    words = []
    for word in head.words:
        nearest = None if _is_known(word, index) else index.search.correct(word)
        if nearest is not None:
            corrections[word] = nearest
        words.append(nearest or word)
    return replace(head, words=tuple(words)), corrections


def _is_known(word: str, index: NameIndex) -> bool:
    return (
        word in index.vocabulary or word in NEUTRAL_WORDS or word in VARIETY_WORDS or word in STATE_WORDS
        or word in FORM_WORDS or word in CHANGING_WORDS or word in known_words() or any(ch.isdigit() for ch in word)
    )  # fmt: skip


def names_of(foods: Iterable[Food]) -> str:
    """Names of foods in a sentence."""
    return ", ".join(food.name for food in foods)
