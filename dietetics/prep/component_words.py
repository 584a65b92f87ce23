"""How a step speaks of what is in the making: the words for a pan that is hot, for what stands
there ("it", "the rest"), and for what a component was called while it was made ("the dough").
"""

from __future__ import annotations

import re
from collections.abc import Collection

MIXING = frozenset({"mix", "spread", "shape", "blend", "whisk", "mash", "knead", "massage", "stir"})
DRY_HEAT = frozenset({"sauté", "soften", "brown", "toast", "wilt", "steam-fry"})
LEAVES_THE_PAN = re.compile(
    r"\bset aside\b|\bremove\b|\btransfer\b|\b(?:take|tip) (?:it |them )?out\b"
)
POT_OF_WATER = re.compile(r"\b(?:pot|pan|saucepan) of (?:\w+ )?water\b")
THE_REST = re.compile(
    r"\brest\b(?! of (?:the |your )?(?!ingredients)[a-z])|\bremaining (?:vegetables|things)\b|"
    r"\bingredients\b|\btogether\b"
)
# What of a food was kept back: "slice the other half of the onion".
PART_LEFT = re.compile(
    r"\b(?:other|second|remaining) half\b|\bremaining\b|\brest of (?:the|your)\b"
)
TO_WHAT = re.compile(  # "tip into the dal", and not into a vessel
    r"^[a-zé-]+ (?:back )?(?:in)?to the (?!(?:[a-z]+ )?(?:tin|tins|dish|pan|pot|bowl|bowls|blender|"
    r"processor|jar|jars|tray|trays|cases|oven|fridge|freezer|refrigerator|boil|heat|simmer|cooker|"
    r"mould|mold|skillet|wok|saucepan|top|side|table|touch|bone|end|rack)\b)"
)
FOR_THE = re.compile(r"^for the [a-zé -]{1,30}[,:] ?")  # what is about to be made
HOW = re.compile(r"^(?:(?:gently|carefully|slowly|gradually|lightly|quickly|now|then) )+")
# "Pour over the hot oil", "pour over the tofu": one of the two was left by the step before.
OVER_WHAT_STANDS = re.compile(r"^(?:pour|drizzle|spoon|scatter|sprinkle) over ")
# "Blend with the yogurt": what stands there is not named again.
OF_WHAT_STANDS = re.compile(r"^[a-zé-]+ (?:well )?(?:with|in|into|on|onto|to) ")
# "Combine.", "Mix well." of nothing that is named.
OF_ALL = frozenset({"mix", "blend"})
PRONOUN = re.compile(r"\b(?:it|them|these|this)\b")
# What brings its foods to something that stands there.
JOINS = re.compile(
    r"^(?:add(?:ing)?|return|fold|top|season|sprinkle|scatter|garnish|drizzle|thin|taste|deglaze|"
    r"stir(?:ring)? (?:(?!together)[^.]*?\b)?(?:in|into|through)|"
    r"(?:whisk|mix|blend|mash) in(?:to)?|"
    r"(?:pour|put|tip|place|spoon|ladle|crack|toss) (?:[^.]*\b)?(?:in|into|over|on|onto|back)|"
    r"[a-zé-]+ (?:with|in|into|through|over)\b)\b"
)
A_VESSEL = re.compile(
    r"\b(?:in|into|on|onto|to|over) (?:a|an|another|your|two)\b"
    r"(?! (?:while|minute|few|little|boil|simmer))"
)
SAME_VESSEL = re.compile(
    r"\b(?:in|into|to) the (?:same )?(?:pan|pot|skillet|wok|saucepan|tray|oil)\b"
)
WATER_OVER = re.compile(r"^(?:pour|put) (?:\w+ )?(?:boiling |hot |cold |warm )+water over\b")
# Why something is done names what nothing is done with: "so they don't stain the rest".
SUBORDINATE = re.compile(
    r"\b(?:so (?:that )?(?:it|they|the)|because|otherwise|to (?:avoid|stop))\b"
)
_MADE = (
    "sauce|dressing|marinade|glaze|vinaigrette|salsa|relish|pesto|cream|paste|dough|batter|filling|"
    "ragout|gravy|topping|crumble|syrup|brine"
)
MADE_TO = re.compile(
    rf"\b(?:to|into|makes?|for|forms?) (?:a|an|the|your) (?:[a-z-]+ ){{0,2}}?({_MADE})\b"
)
THE_MADE = re.compile(rf"\b(?:the|this|your) (?:[a-z]+ )?({_MADE})\b")
# What a component may be called, by how it was made.
LIQUID = re.compile(
    r"\b(?:the|this|your) (?:\w+ )?"
    r"(?:sauce|dressing|marinade|glaze|tempering|vinaigrette|drizzle|liquid|syrup|cream|brine|spices)\b"
)
MIXED = re.compile(
    r"\b(?:the|this|your) (?:\w+ )?(?:mixture|mix|batter|dough|filling|paste|puree|purée)\b"
)
IN_THE_POT = re.compile(
    r"\b(?:the|this|your) (?:\w+ )?(?:soup|stew|curry|chili|chilli|pot|pan|stock)\b"
)
CUT = re.compile(r"\b(?:cubes|slices|wedges|florets|pieces|strips|patties|burgers|balls|loaf)\b")
VEGETABLES = re.compile(r"\b(?:vegetables|veg|veggies|greens|roots)\b")
LIQUIDS = frozenset({"water", "stock", "broth", "bouillon", "milk", "tomato"})
COOKED_LIQUID = frozenset({"warm", "sauté", "boil", "simmer"})
# Work on what is cooked already: it does not say that a food is cooked then.
AFTERWARDS = frozenset({"drain", "cool", "rest", "portion", "chill", "freeze", "season"})


def takes_the_rest(text: str, named: Collection[object]) -> bool:
    """True for "add the rest", and "mix together" of nothing that is named."""
    rest = THE_REST.search(text)
    return rest is not None and not (rest[0] == "together" and named)


def made_nouns(text: str) -> frozenset[str]:
    """What a text speaks of that somebody made: "the dough", "your sauce"."""
    return frozenset(match[1] for match in THE_MADE.finditer(text))


def is_about_itself(text: str) -> bool:
    """True where "it" is the food that the same clause has named: "massage the kale until it is
    soft".
    """
    return bool(re.search(r"\b(?:until|so that|if|as|when|because) (?:it|they|them)\b", text))
