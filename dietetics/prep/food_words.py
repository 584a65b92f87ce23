"""The words that a food may be called by in a step of a recipe."""

from __future__ import annotations

import re

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
    plain = re.sub(r"\([^)]*\)", " ", line.lower()).partition(",")[0]
    words = re.findall(r"[a-zé]{4,}", plain.replace("-", " "))
    return words_for(" ".join(word for word in words if word not in NO_NAMES))
