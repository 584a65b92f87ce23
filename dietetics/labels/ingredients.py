"""What an ingredient list gives away: oil, sugar in its many names, salt, phosphates, allergens,
fortification.

Words are looked for in the list as printed, in English, German, French, Spanish, Italian and Dutch.
A mark says "look", never "none": a list that is missing, or whose language is not recognised, marks
nothing and clears nothing, and says so. What a product *contains* and what it *may contain* are
kept apart.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import load_shelf
from dietetics.composition.name_words import words_of
from dietetics.labels.allergenwords import ALLERGENS, COMMON_WORDS, PLANT_MILKS

OILS = (
    r"\b(?:(?:\w+\s+)?oils?|shortening|margarin\w*|vegetable fat|palm (?:fat|kernel)|coconut "
    r"fat|lecithin oil|\w*öl|\w*fett|"
    r"huiles?|aceites?|olio|oli|\w*olie)\b"
)
SUGARS = (
    r"\b(?:sugars?|syrups?|glucose|fructose|dextrose|sucrose|maltose|maltodextrin|molasses"
    r"|treacle|honey|agave|"
    r"caramel(?! "
    r"colou?r)|jaggery|muscovado|demerara|panela|rapadura|invert|nectar|(?:fruit|apple|grape|pear) "
    r"juice concentrate|"
    r"barley malt|malt extract|rice malt|date paste|isoglucose|trehalose|cane "
    r"juice|\w*zucker|\w*sirup|honig|sucres?|sirops?|miel|"
    r"azúcar(?:es)?|jarabe|zucchero|sciroppo|miele|suikers?|siroop|stroop|honing|glukose"
    r"|fruktose|saccharose|dextrosa|glucosa)\b"
)
COLOURS = (
    r"\b(?:colou?rs?|colou?rings?|farbstoffe?|colorants?|colorantes?|coloranti"
    r"|kleurstof(?:fen)?)\s*(?:\([^)]*\)|:\s*[^,;.]*)|"
    r"\b(?:ammonia |sulphite |plain )?caramel "
    r"colou?r(?:ing)?|\bE\s?-?1[0-8]\d\w?\b|\bzuckerkulör\w*"
)
SALT = (
    r"\b(?:salt|sodium chloride|brine|soya? sauce|tamari|miso|monosodium "
    r"glutamate|bouillon|stock powder|\w*salz|sel|sal|sale|"
    r"\w*zout)\b"
)
PHOSPHATES = (
    r"(?:\b\w*phosphates?\b|\b\w*phosphate?\b|\bfosfat\w*|\bphosphoric acid\b|\bphosphorsäure\b|"
    r"\bE\s?-?(?:338|339|340|341|450|451|452)\w*\b)"
)
POTASSIUM_CHLORIDE = (
    r"(?:\bpotassium chloride\b|\bkaliumchlorid\w*|\bchlorure de potassium\b|\bcloruro (?:de "
    r"potasio|di potassio)\b|"
    r"\bE\s?-?508\b)"
)
FORTIFIED: Mapping[str, str] = {
    "B12": (
        r"\b(?:(?:vit(?:amine?|amina)?s?\s*)?b-?\s?12|cyanocobalamin\w*|methylcobalamin"
        r"|cobalamin)\b"
    ),
    "calcium": (
        r"\b(?:calcium(?!\s*sul(?:ph|f)at|\s*chlorid)|tricalcium|kalzium|calcio|phosphate "
        r"de calcium|\w*calciumphosph\w*)\b"
    ),
    "vitamin D": r"\b(?:vit(?:amine?|amina)?s?\s*d-?[23]?|d[23]|ergocalciferol|cholecalciferol)\b",
    "iodine": r"\b(?:iod(?:ine|ide|ate|ure)|iodi[sz]ed salt|jod\w*|yodo|iodio|kelp|seaweed)\b",
}
CONTAINS = re.compile(
    r"^(?:allerg\w*\s*(?:advice|information|info)?\s*:\s*)?(?:contains?|enthält|contient"
    r"|contiene|bevat)\b",
    re.IGNORECASE,
)
# Introduces what may be in it by traces: what stands behind is a trace; the sentence before it is
# not.
_TRACES_AHEAD = re.compile(
    r"\b(?:may (?:also )?(?:contain|be present)|may contain traces of|traces? of|could "
    r"contain|peut (?:également )?contenir|"
    r"traces (?:éventuelles|possibles)|puede contener|può contenere|trazas|tracce|kan "
    r"(?:sporen|ook)|sporen van|spuren von)\b",
    re.IGNORECASE,
)
# A whole sentence of traces: where it was made, or German and Dutch word order. What lies between
# is bounded, so that a row of first words is not walked along from each of them to the end.
_TRACES_WHOLE = re.compile(
    r"\b(?:made|manufactured|produced|processed|packed|packaged"
    r"|prepared)\b.{0,200}\b(?:facility|factory|equipment|line|site|plant|environment)\b|"
    r"\b(?:facility|factory|equipment|line|site)\b.{0,200}\b(?:also|handles?|process(?:es)?"
    r"|uses?)\b|"
    r"\bnot suitable for\b.{0,200}\ballerg|"
    r"\bkann\b.{0,200}\benthalten\b|\bkann spuren\b|\bkan\b.{0,200}\bbevatten\b|\bpresent in the "
    r"(?:factory|facility)\b|"
    r"\bfabriqué dans\b|\belaborado en\b|\bprodotto in uno stabilimento\b|\bhergestellt in einem "
    r"betrieb\b",
    re.IGNORECASE,
)
TRACES = re.compile(f"{_TRACES_AHEAD.pattern}|{_TRACES_WHOLE.pattern}", re.IGNORECASE)
_DENIED = re.compile(
    r"\b(?:free from|free of|does not contain|frei von)\s+[\w "
    r",&-]{2,80}?(?=[.;(]|\bmay\b|\bcontains?\b|$)|"
    # what is denied is one thing and its "added" ("no salt added peanuts" holds peanuts, "no dairy
    # but soy" holds soy)
    r"\b(?:no|without|0\s?%|sans|sin|senza|zonder|ohne)\s+(?:added\s+|zusatz "
    r"von\s+|toegevoegde?\s+)?"
    r"(?:(?:palm|tree|artificial|refined|cane|animal|whole)\s+)?\w+"
    r"(?:\s+(?:added|ajout\w+|añadid\w+|aggiunt\w+|toegevoegd\w*)\b)?"
    r"(?:\s+(?:or|nor|ou|ni|oder|of)\s+(?:added\s+|tree\s+|palm\s+)?\w+)*|"
    r"\b[\w-]{1,40}[- ]free\b|\b\w+frei\w*\b|\b\w+vrij\b",
    re.IGNORECASE,
)
_SENTENCE = re.compile(r"(?<!\d)\.(?=\s|$)|\.(?=\s+[A-ZÀ-Þ])|[;\n]")
_ADDITIVES = rf"{PHOSPHATES}|{POTASSIUM_CHLORIDE}|\bE\s?-?\d{{3,4}}\w?\b"
LEAST_KNOWN = (
    0.34  # share of a list's items that must hold a known word, or the list is not recognised
)


@dataclass(frozen=True)
class IngredientFlags:
    """Marks from an ingredient list. `words` keeps what each mark was found by.

    `traces` are allergens that it may contain and does not name as contained. `recognised` is False
    where there is no list, or one whose words are not known: then every mark is unknown.
    """

    added_oil: bool = False
    added_sugar: bool = False
    added_salt: bool = False
    phosphates: bool = False
    potassium_chloride: bool = False
    allergens: tuple[str, ...] = ()
    fortified: tuple[str, ...] = ()
    words: Mapping[str, tuple[str, ...]] | None = None
    traces: tuple[str, ...] = ()
    recognised: bool = False

    def sentences(self) -> list[str]:
        """The marks in words, with what they were found by."""
        found = self.words or {}
        return [f"{name}: {', '.join(words)}" for name, words in found.items()]


def _found(pattern: str, text: str) -> tuple[str, ...]:
    return tuple(
        dict.fromkeys(
            match.group(0).strip().lower() for match in re.finditer(pattern, text, re.IGNORECASE)
        )
    )


def parted(text: str) -> tuple[str, str]:
    """(what it contains, what it may contain by traces) of a list with its allergen sentences;
    denials left out.
    """
    contained, traces = [], []
    for sentence in _SENTENCE.split(_DENIED.sub(" ", text)):
        if _TRACES_WHOLE.search(sentence):
            traces.append(sentence)
            continue
        ahead = _TRACES_AHEAD.search(sentence)
        contained.append(sentence[: ahead.start()] if ahead else sentence)
        if ahead:
            traces.append(sentence[ahead.start() :])
    return ". ".join(contained), ". ".join(traces)


def allergens_in(text: str) -> tuple[str, ...]:
    """The allergens that a text names, plant milks and butters taken for what they are."""
    plain = PLANT_MILKS.sub(
        lambda m: f" {m['plant']} " if m.groupdict().get("plant") else " ", text
    )
    return tuple(name for name, pattern in ALLERGENS.items() if _found(pattern, plain))


@lru_cache(maxsize=1)
def _known() -> frozenset[str]:
    return (
        frozenset(word for food in load_shelf() for name in food.names for word in words_of(name))
        | COMMON_WORDS
    )


def is_recognised(text: str) -> bool:
    """True where enough of a list's items hold a word that is known, in one of the six
    languages.
    """
    items = [
        item for item in re.split(r"[,;()\[\].:]", text) if re.search(r"[^\W\d_]{2,}|\d{3}", item)
    ]
    if not items:
        return False
    known = sum(
        bool(allergens_in(item) or _found(_ADDITIVES, item))
        or any(word in _known() for word in _words(item))
        for item in items
    )
    return known >= LEAST_KNOWN * len(items)


def _words(item: str) -> list[str]:
    return [*words_of(item), *re.findall(r"[^\W\d_]+", item.lower())]


def read_ingredients(text: str) -> IngredientFlags:
    """Return the marks of a pasted ingredient list; an empty list, or one that is not recognised,
    marks nothing.
    """
    contained, may = parted(text)
    if not is_recognised(f"{contained}, {may}"):
        return IngredientFlags(words={}, recognised=False)
    words: dict[str, tuple[str, ...]] = {}
    plain = re.sub(COLOURS, " ", contained, flags=re.IGNORECASE)
    for name, pattern in (
        ("added oil", OILS),
        ("added sugar", SUGARS),
        ("added salt", SALT),
        ("phosphate additive", PHOSPHATES),
        ("potassium chloride", POTASSIUM_CHLORIDE),
    ):
        hits = _found(pattern, plain)
        if hits:
            words[name] = hits
    allergens = allergens_in(contained)
    named = tuple(name for name in allergens_in(may) if name not in allergens)
    # a trace of wheat is said as wheat: the allergy to gluten minds it too
    by_wheat = "wheat" in named and not re.search(
        ALLERGENS["gluten"], re.sub(ALLERGENS["wheat"], " ", may, flags=re.I), re.I
    )
    traces = tuple(name for name in named if not (by_wheat and name == "gluten"))
    fortified = tuple(name for name, pattern in FORTIFIED.items() if _found(pattern, contained))
    for name, marks in (("allergens", allergens), ("may contain", traces), ("added", fortified)):
        if marks:
            words[name] = marks
    return IngredientFlags(
        "added oil" in words,
        "added sugar" in words,
        "added salt" in words,
        "phosphate additive" in words,
        "potassium chloride" in words,
        allergens,
        fortified,
        words,
        traces,
        True,
    )
