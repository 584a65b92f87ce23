"""Supplements as a client takes them: "B12 50 µg daily, vitamin D 25 µg, iodine 150 µg", read into
amounts a day.

They are a source of their own: they count towards the day's intakes and against the upper levels,
and never to a plate.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from dietetics.composition.sums import Composition
from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from dietetics.untrusted_input import MOST_LINE, readable

NAMES: Mapping[str, str] = {
    "b12": "vitamin_b12_ug", "cobalamin": "vitamin_b12_ug", "cyanocobalamin": "vitamin_b12_ug",
    "methylcobalamin": "vitamin_b12_ug", "d": "vitamin_d_ug", "d2": "vitamin_d_ug",
    "d3": "vitamin_d_ug",
    "cholecalciferol": "vitamin_d_ug", "iodine": "iodine_ug", "iodide": "iodine_ug",
    "selenium": "selenium_ug",
    "zinc": "zinc_mg", "iron": "iron_mg", "calcium": "calcium_mg", "magnesium": "magnesium_mg",
    "potassium": "potassium_mg",
    "c": "vitamin_c_mg", "ascorbic acid": "vitamin_c_mg", "folate": "folate_ug",
    "folic acid": "folate_ug",
    "methylfolate": "folate_ug", "b9": "folate_ug", "k": "vitamin_k_ug", "k1": "vitamin_k_ug",
    "a": "vitamin_a_ug",
    "retinol": "vitamin_a_ug", "e": "vitamin_e_mg", "tocopherol": "vitamin_e_mg",
    "b1": "thiamin_mg", "thiamin": "thiamin_mg",
    "thiamine": "thiamin_mg", "b2": "riboflavin_mg", "riboflavin": "riboflavin_mg",
    "b3": "niacin_mg", "niacin": "niacin_mg",
    "nicotinamide": "niacin_mg", "b6": "vitamin_b6_mg", "pyridoxine": "vitamin_b6_mg",
    "choline": "choline_mg",
    "ala": "ala_g", "phosphorus": "phosphorus_mg", "protein": "protein_g",
}  # fmt: skip
GRAMS: Mapping[str, float] = {"g": 1.0, "mg": 1e-3, "µg": 1e-6, "ug": 1e-6, "mcg": 1e-6}
# One international unit in the nutrient's own unit (IOM; vitamin E as natural alpha-tocopherol).
PER_IU: Mapping[str, float] = {"vitamin_d_ug": 0.025, "vitamin_a_ug": 0.3, "vitamin_e_mg": 0.67}
TIMES_A_DAY: tuple[tuple[str, float], ...] = (
    (r"twice (?:a|per) week", 2 / 7), (r"(?:three times|3 times|thrice) (?:a|per) week", 3 / 7),
    (r"(?:once )?(?:weekly|a week|per week|every week)", 1 / 7), (r"every (?:other|second) day",
    0.5),
    (r"(?:twice daily|twice a day|2 times a day|two times a day)", 2.0),
    (r"(?:three times a day|3 times a day)", 3.0),
    (r"(?:monthly|a month|per month|once a month)", 12 / 365.25),
    (r"(?:daily|a day|per day|every day|once a day|/ ?d(?:ay)?)", 1.0),
)  # fmt: skip
_ITEM = re.compile(
    r"^(?P<name>.+?)\s+(?P<amount>\d{1,3}(?:[ "
    r",]\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)*)\s*(?P<unit>iu|µg|ug|mcg|mg|g)\b"
    r"\s*(?P<rest>.*)$"
)
MOST_G_A_DAY = 50.0  # more of one supplement in a day is taken for a slip


@dataclass(frozen=True)
class Supplement:
    """What is taken of one nutrient: as written, its key, and the amount a day in the nutrient's
    own unit.
    """

    text: str
    key: str
    amount: float


def _wrong(text: str, why: str) -> DieteticsError:
    return DieteticsError("supplement-unreadable", text=text, why=why)


def _per_day(rest: str, text: str) -> float:
    plain = rest.strip(" .")
    if not plain:
        return 1.0
    for pattern, times in TIMES_A_DAY:
        if re.fullmatch(pattern, plain):
            return times
    raise _wrong(
        text,
        f"“{plain}” is not a known frequency. Write daily, weekly, twice a week or every other day",
    )


def _supplement_amount(digits: str, text: str) -> float:
    plain = re.sub(r"\s", "", digits)
    if re.fullmatch(r"\d{1,3}(,\d{3})+", plain):
        plain = plain.replace(",", "")  # 1,000 as a thousand, as labels print it
    try:
        return float(plain.replace(",", "."))
    except ValueError:
        raise _wrong(text, f"“{digits.strip()}” is not a number") from None


def read_supplement(text: str) -> Supplement:
    """One supplement. Raises `supplement-unreadable` with what was not understood.

    >>> read_supplement("vitamin D 1000 IU daily").amount
    25.0
    """
    plain = " ".join(
        readable(text, MOST_LINE)
        .lower()
        .replace("μ", "µ")
        .replace("(", " ")
        .replace(")", " ")
        .split()
    )
    match = _ITEM.match(plain)
    if match is None:
        raise _wrong(text, "write a name, an amount and a unit, like B12 50 µg daily")
    name = (
        re.sub(r"^(?:vitamin|vit\.?)[ \-]*", "", match["name"].strip())
        .strip(" -")
        .replace("b-", "b")
        .replace("b ", "b")
    )
    key = NAMES.get(name)
    if key is None:
        raise _wrong(text, f"“{match['name'].strip()}” is not a nutrient this program counts")
    amount, unit = _supplement_amount(match["amount"], text), match["unit"]
    if unit == "iu":
        if key not in PER_IU:
            raise _wrong(text, f"{nutrient(key).name} is not measured in IU")
        value = amount * PER_IU[key]
    else:
        value = amount * GRAMS[unit] / GRAMS[nutrient(key).base_unit]
    value *= _per_day(match["rest"], text)
    if value <= 0 or value * GRAMS[nutrient(key).base_unit] > MOST_G_A_DAY:
        raise _wrong(text, f"{value:g} {nutrient(key).base_unit} a day is not possible")
    return Supplement(text.strip(), key, round(value, 6))


def _items(text: str) -> list[str]:
    """The lines of a list: parted by lines, semicolons, and commas that part no number."""
    found = re.split(r"[;\n]|,(?!\d)", readable(text))
    return [item.strip() for item in found if item.strip()]


def read_supplements(text: str) -> list[Supplement]:
    """Every supplement of a list with commas, semicolons or lines between. Raises
    `supplement-unreadable`.
    """
    return [read_supplement(item) for item in _items(text)]


def supplements_and_rest(text: str) -> tuple[list[Supplement], list[DieteticsError]]:
    """The supplements of a list that are counted, and of each other line why it is not: it is kept
    as it was written, and nobody is kept from writing it down.
    """
    counted, rest = [], []
    for item in _items(text):
        try:
            counted.append(read_supplement(item))
        except DieteticsError as error:
            rest.append(error)
    return counted, rest


def amounts_a_day(supplements: Iterable[Supplement]) -> dict[str, float]:
    """What supplements bring a day, by nutrient."""
    found: dict[str, float] = {}
    for one in supplements:
        found[one.key] = found.get(one.key, 0.0) + one.amount
    return found


def with_supplements(total: Composition, a_day: Mapping[str, float]) -> Composition:
    """What was eaten in a day with its supplements; the share that is unknown of the food stays
    unknown.
    """
    if not a_day:
        return total
    figures = dict(total.figures)
    for key, amount in a_day.items():
        figure = figures[key]
        figures[key] = replace(
            figure,
            amount=(figure.amount or 0.0) + amount,
            low=(figure.low or 0.0) + amount,
            high=(figure.high or 0.0) + amount,
        )
    return Composition(total.grams, figures)
