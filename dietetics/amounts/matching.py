"""Which food, in which state, a written phrase means.

The longest name on the shelf whose words all stand in the phrase wins; words for state (dry, cooked,
drained, rinsed, frozen, roasted) choose the row within its family; what was left over is reported.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from dietetics.composition.foods import Food, Shelf
from dietetics.composition.names import naming_words, words_of
from dietetics.composition.search import SearchIndex

# Written word -> the states of the shelf it asks for, best first.
STATE_WORDS: Mapping[str, tuple[str, ...]] = {
    "dry": ("dry", "dried"),
    "dried": ("dried", "dry"),
    "uncooked": ("dry", "raw"),
    "raw": ("raw", "dry"),
    "fresh": ("raw",),
    "cooked": ("cooked", "roasted"),
    "boiled": ("cooked",),
    "steamed": ("cooked",),
    "simmered": ("cooked",),
    "leftover": ("cooked",),
    "wilted": ("cooked",),
    "mashed": ("cooked",),
    "rehydrated": ("cooked",),
    "roasted": ("roasted", "cooked"),
    "roast": ("roasted", "cooked"),
    "baked": ("roasted", "cooked"),
    "grilled": ("roasted", "cooked"),
    "frozen": ("frozen",),
    "thawed": ("frozen",),
    "defrosted": ("frozen",),
    "canned": ("canned-drained", "canned-undrained"),
    "tinned": ("canned-drained", "canned-undrained"),
    "rinsed": ("canned-rinsed",),
    "drained": ("canned-drained",),
    "sauteed": ("cooked",),
    "microwaved": ("cooked", "roasted"),
    "precooked": ("cooked",),
    "unprepared": ("raw",),
}
# Said of how a thing is cut or treated: read, and no reason to doubt the food.
PREPARATION_WORDS = frozenset(
    words_of(
        """
        chopped sliced diced minced grated shredded cubed crushed ground torn trimmed peeled pitted stoned cored
        seeded deseeded hulled shelled soaked overnight pressed finely roughly coarsely thinly thickly cut into
        chunks chunk bite size sized florets rounds ribbons matchsticks strips wedges quartered halved whole plain
        organic ripe unripe firm tender young new large medium small big thick thin heaped fresh freshly squeezed
        good quality unsalted salted lightly low sodium reduced no salt added salt-free sugar-free oil-free
        unsweetened sweetened natural regular optional packed loosely rinsed drained washed dry cold warm hot
        boiling room temperature softened melted toasted crumbled mashed blended cooked raw skin on off with
        without skins flesh only stems leaves leaf removed reserved set aside plus more extra to taste for serving
        garnish the a an of and or in our own homemade home made shop bought leftover juice all both kind any
        colour color mixed assorted chopped-up snipped picked prepared ready eat thawed frozen defrosted steamed
        boiled roasted unsulphured unsulfured sulphured shaved flaked slivered blanched powdered granulated cloves
        clove head heads piece pieces stick sticks stalk stalks sprig sprigs bunch handful sheet sheets cup cups
        can cans tin tins hulled dehulled wild free range local seasonal fine coarse extra virgin pure real vegan
        wholegrain grain lot few each per generous about approx cool cooled lukewarm their its own liquid water
        brine packaged pack bag box tub jar smoked sweet mild wholemeal thinned needed instant old fashioned style
        late end last at the when done if using fortified unfortified split hulls shells outer inner white part
        green tops bottom ends end preferably then
        """
    )
)
CUT_WORDS: Mapping[str, str] = {
    "chopped": "chopped",
    "diced": "diced",
    "cubed": "cubed",
    "sliced": "sliced",
    "shredded": "shredded",
    "grated": "grated",
    "mashed": "mashed",
    "minced": "minced",
    "ground": "ground",
    "halves": "halves",
    "halved": "halves",
    "cubes": "cubed",
    "flaked": "sliced",
    "slivered": "sliced",
    "florets": "chopped",
}
# One written name, two foods: which is meant by the spoon, which otherwise, and why.
TWO_MEANINGS: Mapping[str, tuple[str, str, str]] = {
    "tomato puree": (
        "tomato-paste",
        "tomato-puree",
        "Tomato purée by the spoon is taken as the British name for tomato paste; the American purée is thinner",
    ),
}


# How well a name covers a phrase (smaller is better), its family, its words.
Cover = tuple[tuple[int, int, int], str, tuple[str, ...]]


@dataclass(frozen=True)
class Match:
    """The food a phrase means, what else it may mean, the words not understood, and remarks."""

    food: Food
    alternatives: tuple[Food, ...] = ()
    not_understood: tuple[str, ...] = ()
    remarks: tuple[str, ...] = ()
    sure: bool = True


@dataclass
class NameIndex:
    """Every name of a shelf as a set of words, looked up by any word of it."""

    shelf: Shelf
    search: SearchIndex
    by_word: dict[str, list[tuple[tuple[str, ...], str]]] = field(default_factory=dict)
    vocabulary: set[str] = field(default_factory=set)

    def __post_init__(self) -> None:
        seen: set[tuple[tuple[str, ...], str]] = set()
        for food in self.shelf:
            for name in food.names:
                words = naming_words(name.split(",")[0])
                if words and (words, food.family) not in seen:
                    seen.add((words, food.family))
                    self.by_word.setdefault(words[-1], []).append((words, food.family))
                    self.vocabulary.update(words)


def _cover(names: Iterable[tuple[tuple[str, ...], str]], phrase: Sequence[str]) -> list[Cover]:
    """Names whose words all stand in the phrase, ranked: more words, then together, then later in the phrase."""
    places = {word: i for i, word in enumerate(phrase)}
    out = []
    for words, family in names:
        if all(word in places for word in words):
            at = [places[word] for word in words]
            together = at == list(range(at[0], at[0] + len(at)))
            out.append(((-len(words), 0 if together else 1, -max(at)), family, words))
    return out


def match_food(phrase: str, notes: str, spoon: bool, container: bool, index: NameIndex) -> Match | None:
    """Return the food meant by `phrase` (the words before the first comma), or None.

    `notes` are the words after it, `spoon` whether it was measured by spoon, `container` whether by
    can or tin. State words are looked for in both.
    """
    head = words_of(phrase)
    corrected: dict[str, str] = {}
    found = _best(head, index)
    if found is None:
        head = tuple(_corrected(word, index, corrected) for word in head)
        found = _best(head, index)
    if found is None:
        head = (*head, *words_of(notes))
        found = _best(head, index)
    if found is None:
        return None
    families, name = found
    remarks: list[str] = [f"“{wrong}” read as “{right}”" for wrong, right in corrected.items()]
    family, others = families[0], families[1:]
    meanings = TWO_MEANINGS.get(" ".join(name))
    if meanings is not None:
        by_spoon, otherwise, why = meanings
        family, other = (by_spoon, otherwise) if spoon else (otherwise, by_spoon)
        others, remarks = [other], [*remarks, why]
    states = _states_asked(words_of(f"{phrase} {notes}"), name, container)
    food, siblings, stated = _choose(index.shelf.families[family], name, states)
    left = [w for w in head if w not in name and w not in PREPARATION_WORDS and w not in STATE_WORDS]
    alternatives = [*siblings, *(_choose(index.shelf.families[f], name, states)[0] for f in others)]
    doubtful = [w for w in left if w in index.vocabulary]
    return Match(
        food,
        tuple(alternatives[:3]),
        tuple(left),
        tuple(remarks),
        sure=not doubtful and not corrected and meanings is None and (stated or not siblings),
    )


def _best(phrase: Sequence[str], index: NameIndex) -> tuple[list[str], tuple[str, ...]] | None:
    candidates = [pair for word in dict.fromkeys(phrase) for pair in index.by_word.get(word, ())]
    covers = sorted(_cover(candidates, phrase))
    if not covers:
        return None
    rank, _, name = covers[0]
    ties = [family for r, family, n in covers if (r, n) == (rank, name)]
    ties.sort(key=lambda f: (_tie_rank(index.shelf.families[f]), _is_synonym(index.shelf.families[f], name)))
    return list(dict.fromkeys(ties)), name


def _tie_rank(family: Sequence[Food]) -> int:
    """Between foods of one name: an own label first, then the family with a usual state, a median of labels last."""
    if any(food.key.startswith("own-") for food in family):
        return -1
    if all(food.state == "label" for food in family):
        return 2
    return 0 if any(food.default for food in family) else 1


def _is_synonym(family: Sequence[Food], name: tuple[str, ...]) -> int:
    """0 where a food of the family is called so outright ("sugar" of white sugar), 1 where only its name begins so."""
    return 0 if any(naming_words(synonym) == name for food in family for synonym in food.synonyms) else 1


def _corrected(word: str, index: NameIndex, corrections: dict[str, str]) -> str:
    if word in index.vocabulary or word in PREPARATION_WORDS or word in STATE_WORDS or word.isdigit():
        return word
    nearest = index.search.correct(word)
    if nearest is None:
        return word
    corrections[word] = nearest
    return nearest


def _states_asked(words: Sequence[str], name: Sequence[str], container: bool) -> list[str]:
    states: list[str] = []
    for word in words:
        if word in STATE_WORDS and word not in name:
            states.extend(STATE_WORDS[word])
    if container and not any(s.startswith("canned") for s in states):
        states = ["canned-drained", "canned-undrained", *states]
    if "canned-rinsed" in states:
        states.insert(0, "canned-rinsed")
    elif "canned-drained" in states and "canned-undrained" not in states:
        states.insert(0, "canned-drained")
    return states


def _bears(food: Food, name: tuple[str, ...]) -> bool:
    return any(naming_words(own.split(",")[0]) == name for own in food.names)


def _choose(family: Sequence[Food], name: tuple[str, ...], states: Sequence[str]) -> tuple[Food, list[Food], bool]:
    """The member of a family that is meant, the others that could be, and whether a word decided.

    A word of state outside the name comes first ("frozen" garden peas); then those members that bear the
    very name ("baked potato"); then the family's usual state.
    """
    for state in states:
        chosen = next((food for food in family if food.state == state), None)
        if chosen is not None:
            return chosen, [], True
    bearing = [food for food in family if _bears(food, name)] or list(family)
    if len(bearing) == 1:
        return bearing[0], [], True
    chosen = next((food for food in bearing if food.default), bearing[0])
    wet_or_dry = {"dry", "cooked"} if chosen.state in ("dry", "cooked") else set()
    siblings = [food for food in bearing if food is not chosen and food.state in wet_or_dry]
    return chosen, siblings, False
