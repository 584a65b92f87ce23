"""The words that a food may be called by in a step of a recipe."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from dietetics.prep.tasks import Minutes

_COMMON = """raw dry cooked fresh canned drained rinsed white green red brown black yellow whole
    large small medium ground of with and in the plain firm extra seed seeds"""
COMMON = frozenset(_COMMON.split())
# Words of lines that measure, cut or praise, and name no food.
_NO_NAMES = """cups cup tbsp tablespoon tablespoons teaspoon teaspoons cans tins jars clove cloves
    head heads sprig sprigs stick sticks stalk stalks handful handfuls pinch bunch bunches package
    packet packets slice slices piece pieces gram grams litre litres liter liters millilitres ounce
    ounces pound pounds small large medium light fresh frozen dried chopped diced sliced minced
    grated shredded crushed peeled pitted halved roughly finely thinly freshly ripe smoked roasted
    toasted cooked boiled unsweetened unsalted salted sweet juice baby young about each plus more
    some boiling water"""
NO_NAMES = frozenset(_NO_NAMES.split())


def words_for(name: str) -> frozenset[str]:
    """The words an ingredient may be called in a step, without their plural endings."""
    plain = re.findall(r"[a-zé-]+", name.lower().partition(",")[0].replace("-", " "))
    return frozenset(word.rstrip("s").removesuffix("e") for word in plain if word not in COMMON)


def words_of_line(line: str) -> frozenset[str]:
    """The words by which a written line names its food: "2 courgettes, sliced", "750 ml stock"."""
    plain = re.sub(r"\([^()]*\)", " ", line.lower()).partition(",")[0]
    words = re.findall(r"[a-zé]{4,}", plain.replace("-", " "))
    return words_for(" ".join(word for word in words if word not in NO_NAMES))


def head_of_line(line: str) -> frozenset[str]:
    """The last word of a line's name, which names the food by itself: "rice" of "200 g dry brown
    rice, rinsed".
    """
    plain = re.sub(r"\([^()]*\)", " ", line.lower()).partition(",")[0]
    words = [w for w in re.findall(r"[a-zé]{3,}", plain.replace("-", " ")) if w not in NO_NAMES]
    return words_for(words[-1]) if words else frozenset()


@dataclass(frozen=True)
class Ingredient:
    """What a recipe takes, by the words it may be called, with its grams as cooked now; `simmers`
    is how long a dry grain or bean usually does, `family` what kind of food it is, `heads` the
    words that name it by themselves: "rice" does brown rice, and not rice vinegar; `food` is its
    key, where it is known; `is_bottled` what is poured or shaken out again and again: oil, salt.
    """

    words: frozenset[str]
    grams: float
    is_vegetable: bool = False
    simmers: Minutes | None = None
    family: str = ""
    heads: frozenset[str] = frozenset()
    food: str = ""
    is_bottled: bool = False


def named_in(text: str, ingredients: Sequence[Ingredient]) -> list[Ingredient]:
    """The ingredients that a text names. A word that is the whole name of one names no other that
    only begins with it; "soy sauce" is not the soy milk.
    """
    plain = re.findall(r"[a-zé-]+", text.lower())
    words = {word.rstrip("s").removesuffix("e") for word in plain}
    matched = [(one, one.words & words) for one in ingredients if one.words & words]
    heads = frozenset[str]().union(*(one.heads & words for one, _ in matched))
    return [
        one
        for one, mine in matched
        if mine & one.heads or (mine - heads and not any(mine < others for _, others in matched))
    ]
