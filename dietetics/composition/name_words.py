"""Words of food names: one spelling for singular and plural, and the vocabulary a shelf is searched
by.
"""

from __future__ import annotations

import re
import unicodedata

_WORD = re.compile(r"[a-z0-9]+(?:'[a-z]+)?")
_KEEP_S = {
    "couscous",
    "hummus",
    "houmous",
    "citrus",
    "asparagus",
    "watercress",
    "cress",
    "molasses",
    "swiss",
    "grass",
    "brussels",
    "gas",
    "octopus",
    "boneless",
    "skinless",
    "schuss",
    "lemongrass",
    "cos",
    "bras",
    "capers",
}
_IRREGULAR = {
    "leaves": "leaf",
    "halves": "half",
    "loaves": "loaf",
    "radishes": "radish",
    "peaches": "peach",
    "squashes": "squash",
    "potatoes": "potato",
    "tomatoes": "tomato",
    "mangoes": "mango",
    "sandwiches": "sandwich",
    "dishes": "dish",
    "courgettes": "courgette",
    "olives": "olive",
    "chives": "chive",
    "cloves": "clove",
    "dates": "date",
    "limes": "lime",
    "grapes": "grape",
    "oranges": "orange",
    "apples": "apple",
    "noodles": "noodle",
    "pickles": "pickle",
    "yoghurt": "yogurt",
    "yoghurts": "yogurt",
    "yogurts": "yogurt",
    "chilli": "chili",
    "chillies": "chili",
    "chilies": "chili",
    "soya": "soy",
    "soyabeans": "soybean",
    "houmous": "hummus",
    "chickpea": "chickpea",
    "fibres": "fibre",
    "almonds": "almond",
    "veggie": "vegetable",
    "veg": "vegetable",
    "wholewheat": "whole-wheat",
}


def fold(text: str) -> str:
    """Small letters without accents."""
    decomposed = unicodedata.normalize("NFKD", text)
    return "".join(ch for ch in decomposed if not unicodedata.combining(ch)).lower()


def singular(word: str) -> str:
    """One spelling for singular and plural; not a dictionary, only what food names need."""
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    if len(word) < 4 or word in _KEEP_S or word.endswith("ss"):
        return word
    if word.endswith("ies"):
        return word[:-3] + "y"
    if word.endswith(("shes", "ches", "xes", "oes")):
        return word[:-2]
    if word.endswith("s"):
        return word[:-1]
    return word


def words_of(text: str) -> tuple[str, ...]:
    """The words of a name or query, folded and singular; brackets and hyphens part words."""
    return tuple(singular(w) for w in _WORD.findall(fold(text)))


def naming_words(name: str) -> tuple[str, ...]:
    """The words of a name without the note it carries in brackets."""
    return words_of(re.sub(r"\([^()]*\)", " ", name))
