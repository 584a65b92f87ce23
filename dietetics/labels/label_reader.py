"""A label as text, pasted or typed, read into facts: what was understood, what was not, and what
has to be asked.

Layouts: one figure a line, one running line, two columns, per serving or per 100 g, with units
beside the figures or in the row's name. Languages: English, German, French, Spanish, Italian,
Dutch.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from dietetics.labels.columns import HUNDRED, figures_of, number, serving_of_columns
from dietetics.labels.facts import PER_100G, PER_SERVING, LabelFacts
from dietetics.labels.ingredients import CONTAINS, TRACES
from dietetics.labels.label_words import (
    INGREDIENTS_HEADING,
    NAME,
    NUTRITION_HEADING,
    PLAIN_SERVING,
    SERVING_SIZE,
)
from dietetics.nutrients import LB_G, OZ_G
from dietetics.untrusted_input import readable

_NUMBER = r"(?P<value>\d+(?:[.,]\d+)?)"
_UNIT = r"(?P<unit>kg|g|ml|cl|l|litres?|liters?|oz|lb)\b"
_UNITS_G = {"g": 1.0, "ml": 1.0, "cl": 10.0, "kg": 1000.0, "l": 1000.0, "oz": OZ_G, "lb": LB_G}
_NET = re.compile(
    r"\b(?:net(?:to(?:gewicht|füllmenge)?)?|poids net|peso "
    r"net(?:o|to)|füllmenge|inhalt)\b(?:\s*(?:wt|weight|"
    rf"contents?))?\.?:?\s*{_NUMBER}"
    rf"\s*{_UNIT}(?:\s*\((?P<metric>\d+(?:[.,]\d+)?)\s*(?:g|ml)\))?",
    re.IGNORECASE,
)
_DRAINED = re.compile(
    rf"\b(?:drained(?:\s+(?:net\s+)?weight)?|abtropfgewicht|poids net égoutté|peso escurrido|"
    rf"peso sgocciolato|uitlekgewicht)\s*:?\s*{_NUMBER}\s*{_UNIT}",
    re.IGNORECASE,
)
_NAME_WEIGHT = re.compile(rf"[\s,]\(?{_NUMBER}\s*{_UNIT}\)?\s*[.,]?\s*$", re.IGNORECASE)
_SERVINGS = tuple(
    re.compile(pattern, re.IGNORECASE)
    for pattern in (
        rf"{_NUMBER}[ \t]+serv(?:ings?|es)[ \t]+(?:per|of\s+\d)",
        rf"serv(?:ings?|es)\s+per\s+\w+[^\d\n|]{{0,14}}?{_NUMBER}(?!\d*\s*(?:g|ml|kcal|kj)\b)",
        rf"porciones por (?:envase|empaque)\D{{0,10}}?{_NUMBER}",
        rf"(?:contains|about)\s+{_NUMBER}\s+servings",
    )
)
# "1 129 kJ", with whatever space stands for thousands
_SPACED = re.compile(
    r"(?<![\d.,])(\d{1,2})[ \u00a0\u2009\u202f](\d{3})(?=\s*(?:kj|kcal|mg)\b)", re.IGNORECASE
)
_SERVINGS_OF = re.compile(
    r"\bserv(?:ings?|es)\s+of\s+(\d+(?:[.,]\d+)?)\s*(?:g|ml)\b", re.IGNORECASE
)
_LIST_ENDS = re.compile(
    rf"(?:(?<=[.\n])|^)\s*(?=(?:{NUTRITION_HEADING.pattern}|per\s+(?:100|serving)|net\s|serving "
    r"size))",
    re.IGNORECASE,
)
_SERVINGS_PER = re.compile(r"(?<!per )servings?[ \n]per[ \n]\w+", re.IGNORECASE)
_LEFT_OVER = re.compile(
    r"[A-Za-zÀ-ÿ][\wÀ-ÿ ()-]{1,30}?\s\d+(?:[.,]\d+)?\s*(?:mg|µg|mcg|g|%)(?=[\s,.;)]|$)"
)


@dataclass(frozen=True)
class LabelReading:
    """Facts as read, the pieces of text that looked like a figure and were not understood, and what
    has to be asked.
    """

    facts: LabelFacts
    not_understood: tuple[str, ...] = ()
    questions: tuple[str, ...] = ()


def read_label(text: str, name: str = "") -> LabelReading:
    """Read a label. Facts hold what was found; nothing found leaves the field empty."""
    body = _SPACED.sub(r"\1\2", readable(text)).replace("\u00a0", " ").replace("μ", "µ")
    lines = [
        line.strip() for line in body.splitlines() if line.strip() and not line.startswith("#")
    ]
    nutrition, ingredients = _split_ingredients("\n".join(lines))
    table = _SERVINGS_PER.sub(lambda m: " " * len(m.group()), nutrition)
    serving_g, serving_text = _serving(table)
    found = figures_of(table, serving_g)
    facts = LabelFacts(
        name=name or _name(lines),
        basis=PER_100G if found.basis == HUNDRED else PER_SERVING,
        serving_g=serving_g,
        serving_text=serving_text,
        servings_per_package=_servings(nutrition),
        net_g=_net(nutrition, lines),
        values=found.values,
        ingredients=ingredients,
    )
    return LabelReading(
        facts, _left_over(nutrition, found.used), (found.question,) if found.question else ()
    )


def _split_ingredients(text: str) -> tuple[str, str]:
    """(the text without its ingredient list and allergen sentences, these)."""
    match = INGREDIENTS_HEADING.search(text)
    if match is None:
        said = [line for line in text.split("\n") if _speaks_of_allergens(line)]
        rest = [line for line in text.split("\n") if line not in said]
        return "\n".join(rest), _sentences(said)
    behind = text[match.end() :]
    ends = _LIST_ENDS.search(behind)
    until = ends.start() if ends else len(behind)
    before = text[: match.start()].split("\n")
    said = [line for line in before[1:] if _speaks_of_allergens(line)]
    kept = "\n".join(line for line in before if line not in said)
    return f"{kept}\n{behind[until:]}".strip("\n"), _sentences([*behind[:until].split("\n"), *said])


def _speaks_of_allergens(line: str) -> bool:
    return not re.search(r"\d\s*(?:g|mg|kcal|kj)\b", line, re.IGNORECASE) and bool(
        TRACES.search(line) or CONTAINS.match(line.strip())
    )


def _sentences(lines: list[str]) -> str:
    """Lines as one text in which each line ends."""
    ended = [line if line[-1] in ".;:,(" else f"{line}." for raw in lines if (line := raw.strip())]
    joined = " ".join(ended)
    return (
        joined[:-1] if len(ended) == 1 and lines and not lines[-1].strip().endswith(".") else joined
    )


def _name(lines: list[str]) -> str:
    if not lines or NUTRITION_HEADING.match(lines[0]):
        return ""
    first = re.split(r"[;:]|\.(?=\s|$)|\bnet\b|\|", lines[0], maxsplit=1, flags=re.IGNORECASE)[
        0
    ].strip()
    plain = _NAME_WEIGHT.sub("", first).strip(" ,")[:80]
    return "" if NAME.fullmatch(plain) else plain


def _net(text: str, lines: list[str]) -> float | None:
    drained = _DRAINED.search(text)  # the figures are of what is eaten
    match = drained or _NET.search(text)
    if match is not None and match.groupdict().get("metric"):
        return number(match["metric"])
    if match is None and lines and not NUTRITION_HEADING.search(lines[0]):
        match = _NAME_WEIGHT.search(re.split(r"\.(?=\s|$)", lines[0], maxsplit=1)[0])
    if match is None:
        return None
    unit = match["unit"].lower()
    return number(match["value"]) * _UNITS_G["l" if unit.startswith("l") and unit != "lb" else unit]


def _servings(text: str) -> float | None:
    for pattern in _SERVINGS:
        match = pattern.search(text)
        if match:
            return number(match["value"])
    return None


def _serving(text: str) -> tuple[float | None, str]:
    """Grams of a serving and the household measure it is stated in."""
    for match in SERVING_SIZE.finditer(text):
        inside = re.search(r"(\d+(?:[.,]\d+)?)\s*(?:g|ml)\b", match["inside"], re.IGNORECASE)
        if inside:
            before = re.sub(r"^(?:of|=)\s*", "", (match["before"] or "").strip())
            household = before or re.sub(
                r"[=,/]?\s*\d+(?:[.,]\d+)?\s*(?:g|ml)\b", "", match["inside"]
            ).strip(" /,")
            return number(inside[1]), household
    plain = PLAIN_SERVING.search(text) or _SERVINGS_OF.search(text)
    if plain:
        return number(plain[1]), ""
    return serving_of_columns(text), ""


def _left_over(text: str, used: tuple[tuple[int, int], ...]) -> tuple[str, ...]:
    """Figures with a unit that no name claimed, so that nothing is dropped in silence."""
    left = []
    for match in _LEFT_OVER.finditer(text):
        inside = any(start < match.end() and match.start() < end for start, end in used)
        if not inside and not re.search(
            r"net|serv|\bper\s+\d|100\s*(?:g|ml)|package|portion|\(", match.group(), re.IGNORECASE
        ):
            left.append(match.group().strip())
    return tuple(left)
