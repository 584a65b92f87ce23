"""Which food, in which state, a written phrase means, with every word of it accounted for.

Of all rows whose name stands in the phrase, the one is taken that leaves the fewest words
unhonoured: the name itself, states (dry, cooked, canned), claims (unsalted, in oil), kinds and
neutral words are accounted for. A word that makes another food of it and that the row does not
honour is a *clash*: the phrase is then not read, and the nearest rows are offered with what would
differ. A word nobody knows, before the name, is a *doubt*: the line asks.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from dietetics.amounts.claims import honours
from dietetics.amounts.foods_not_held import NotHeld, animal_words, known_words, name_not_held
from dietetics.amounts.honoured_words import (
    NOTED_WORDS,
    UNASKED_TAGS,
    Account,
    Reading,
    is_called_so,
)
from dietetics.amounts.phrases import NameIndex, Phrase, noted, read_phrase, without_words
from dietetics.amounts.vocabulary import (
    CHANGING_WORDS,
    COOKING_STATES,
    CUT_WORDS,
    FORM_WORDS,
    NEUTRAL_WORDS,
    STATE_WORDS,
    VARIETY_WORDS,
)
from dietetics.composition.foods import Food

MOST_CHOICES = 4
LEAST_MISSPELT = 6  # letters of a misspelt word that is read without a question
ALL_DENIED = "what it names is only held as what the line says is not meant"
CORIANDER = (
    "coriander-seed",
    "cilantro-fresh",
    "Coriander by the spoon is taken as the ground seed, not the leaf",
)
# One written name, two foods: which is meant by the spoon, which otherwise, and why; without a why
# the measure decides.
TWO_MEANINGS: Mapping[tuple[str, ...], tuple[str, str, str]] = {
    ("pepper",): ("black-pepper", "red-pepper-raw", ""),
    ("chili",): (
        "chili-powder",
        "red-chili-raw",
        "Chilli by the spoon is taken as the powder, not the fresh pepper",
    ),
    ("tomato", "puree"): (
        "tomato-paste",
        "tomato-puree",
        "Tomato purée by the spoon is read as tomato paste, its British meaning; American purée "
        "is thinner",
    ),
    ("coriander",): CORIANDER,
    ("dhania",): CORIANDER,
}
LEAFY_WORDS = frozenset(
    {"chopped", "fresh", "leaf", "torn", "picked", "bunch", "sprig"}
)  # of coriander: the leaf
# Names that say what a thing is for and not what it is: taken for the usual one, and always asked
# about.
LOOSE_NAMES: Mapping[tuple[str, ...], tuple[str, str]] = {
    ("plant", "milk"): (
        "soy-milk-unsweetened",
        "Which plant milk is not said: protein, energy and allergens differ",
    ),
    ("protein", "powder"): (
        "soy-protein-isolate",
        "Which protein powder is not said: read its label",
    ),
    ("coconut",): (
        "coconut-desiccated",
        "Fresh or dried coconut is not said: dried has twice the energy",
    ),
    ("oil",): (
        "olive-oil",
        "Which oil is not said: energy is the same, fatty acids and allergens are not",
    ),
    ("bread",): ("bread-whole-wheat", "Which bread is not said"),
    ("toast",): ("bread-whole-wheat", "Which bread is not said"),
    ("brown", "bread"): ("bread-whole-wheat", "Brown bread is taken as whole-wheat bread"),
    ("tortilla",): (
        "tortilla-corn",
        "Corn or wheat is not said: wheat tortillas hold gluten and often oil",
    ),
    ("wrap",): ("tortilla-whole-wheat", "Which wrap is not said"),
    ("light", "soy", "sauce"): (
        "soy-sauce",
        "British and Asian “light” soy sauce is full salt; some labels mean reduced salt by it",
    ),
    ("sprout",): (
        "brussels-sprouts-raw",
        "Sprouts are Brussels sprouts in Britain, alfalfa or bean sprouts elsewhere",
    ),
    ("noodle",): ("pasta-dry", "Which noodles is not said: wheat, rice and konjac differ much"),
}
# Names that nearly always mean one kind: read as it, said so, and called fairly sure.
USUAL_KIND: Mapping[tuple[str, ...], tuple[str, str]] = {
    ("tofu",): ("tofu-firm", "Taken as firm tofu: silken has half the protein"),
}
# Nobody presses, crumbles or bakes silken tofu.
_SAID_OF_FIRM = frozenset({"firm", "pressed", "press", "crumbled", "baked", "grilled", "fried"})
# Cut at home: "3 tomatoes, diced" are no canned diced tomatoes.
_CUTS = (CUT_WORDS.keys() - {"ground"}) | set(
    "whole peeled crushed mashed halved quartered torn minced cubed cut pureed puree".split()  # noqa: SIM905
)
DAIRY_WORDS = frozenset({"milk", "cream", "butter", "cheese", "yogurt", "yoghurt"})


@dataclass(frozen=True)
class Choice:
    """A row that a line may have meant, and what would differ from what was written."""

    food: Food
    differs: str


@dataclass(frozen=True)
class Match:
    """The food a phrase means, what else it may mean, the words not understood, and remarks.

    `clashes` is what forbids the reading; then `choices` holds the nearest rows. `honoured` are the
    words that chose the row, `neutral` those that changed nothing, `later` what is done after
    measuring ("onions, roasted"). `corrected` where a word was misspelt, `assumed` where the kind
    was not said.
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
    corrected: bool = False
    assumed: bool = False


@dataclass(frozen=True)
class NoMatch:
    """Why a phrase means no food of the shelf, and what may stand in."""

    reason: str
    choices: tuple[Choice, ...] = ()


def match_food(
    phrase: str, notes: str, spoon: bool, container: str, index: NameIndex
) -> Match | NoMatch:
    """Return the food meant by `phrase` (the words before the first comma), or why there is none.

    `notes` are the words after it, `spoon` whether it was measured by spoon, `container` "can",
    "jar" or "".
    """
    head, behind = read_phrase(phrase), noted(notes)
    first = _matched(head, behind, spoon, container, index)
    changing = _naming(head, behind, index) or tuple(
        w for w in dict.fromkeys(behind.words) if w in NOTED_WORDS and w not in head.words
    )
    if changing:
        fronted = _matched(
            replace(head, words=(*changing, *head.words)),
            without_words(behind, changing),
            spoon,
            container,
            index,
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
            plain = all(
                _only_one_letter_off(wrong, right, index) for wrong, right in corrections.items()
            )
            return replace(
                again,
                sure=again.sure and plain,
                corrected=True,
                remarks=(*remarks, *again.remarks),
            )
    inverted = _inverted(head, behind, spoon, container, index)
    return inverted if inverted is not None else first


def _naming(head: Phrase, behind: Phrase, index: NameIndex) -> tuple[str, ...]:
    """The words behind the comma that belong to a name: "tofu, extra firm" and "sugar, brown". The
    longest name counts.
    """
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


def match_name_in_brackets(
    inside: str, phrase: str, notes: str, index: NameIndex
) -> Match | NoMatch:
    """The food named in brackets, with the words of the phrase before it that change a food: "dried
    kelp (kombu)".
    """
    before, named = read_phrase(phrase), read_phrase(inside)
    changing = tuple(
        w for w in before.words if w in STATE_WORDS or w in FORM_WORDS or w in CHANGING_WORDS
    )
    head = Phrase((*changing, *named.words), before.claims | named.claims)
    return _matched(head, noted(notes), False, "", index)


def _inverted(
    head: Phrase, behind: Phrase, spoon: bool, container: str, index: NameIndex
) -> Match | None:
    """ "Peppers, red" and "Flour, rice": the words behind the comma belong in front. Asked about,
    never sure.
    """
    words = [w for w in behind.words if w not in NEUTRAL_WORDS]
    if not words or len(words) > 3 or len(head.words) > 3:
        return None
    found = _matched(behind.and_then(head), Phrase((), frozenset()), spoon, container, index)
    if (
        isinstance(found, Match)
        and not found.clashes
        and len(found.honoured) < len(words) + len(head.words)
    ):
        return replace(found, sure=False)
    return None


def _matched(
    head: Phrase, behind: Phrase, spoon: bool, container: str, index: NameIndex
) -> Match | NoMatch:
    bare = tuple(w for w in head.words if w not in NEUTRAL_WORDS)
    loose = LOOSE_NAMES.get(bare)
    reading = Reading(head, behind, container, index)
    if loose is not None:
        food = index.shelf.foods.get(loose[0])
        claims = head.claims | behind.claims
        fits = food is not None and all(honours(food, claim) for claim in claims)
        if food is not None and fits and not reading.is_denied(food):
            return Match(food, remarks=(loose[1],), sure=False, neutral=head.words)
    accounts = reading.accounts()
    if not accounts:
        denied = Reading(head, behind, container, index.denying(())).accounts()
        if denied:
            return NoMatch(ALL_DENIED, _choices(denied))
    missing = name_not_held(head.words)
    if not accounts:
        return _no_match(head, missing, index)
    best = accounts[0]
    if best.clashes:
        if missing is not None and not _says(best, missing) and _names_more(missing, best):
            return NoMatch(
                _reason(head, missing, index), _stand_ins(missing, index) or _choices(accounts)
            )
        return Match(
            best.food,
            clashes=best.clashes,
            choices=_choices(accounts),
            honoured=best.honoured,
            neutral=best.neutral,
        )
    if missing is not None and len(missing.words) > len(best.name.words) and not missing.animal:
        return NoMatch(missing.reason(), _choices(accounts))
    found = _match_of(best, accounts, reading, spoon)
    usual = USUAL_KIND.get(bare)
    if usual is None or usual[0] != found.food.key or {*head.words, *behind.words} & _SAID_OF_FIRM:
        return found
    return replace(found, assumed=True, remarks=(*found.remarks, usual[1]))


def _says(best: Account, missing: NotHeld) -> bool:
    """True where the row's own name holds the name that is not held: soy *yogurt* is no dairy
    yogurt.
    """
    return set(missing.words) < set(best.name.words)


def _names_more(missing: NotHeld, best: Account) -> bool:
    """True where a name that is not held explains the words that clash better than the row's own
    name does.
    """
    return (
        missing.animal
        or len(missing.words) > len(best.name.words)
        or set(best.clashes) <= set(missing.words)
    )


def _match_of(best: Account, accounts: Sequence[Account], reading: Reading, spoon: bool) -> Match:
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
        food, other = (
            shelf.food(k) for k in ((by_spoon, otherwise) if spoon else (otherwise, by_spoon))
        )
        if reading.is_denied(food):
            food, other, why = other, food, ""
        others, remarks = ([other], [why]) if why else ([], [])
    asked = bool(
        reading.states
        or reading.note_states
        or reading.container
        or "soaked" in reading.notes.words
    )
    siblings = [] if asked else _wet_or_dry(best, accounts)
    if best.later:
        siblings = [*siblings, *_cooked_of(food, reading.index, best.later)]
        remarks.append(f"{', '.join(best.later)} afterwards: measured before it")
    if _cooked_behind(reading, food):
        siblings = [
            *siblings,
            *(f for f in reading.index.shelf.families[food.family] if f.state in ("dry", "raw")),
        ][:2]
    often_animal = "vegan" in food.tags and "vegan" not in reading.claims
    if often_animal:
        remarks.append(f"{food.name}: ordinary kinds often hold an animal food. Is it a vegan one?")
    frozen = [w for w in best.doubts if w == "frozen"]
    if frozen:
        remarks.append("no frozen row: the one that is not frozen stands in")
    also = {f.key: f for f in (*siblings, *others) if f is not food and not reading.is_denied(f)}
    return Match(
        food,
        tuple(also.values())[:3],
        tuple(w for w in best.doubts if w != "frozen"),
        tuple(remarks),
        sure=not best.doubts
        and not reading.may_be_denied(food)
        and not often_animal
        and not (meanings and why)
        and not siblings
        and not (others and not is_called_so(food, best.name)),
        honoured=(*best.name.words, *best.honoured),
        later=best.later,
        neutral=(
            *best.neutral,
            *reading.phrase.neutral,
            *(w for w in reading.notes.words if w in NEUTRAL_WORDS),
        ),
    )


def _cooked_behind(reading: Reading, food: Food) -> bool:
    """ "1 cup quinoa, cooked": measured cooked, or measured dry and then cooked; for grain and
    pulses that matters.
    """
    said = set(reading.note_states) & COOKING_STATES
    return bool(said) and food.group in ("grain", "legume") and food.state == "cooked"


def _cooked_of(food: Food, index: NameIndex, words: Sequence[str]) -> list[Food]:
    wanted = [state for word in words for state in STATE_WORDS[word]]
    return [f for f in index.shelf.families[food.family] if f.state in wanted][:1]


def _others_of_the_name(best: Account, accounts: Sequence[Account]) -> list[Food]:
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
        and is_called_so(one.food, one.name)
        and not (one.food.tags & UNASKED_TAGS - best.food.tags)
    ]


def _wet_or_dry(best: Account, accounts: Sequence[Account]) -> list[Food]:
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


def _choices(accounts: Sequence[Account]) -> tuple[Choice, ...]:
    found: dict[str, Choice] = {}
    for one in accounts:
        if one.food.key not in found:
            words = ", ".join(dict.fromkeys(one.clashes))
            found[one.food.key] = Choice(one.food, words or "as it stands")
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
        if (
            at
            and head.words[at - 1] in index.vocabulary
            and head.words[at - 1] not in animal_words()
        ):
            return f"{' '.join(head.words[at - 1 : at + 1])} is not in the food table"
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


def _only_one_letter_off(wrong: str, right: str, index: NameIndex) -> bool:
    """True for a word of some length that one letter parts from one known word alone, foods that
    are not held counted: "brocoli" is broccoli.
    """
    long_enough = len(wrong) >= LEAST_MISSPELT
    return long_enough and index.search.within_one_edit(wrong, known_words()) == {right}


def _is_known(word: str, index: NameIndex) -> bool:
    return (
        word in index.vocabulary
        or word in NEUTRAL_WORDS
        or word in VARIETY_WORDS
        or word in STATE_WORDS
        or word in FORM_WORDS
        or word in CHANGING_WORDS
        or word in known_words()
        or any(ch.isdigit() for ch in word)
    )
