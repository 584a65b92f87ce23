"""The figures of a label by name and column, and which column is which.

A heading names the columns; where a serving's weight is stated, per serving × 100 ÷ serving must be
per 100 g within rounding. Where neither decides, nothing is taken and a question is asked.
"""

from __future__ import annotations

import itertools
import re
import statistics
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from itertools import islice

from dietetics.labels.label_words import COLUMN, IGNORED, KEYS, NAME, NUTRITION_HEADING
from dietetics.nutrients import KJ_PER_KCAL, nutrient
from dietetics.untrusted_input import ascii_digits, without_endless_numbers

SODIUM_MG_PER_SALT_G = (
    400.0  # EU and UK labels: salt = sodium × 2.5 (Regulation (EU) 1169/2011, annex I)
)
TO_GRAMS: Mapping[str, float] = {
    "g": 1.0,
    "mg": 1e-3,
    "µg": 1e-6,
    "mcg": 1e-6,
    "ug": 1e-6,
    "kg": 1000.0,
}
OUR_UNIT: Mapping[str, float] = {"g": 1.0, "mg": 1e-3, "ug": 1e-6}
HUNDRED, PORTION, PERCENT, OTHER = "hundred", "portion", "percent", "other"
PACKAGE = "package"
_SIZE = re.compile(r"(?<![\d.,%(])(\d{1,4}(?:[.,]\d+)?)\s*(?:g|ml)\b(?!\s*\))", re.IGNORECASE)
_AS_PREPARED = re.compile(r"as prepared|zubereitet|préparé", re.IGNORECASE)
PREPARED = (
    "The figures are of the food as prepared, not of what is in the package. Type those "
    "of the package, or leave it out."
)
# What printing may round away: of kcal, of mg, and of g or anything finer.
ROUNDING = {"kcal": 1.0, "mg": 6.0, "g": 0.11}
AGREES = 0.12  # share by which two columns may differ beside their rounding
_FIGURE = re.compile(
    r"(?P<percent>\d+(?:[.,]\d+)?\s*%)|(?P<value>\d+(?:[.,]\d+)?)\s*(?P<unit>kcal"
    r"|cal(?:ories)?\b|kj\b|mg\b|µg\b|mcg\b|ug\b|g\b)?"
    r"|(?P<none>(?<=[|\s])[-–](?=\s*(?:[|]|$)))",
    re.IGNORECASE,
)
_RIGHT_BEFORE = re.compile(
    r"(?P<value>\d+(?:[.,]\d+)?)\s*(?P<unit>kcal|kj|mg|µg|mcg|ug|g)[ \t]+(?:of[ \t]+)?$",
    re.IGNORECASE,
)
_RIGHT_BEHIND = re.compile(r"[ \t:|=]*(?:\([a-zµ]+\)[\s:|]*)?<?\s*\d", re.IGNORECASE)
MOST_FIGURE = 60  # characters of a figure with its unit
MOST_HEADINGS = 6  # of a nutrition table that are looked behind
_THOUSANDS = re.compile(r"[1-9]\d{0,2}[.,]\d{3}")
_UNIT_IN_NAME = re.compile(
    r"^[\s,(]*(?:total\s*)?\(?\s*(?P<unit>kcal|kj|mg|µg|mcg|ug|g)\b\s*\)?", re.IGNORECASE
)


@dataclass(frozen=True)
class Row:
    """One named row: its figures in order, each with the unit that stood by it ("" where none)."""

    key: str
    figures: tuple[tuple[float | None, str], ...]


@dataclass(frozen=True)
class Figures:
    """The figures of the column that was taken. `basis` is "hundred", "portion" or "" where no
    column was decided.
    """

    values: Mapping[str, float]
    basis: str
    question: str = ""
    used: tuple[tuple[int, int], ...] = field(default=())


def number(text: str, unit: str = "") -> float:
    """A printed number, with a decimal point or comma; "1,200 mg" and "1.450 kJ" are thousands."""
    if unit.lower() in ("mg", "kj", "kcal", "µg", "mcg", "ug") and _THOUSANDS.fullmatch(text):
        return float(text.replace(",", "").replace(".", ""))
    return float(text.replace(",", "."))


def rows_of(text: str) -> tuple[list[Row], list[tuple[int, int]]]:
    """Every named row of a nutrition text with its figures, and where it stood."""
    names = list(NAME.finditer(text))
    if _figures_first(text, names):
        return _rows_before(text, names)
    rows, used = [], []
    for index, found in enumerate(names):
        key = KEYS[int(str(found.lastgroup)[1:])]
        end = names[index + 1].start() if index + 1 < len(names) else len(text)
        segment = _own_part(text[found.end() : end])
        figures = _figures_of(segment, key)
        if figures:
            used.append((found.start(), found.end() + len(segment)))
            if key != IGNORED:
                rows.append(Row(key, figures))
    return rows, used


def _figures_first(text: str, names: Sequence[re.Match[str]]) -> bool:
    """True for "4 g protein, 8 g fat": more names have their figure right before them than right
    behind.
    """
    before = sum(_before(text, m.start()) is not None for m in names)
    behind = sum(bool(_RIGHT_BEHIND.match(text, m.end())) for m in names)
    return before > behind


def _before(text: str, at: int) -> re.Match[str] | None:
    """The figure that stands right before a place of the text."""
    return _RIGHT_BEFORE.search(text, max(0, at - MOST_FIGURE), at)


def _rows_before(
    text: str, names: Sequence[re.Match[str]]
) -> tuple[list[Row], list[tuple[int, int]]]:
    rows, used = [], []
    for found in names:
        key = KEYS[int(str(found.lastgroup)[1:])]
        figure = _before(text, found.start())
        if figure is not None and _fits(key, figure["unit"]):
            used.append((figure.start(), found.end()))
            if key != IGNORED:
                rows.append(
                    Row(key, ((number(figure["value"], figure["unit"]), figure["unit"].lower()),))
                )
    return rows, used


def _own_part(segment: str) -> str:
    """What of the text behind a name is its own: up to the end of the line with its figures."""
    lines = segment.split("\n")
    if re.search(r"\d", lines[0]) or len(lines) == 1:
        return lines[0]
    below = [line for line in lines[1:] if line.strip()]
    figures = list(itertools.takewhile(lambda line: re.match(r"\s*[<|]?\s*\d", line), below))
    return "\n".join([lines[0], *figures[:3]])


def _figures_of(segment: str, key: str) -> tuple[tuple[float | None, str], ...]:
    stated = _UNIT_IN_NAME.match(segment)
    plain = re.sub(r"\([^()]*%[^()]*\)", " ", segment[stated.end() :] if stated else segment)
    unit = stated["unit"].lower() if stated else ""
    found: list[tuple[float | None, str]] = []
    for match in _FIGURE.finditer(plain):
        if match["percent"] or (match["unit"] and not _fits(key, match["unit"])):
            continue
        if match["none"]:
            found.append((None, unit))
        elif match["value"]:
            said = (match["unit"] or unit).lower()
            found.append(
                (number(match["value"], said or ("kcal" if key == "energy" else "")), said)
            )
    return tuple(found) if any(value is not None for value, _ in found) else ()


def _fits(key: str, unit: str) -> bool:
    energetic = unit.lower() in ("kcal", "kj") or unit.lower().startswith("cal")
    return key == IGNORED or energetic == (key == "energy")


def amount(key: str, value: float, unit: str) -> float | None:
    """A figure in the unit of `key`; salt in g becomes sodium in mg; None where its unit is not
    said.
    """
    if key == "energy":
        return value / KJ_PER_KCAL if unit == "kj" else value
    if not unit:
        return None
    grams = value * TO_GRAMS[unit.replace("μ", "µ")]
    return (
        grams * SODIUM_MG_PER_SALT_G if key == "salt" else grams / OUR_UNIT[key.rsplit("_", 1)[1]]
    )


def figures_of(text: str, serving_g: float | None) -> Figures:
    """The figures of a nutrition text: per 100 g where that column stands, else per serving."""
    text = without_endless_numbers(ascii_digits(text))  # and no gap made shorter: places count
    start = _table_start(text)
    rows, used = rows_of(text[start:])
    placed = tuple((a + start, b + start) for a, b in used)
    table = _table(rows)
    _bare_energy(table, text)
    count = round(statistics.median([len(v) for v in table.values()])) if table else 0
    kinds = _columns(text, count)
    if count <= 1 and OTHER in kinds:
        return Figures({}, "", PREPARED, placed)
    if count <= 1:
        behind = [kind for kind in _columns(text[start:], count) if kind in (HUNDRED, PORTION)]
        kinds = behind or kinds  # "per ½ carton: 276 kcal. Typical values per 100 g: …"
        basis = PORTION if kinds[:1] == [PORTION] or HUNDRED not in kinds else HUNDRED
        return Figures(_taken(table, 0), basis, used=placed)
    column, basis, question = _chosen(table, kinds, serving_g)
    return Figures(_taken(table, column) if not question else {}, basis, question, placed)


def _table_start(text: str) -> int:
    """Where the nutrition table begins: names and figures before its heading belong to the
    product's name.
    """
    headings = (m.start() for m in NUTRITION_HEADING.finditer(text))
    for start in islice(headings, MOST_HEADINGS):
        if any(row.key != IGNORED for row in rows_of(text[start:])[0]):
            return start
    below_name = text.find("\n") + 1
    return below_name if below_name and rows_of(text[below_name:])[0] else 0


def _table(rows: Sequence[Row]) -> dict[str, list[float | None]]:
    """Figures by key, a column each; kilocalories stand before kilojoules, sodium before salt."""
    table: dict[str, list[float | None]] = {}
    joules: list[float | None] = []
    for row in rows:
        if row.key == "energy":
            kcal = [v for v, unit in row.figures if unit != "kj"]
            joules = joules or [
                None if v is None else v / KJ_PER_KCAL for v, unit in row.figures if unit == "kj"
            ]
            if kcal:
                table.setdefault("energy_kcal", kcal)
            continue
        values = [None if v is None else amount(row.key, v, unit) for v, unit in row.figures]
        if any(value is not None for value in values):
            table.setdefault(row.key, values)
    if joules:
        table.setdefault("energy_kcal", joules)
    salt = table.pop("salt", None)
    if salt is not None:
        table.setdefault("sodium_mg", salt)
    return table


def _bare_energy(table: dict[str, list[float | None]], text: str) -> None:
    """ "160 kcal" without a name before it."""
    if "energy_kcal" in table:
        return
    for unit, factor in ((r"kcal|cal(?:ories)?", 1.0), (r"kj", KJ_PER_KCAL)):
        found = re.findall(rf"(\d+(?:[.,]\d+)?)\s*(?:{unit})\b", text, re.IGNORECASE)
        if found:
            table["energy_kcal"] = [number(one, "kcal") / factor for one in found]
            return


def _columns(text: str, count: int) -> list[str]:
    """What the headings say of the columns, in order. Two languages for one column are one
    column.
    """
    first = NAME.search(text, _table_start(text))
    kinds: list[str] = []
    for match in COLUMN.finditer(text, 0, first.start() if first else len(text)):
        kind = str(match.lastgroup)
        if kind == OTHER and not _heads_a_column(text, match):
            continue  # "oat drink with calcium" is a name
        if not kinds or kinds[-1] != kind or count > len(set(kinds)):
            kinds.append(kind)
    if PORTION not in kinds:  # a package is a portion where no other is named
        kinds = [PORTION if kind == PACKAGE else kind for kind in kinds]
    sizes = _sizes(text)
    if sizes and count > 1:
        return [HUNDRED if grams == 100 else PORTION for grams in sizes]
    if not kinds and count <= 1:  # "…, protein 3.9 g per 100 g": said at the end
        every = COLUMN.finditer(text)
        kinds = [
            str(one.lastgroup)
            for one in every
            if one.lastgroup != OTHER or _heads_a_column(text, one)
        ]
    return kinds if count > 1 else list(dict.fromkeys(k for k in kinds if k != PERCENT))


def _heads_a_column(text: str, match: re.Match[str]) -> bool:
    """True for "with milk" and "as prepared" where they stand in a heading of columns."""
    start = text.rfind("\n", 0, match.start()) + 1
    end = text.find("\n", match.end())
    line = text[start : end if end >= 0 else len(text)]
    if _AS_PREPARED.search(match.group()):
        return True
    kinds = {str(one.lastgroup) for one in COLUMN.finditer(line)}
    return "|" in line or "\t" in line or bool(kinds & {HUNDRED, PORTION, PACKAGE})


def _sizes(text: str) -> list[float]:
    """The sizes that head the columns, where a line before the first name is of sizes alone:
    "100 g | 40 g serving"; none where it is not.
    """
    first = NAME.search(text, _table_start(text))
    for line in text[: first.start() if first else 0].splitlines():
        sizes = [number(one) for one in _SIZE.findall(line)]
        if len(sizes) == 2 and sizes.count(100.0) == 1 and not NAME.search(line):
            return sizes
    return []


def serving_of_columns(text: str) -> float | None:
    """The grams of a serving, where only the heading of its column says them."""
    return next((grams for grams in _sizes(text) if grams != 100), None)


def _chosen(
    table: Mapping[str, list[float | None]], kinds: Sequence[str], serving_g: float | None
) -> tuple[int, str, str]:
    """(column to take, its basis, the question where it cannot be decided)."""
    places = {kind: kinds.index(kind) for kind in (HUNDRED, PORTION) if kind in kinds}
    if HUNDRED in places and PORTION in places and serving_g:
        hundred, portion = places[HUNDRED], places[PORTION]
        if _agree(table, hundred, portion, serving_g):
            return hundred, HUNDRED, ""
        if _agree(table, portion, hundred, serving_g):
            return portion, HUNDRED, ""
        return 0, "", _question()
    if HUNDRED in places:
        return places[HUNDRED], HUNDRED, ""
    if PORTION in places and (OTHER in kinds or PACKAGE in kinds):
        return places[PORTION], PORTION, ""
    if serving_g:
        for hundred, portion in ((0, 1), (1, 0)):
            if _agree(table, hundred, portion, serving_g):
                return hundred, HUNDRED, ""
    if PORTION in places and len(kinds) > 1:
        return places[PORTION], PORTION, ""
    return 0, "", _question()


def _question() -> str:
    return (
        "There are two columns of figures, and neither the headings nor the numbers show which "
        "is per 100 g. "
        "Remove one column from the text, or type the figures."
    )


def _agree(
    table: Mapping[str, list[float | None]], hundred: int, portion: int, serving_g: float
) -> bool:
    """True where most rows of one column × serving ÷ 100 give the other, within rounding."""
    votes = []
    for key, values in table.items():
        if len(values) <= max(hundred, portion):
            continue
        whole, part = values[hundred], values[portion]
        if whole is None or part is None or max(whole, part) < 0.5:
            continue
        rounding = ROUNDING.get(nutrient(key).base_unit, ROUNDING["g"])
        votes.append(abs(whole * serving_g / 100 - part) <= AGREES * part + rounding)
    return bool(votes) and sum(votes) >= 0.75 * len(votes)


def _taken(table: Mapping[str, list[float | None]], column: int) -> dict[str, float]:
    return {
        key: v
        for key, values in table.items()
        if column < len(values) and (v := values[column]) is not None
    }
