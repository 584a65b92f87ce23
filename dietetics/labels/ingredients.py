"""What an ingredient list gives away: added oil, sugar in its many names, salt, phosphates, allergens, fortification.

Words are looked for in the list as printed. A mark says "look", never "none": a list that was not
pasted marks nothing and clears nothing.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

OILS = r"\b(?:(?:\w+\s+)?oils?|shortening|margarine|vegetable fat|palm (?:fat|kernel)|coconut fat|lecithin oil)\b"
SUGARS = (
    r"\b(?:sugars?|syrup|glucose|fructose|dextrose|sucrose|maltose|maltodextrin|molasses|treacle|honey|agave|"
    r"caramel|jaggery|muscovado|demerara|panela|rapadura|invert|nectar|(?:fruit|apple|grape|pear) juice concentrate|"
    r"barley malt|malt extract|rice malt|date paste|isoglucose|trehalose|cane juice)\b"
)
SALT = r"\b(?:salt|sodium chloride|brine|soy sauce|tamari|miso|monosodium glutamate|bouillon|stock powder)\b"
PHOSPHATES = r"(?:\b\w*phosphates?\b|\bphosphoric acid\b|\bE\s?-?(?:338|339|340|341|450|451|452)\w*\b)"
POTASSIUM_CHLORIDE = r"(?:\bpotassium chloride\b|\bE\s?-?508\b)"
ALLERGENS: Mapping[str, str] = {
    "peanut": r"\b(?:peanuts?|groundnuts?|arachis)\b",
    "tree-nuts": r"\b(?:almond|cashew|walnut|hazelnut|pecan|pistachio|macadamia|brazil nut|coconut)s?\b",
    "soy": r"\b(?:soya?(?:beans?)?|tofu|tempeh|edamame|miso|tamari|shoyu|textured vegetable protein)\b",
    "wheat": r"\b(?:wheat|spelt|kamut|khorasan|durum|semolina|seitan|farro|bulgur|couscous|shoyu|soy sauce)\b",
    "gluten": r"\b(?:wheat|gluten|barley|rye|malt|spelt|kamut|khorasan|durum|semolina|seitan|farro|bulgur|couscous)\b",
    "gluten-trace": r"\boats?\b",
    "sesame": r"\b(?:sesame|tahini|gingelly|benne)\b",
    "mustard": r"\bmustard\b",
    "celery": r"\b(?:celery|celeriac)\b",
    "lupin": r"\blupi[nn]e?s?\b|\blupini\b",
    "sulphites": r"\b(?:sul(?:ph|f)ites?|sul(?:ph|f)ur dioxide|metabisul(?:ph|f)ite|E\s?-?22[0-8])\b",
}
FORTIFIED: Mapping[str, str] = {
    "B12": r"\b(?:(?:vitamins?\s*)?b-?\s?12|cyanocobalamin|methylcobalamin|cobalamin)\b",
    "calcium": r"\b(?:calcium(?!\s+sul(?:ph|f)ate|\s+chloride)|tricalcium)\b",
    "vitamin D": r"\b(?:vitamins?\s*d-?[23]?|d[23]|ergocalciferol|cholecalciferol)\b",
    "iodine": r"\b(?:iod(?:ine|ide|ate)|iodi[sz]ed salt|kelp|seaweed)\b",
}


@dataclass(frozen=True)
class IngredientFlags:
    """Marks from an ingredient list. `words` keeps what each mark was found by."""

    added_oil: bool = False
    added_sugar: bool = False
    added_salt: bool = False
    phosphates: bool = False
    potassium_chloride: bool = False
    allergens: tuple[str, ...] = ()
    fortified: tuple[str, ...] = ()
    words: Mapping[str, tuple[str, ...]] | None = None

    def sentences(self) -> list[str]:
        """The marks in words, with what they were found by."""
        found = self.words or {}
        return [f"{name}: {', '.join(words)}" for name, words in found.items()]


def _found(pattern: str, text: str) -> tuple[str, ...]:
    return tuple(dict.fromkeys(match.group(0).strip().lower() for match in re.finditer(pattern, text, re.IGNORECASE)))


def _without_denials(text: str) -> str:
    """Leave out what the list says is not there: "no added sugar", "free from nuts", "may contain" stays."""
    denied = r"\b(?:no|without|free from|free of|0\s?%)\s+(?:added\s+)?[\w ]{2,24}|\b[\w-]+[- ]free\b"
    return re.sub(denied, " ", text, flags=re.IGNORECASE)


def read_ingredients(text: str) -> IngredientFlags:
    """Return the marks of a pasted ingredient list; an empty list marks nothing."""
    plain = _without_denials(text)
    words: dict[str, tuple[str, ...]] = {}
    for name, pattern in (
        ("added oil", OILS), ("added sugar", SUGARS), ("added salt", SALT), ("phosphate additive", PHOSPHATES),
        ("potassium chloride", POTASSIUM_CHLORIDE),
    ):  # fmt: skip
        hits = _found(pattern, plain)
        if hits:
            words[name] = hits
    allergens = tuple(name for name, pattern in ALLERGENS.items() if _found(pattern, plain))
    if "gluten" in allergens:
        allergens = tuple(a for a in allergens if a != "gluten-trace")
    fortified = tuple(name for name, pattern in FORTIFIED.items() if _found(pattern, plain))
    if allergens:
        words["allergens"] = allergens
    if fortified:
        words["added"] = fortified
    return IngredientFlags(
        "added oil" in words, "added sugar" in words, "added salt" in words, "phosphate additive" in words,
        "potassium chloride" in words, allergens, fortified, words,
    )  # fmt: skip
