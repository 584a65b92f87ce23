"""A label as text, in US or EU wording, read into facts: what was understood, and what was not.

"Per serving (84 g): 160 kcal, fat 5 g, sodium 10 mg" and "per 100 g: 670 kJ / 160 kcal, salt 0.4 g".
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from dietetics.labels.facts import KJ_PER_KCAL, PER_100G, PER_SERVING, SODIUM_MG_PER_SALT_G, LabelFacts

# As printed -> our key, most particular first.
NAMES: tuple[tuple[str, str], ...] = (
    (r"(?:of which\s+)?saturate[sd]?(?:\s+fat(?:ty acids)?)?|sat(?:urated)?\.?\s+fat", "saturated_fat_g"),
    (r"(?:of which\s+|total\s+|includes?\s+)?(?<!added )sugars?", "sugars_g"),
    (r"dietary fib(?:re|er)|fib(?:re|er)", "fibre_g"),
    (r"total carbohydrates?|carbohydrates?|carbs?", "carbohydrate_g"),
    (r"proteins?", "protein_g"),
    (r"total fat|fat", "fat_g"),
    (r"sodium", "sodium_mg"),
    (r"salt", "salt"),
    (r"potassium", "potassium_mg"),
    (r"phosphorus", "phosphorus_mg"),
    (r"calcium", "calcium_mg"),
    (r"magnesium", "magnesium_mg"),
    (r"iron", "iron_mg"),
    (r"zinc", "zinc_mg"),
    (r"selenium", "selenium_ug"),
    (r"iodine", "iodine_ug"),
    (r"vitamin\s*c", "vitamin_c_mg"),
    (r"vitamin\s*k", "vitamin_k_ug"),
    (r"vitamin\s*d", "vitamin_d_ug"),
    (r"vitamin\s*b-?\s?12", "vitamin_b12_ug"),
    (r"fol(?:ate|ic acid)", "folate_ug"),
    (r"ala|alpha-linolenic acid", "ala_g"),
)
TO_GRAMS = {"g": 1.0, "mg": 1e-3, "µg": 1e-6, "mcg": 1e-6, "ug": 1e-6, "kg": 1000.0}
OUR_UNIT = {"g": 1.0, "mg": 1e-3, "ug": 1e-6}
OZ_G = 28.3495
_NUMBER = r"(?P<less><\s*)?(?P<value>\d+(?:[.,]\d+)?)"


_SERVING = (
    r"(?:serving size|per serving|per portion|one serving is|a serving is)\s*:?\s*"
    r"(?P<before>[^()\d]*[\d¼½¾⅓⅔/ ]*[^()]{0,24}?)?\(\s*(?P<inside>[^)]*)\)"
)


@dataclass(frozen=True)
class LabelReading:
    """Facts as read, and the pieces of text that looked like a figure and were not understood."""

    facts: LabelFacts
    not_understood: tuple[str, ...] = ()


def figure(text: str) -> float:
    """A printed number, with a decimal point or comma."""
    return float(text.replace(",", "."))


def in_our_unit(key: str, value: float, unit: str) -> float:
    """A stated amount in the unit of `key`; salt in g becomes sodium in mg."""
    grams = value * TO_GRAMS[unit.lower().replace("μ", "µ")]
    if key == "salt":
        return grams * SODIUM_MG_PER_SALT_G
    return grams / OUR_UNIT[key.rsplit("_", 1)[1]]


def read_label(text: str, name: str = "") -> LabelReading:
    """Read a label. Facts hold what was found; nothing found leaves the field empty."""
    body = text.replace("\u00a0", " ").replace("μ", "µ")
    lines = [line.strip() for line in body.splitlines() if line.strip() and not line.startswith("#")]
    flat = " ".join(lines)
    nutrition, ingredients = _split_ingredients(flat)
    basis = PER_100G if re.search(r"per\s+100\s*(?:g|ml)", nutrition, re.IGNORECASE) else PER_SERVING
    serving_g, serving_text = _serving(nutrition)
    values, used = _values(nutrition)
    facts = LabelFacts(
        name=name or _name(flat), basis=basis, serving_g=serving_g, serving_text=serving_text,
        servings_per_package=_servings(nutrition), net_g=_net(nutrition), values=values, ingredients=ingredients,
    )  # fmt: skip
    return LabelReading(facts, _left_over(nutrition, used))


def _split_ingredients(text: str) -> tuple[str, str]:
    match = re.search(
        r"\bingredients?\s*:\s*(?P<list>.*?)(?=(?:\.\s+(?:nutrition|per\s|net\s|serving))|$)", text, re.IGNORECASE
    )
    if match is None:
        return text, ""
    return text[: match.start()] + " " + text[match.end() :], match["list"].strip()


def _name(text: str) -> str:
    return re.split(r"[.;:]|\bnet\b", text, maxsplit=1, flags=re.IGNORECASE)[0].strip()[:80]


def _net(text: str) -> float | None:
    unit = r"(?P<unit>kg|g|ml|l|oz|lb)\b"
    match = re.search(
        rf"\bnet\b(?:\s*(?:wt|weight|contents?))?\.?:?\s*{_NUMBER}\s*{unit}(?:\s*\((?P<metric>\d+(?:[.,]\d+)?)\s*(?:g|ml)\))?",
        text,
        re.IGNORECASE,
    )
    if match is None:
        return None
    if match["metric"]:
        return figure(match["metric"])
    factor = {"g": 1.0, "ml": 1.0, "kg": 1000.0, "l": 1000.0, "oz": OZ_G, "lb": 453.592}[match["unit"].lower()]
    return figure(match["value"]) * factor


def _servings(text: str) -> float | None:
    for pattern in (
        r"servings?\s+per\s+(?:package|container|pack(?:et)?|tub|can)\D{0,10}?(?P<value>\d+(?:[.,]\d+)?)",
        r"(?P<value>\d+(?:[.,]\d+)?)\s+servings\s+per",
        r"(?:contains|about)\s+(?P<value>\d+(?:[.,]\d+)?)\s+servings",
    ):
        match = re.search(pattern, text, re.IGNORECASE)
        if match:
            return figure(match["value"])
    return None


def _serving(text: str) -> tuple[float | None, str]:
    """Grams of a serving and the household measure it is stated in."""
    match = re.search(_SERVING, text, re.IGNORECASE)
    if match:
        inside = re.search(r"(\d+(?:[.,]\d+)?)\s*(?:g|ml)\b", match["inside"], re.IGNORECASE)
        before = (match["before"] or "").strip()
        if inside:
            household = before or re.sub(r"[=,]?\s*\d+(?:[.,]\d+)?\s*(?:g|ml)\b", "", match["inside"]).strip()
            return figure(inside[1]), household
    plain = re.search(
        r"(?:serving size|per serving|per portion|per)\s*:?\s*(?:of\s+)?(\d+(?:[.,]\d+)?)\s*g\b", text, re.IGNORECASE
    )
    if plain and figure(plain[1]) != 100:
        return figure(plain[1]), ""
    return None, ""


def _values(text: str) -> tuple[dict[str, float], list[tuple[int, int]]]:
    values: dict[str, float] = {}
    used: list[tuple[int, int]] = []
    for pattern, factor in (
        (rf"{_NUMBER}\s*(?:kcal|cal(?:ories)?)\b|(?:calories)\s*:?\s*(?P<other>\d+(?:[.,]\d+)?)", 1.0),
        (rf"{_NUMBER}\s*kj\b", 1 / KJ_PER_KCAL),
    ):
        match = re.search(pattern, text, re.IGNORECASE)
        if match and "energy_kcal" not in values:
            stated = match["value"] or match.groupdict().get("other") or "0"
            values["energy_kcal"] = figure(stated) * factor
        used += [m.span() for m in re.finditer(pattern, text, re.IGNORECASE)]
    for words, key in NAMES:
        pattern = rf"\b(?:{words})\b\s*(?:\([^)\d]*\))?\s*[:=]?\s*{_NUMBER}\s*(?P<unit>mg|µg|mcg|ug|g)\b"
        for match in re.finditer(pattern, text, re.IGNORECASE):
            if any(start < match.end() and match.start() < end for start, end in used):
                continue
            ours = "sodium_mg" if key == "salt" else key
            values.setdefault(ours, in_our_unit(key, figure(match["value"]), match["unit"]))
            used.append(match.span())
    return values, used


def _left_over(text: str, used: list[tuple[int, int]]) -> tuple[str, ...]:
    """Figures with a unit that no name claimed, so that nothing is dropped in silence."""
    left = []
    for match in re.finditer(r"[A-Za-z][\w ()-]{1,30}?\s\d+(?:[.,]\d+)?\s*(?:mg|µg|mcg|g|%)(?=[\s,.;)]|$)", text):
        inside = any(start < match.end() and match.start() < end for start, end in used)
        if not inside and not re.search(r"net|serving|per 100|package|\(", match.group(), re.IGNORECASE):
            left.append(match.group().strip())
    return tuple(left)
