"""Recipes out and in: plain text, CSV, JSON-LD (`schema.org/Recipe`), and web pages saved to disk
that hold one.

Everything read becomes the plain text of a recipe, so that one reader says what each line was taken
to mean; what is written can be read again to the same dish.
"""

from __future__ import annotations

import codecs
import csv
import html
import io
import json
import re
from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import Food
from dietetics.composition.sums import Composition
from dietetics.dishes.batches import Batch
from dietetics.dishes.page_lists import shown_recipe
from dietetics.dishes.webpages import described
from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from dietetics.untrusted_input import bounded_json, harmless_cell, plain_text, written_cell

MOST_BYTES = 5_000_000
CSV_HEAD = ("kind", "text", "food", "grams")
_NO_TEXT = re.compile(r"[\x00-\x08\x0e-\x1f]")  # what no page of words holds
_CHARSET = re.compile(rb"charset\s*=\s*[\"']?\s*([\w.:-]{2,40})", re.IGNORECASE)
_TAG = re.compile(r"<[^<>]+>")  # stops at the next <: a row of them is walked through once
_NUTRITION = {
    "energy_kcal": "calories", "protein_g": "proteinContent", "fat_g": "fatContent",
    "saturated_fat_g": "saturatedFatContent",
    "carbohydrate_g": "carbohydrateContent", "sugars_g": "sugarContent", "fibre_g": "fiberContent",
    "sodium_mg": "sodiumContent",
}  # fmt: skip


@dataclass(frozen=True)
class WrittenLine:
    """A line as written with the food and grams it stands for; without a food it was not
    understood.
    """

    text: str
    food: Food | None
    grams: float | None


@dataclass(frozen=True)
class Found:
    """A recipe found in a file: its name, and itself as plain text."""

    name: str
    text: str


def readable_line(line: WrittenLine, reader: LineReader) -> str:
    """The line in words that are read back to the same food and grams: its own, or grams and the
    food's name.
    """
    if line.food is None or line.grams is None:
        return line.text
    names = (
        line.food.name,
        *line.food.synonyms,
        line.food.name.split(",")[0],
        line.food.key.replace("-", " "),
    )
    grams = f"{line.grams:.6g} g "
    for text in (line.text, *(grams + name for name in names)):
        read = reader.read(text)
        one = read[0] if len(read) == 1 else None
        if one is None or one.food is None or one.grams is None or one.food.key != line.food.key:
            continue
        if abs(one.grams - line.grams) <= 0.0005 * line.grams:
            return text
    return grams + line.food.name


def to_text(
    batch: Batch, lines: Sequence[WrittenLine], steps: Sequence[str], reader: LineReader
) -> str:
    """The dish as plain text."""
    head = [
        f"# {batch.name}",
        *([f"Serves {batch.servings:g}."] if batch.servings is not None else []),
    ]
    if batch.yield_g is not None:
        head.append(f"Pot weighed {batch.yield_g:.6g} g when done.")
    body = [readable_line(line, reader) for line in lines]
    return "\n".join([*head, "", *body, *(["", "Method:", *steps] if steps else [])]) + "\n"


def to_csv(
    batch: Batch, lines: Sequence[WrittenLine], steps: Sequence[str], reader: LineReader
) -> str:
    """The dish as a table, one row a line, with the food's key and its grams."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(CSV_HEAD)
    writer.writerow(("title", harmless_cell(batch.name), "", ""))
    if batch.servings is not None:
        writer.writerow(("servings", f"{batch.servings:g}", "", ""))
    if batch.yield_g is not None:
        writer.writerow(("yield", f"{batch.yield_g:.6g} g", "", ""))
    for line in lines:
        grams = "" if line.grams is None else f"{line.grams:.6g}"
        words = harmless_cell(readable_line(line, reader))
        writer.writerow(("ingredient", words, line.food.key if line.food else "", grams))
    writer.writerows(("step", harmless_cell(step), "", "") for step in steps)
    return out.getvalue()


def to_jsonld(
    batch: Batch, lines: Sequence[WrittenLine], steps: Sequence[str], reader: LineReader
) -> str:
    """The dish as a `schema.org/Recipe` with the nutrition of a serving; what is unknown is left
    out.
    """
    makes = [f"{batch.servings:g} servings"] if batch.servings is not None else []
    if batch.yield_g is not None:
        makes.append(f"{batch.yield_g:.6g} g")
    recipe = {
        "@context": "https://schema.org",
        "@type": "Recipe",
        "name": batch.name,
        "recipeYield": makes,
        "recipeIngredient": [readable_line(line, reader) for line in lines],
        "recipeInstructions": [{"@type": "HowToStep", "text": step} for step in steps],
        "nutrition": _nutrition(batch.shown[2], batch.shown[1]),
    }
    return json.dumps(recipe, ensure_ascii=False, indent=1) + "\n"


def _nutrition(serving: Composition, grams: float) -> dict[str, str]:
    found = {"@type": "NutritionInformation", "servingSize": f"{grams:.0f} g"}
    for key, name in _NUTRITION.items():
        figure = serving[key]
        if figure.amount is not None and figure.complete:
            one = nutrient(key)
            found[name] = f"{figure.amount:.{one.base_decimals}f} {one.base_unit}"
    return found


def read_file(raw: bytes, name: str) -> list[Found]:
    """Every recipe of a file, as plain text. Raises DieteticsError when it holds none, is no text,
    or is too large.
    """
    if len(raw) > MOST_BYTES:
        raise DieteticsError("recipe-too-long", size=len(raw), limit=MOST_BYTES)
    text = decoded(raw) if not _is_page(raw, name) else decoded_page(raw)
    if not text.strip():
        raise DieteticsError("recipe-empty")
    start = text.lstrip()[:2000].lower()
    found: list[Found]
    if start[:1] in "{[":
        found = _from_json(text)
    elif (
        "<html" in start
        or "<!doctype" in start
        or "<script" in start
        or name.lower().endswith((".html", ".htm"))
    ):
        found = _from_html(text)
    elif start.startswith("kind,") or name.lower().endswith(".csv"):
        found = [_from_csv(text)]
    else:
        found = [Found(text.strip().splitlines()[0].lstrip("# ")[:120], text)]
    if not found:
        raise DieteticsError("recipe-file-none", problem="no schema.org/Recipe in it")
    return found


def decoded(raw: bytes) -> str:
    """Bytes as text. Raises DieteticsError `recipe-not-text`."""
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise DieteticsError("recipe-not-text", position=error.start) from None
    if "\x00" in text:
        raise DieteticsError("recipe-not-text", position=text.index("\x00"))
    return plain_text(text)


def _is_page(raw: bytes, name: str) -> bool:
    start = raw[:2000].replace(b"\x00", b"").lstrip().lower()
    return name.lower().endswith((".html", ".htm")) or start.startswith((b"<!doctype", b"<html"))


def decoded_page(raw: bytes) -> str:
    """The bytes of a page as text, by its byte order mark, what it says of its characters, or what
    they look like. Raises DieteticsError `recipe-not-text`.
    """
    said = _CHARSET.search(raw[:4096])
    named = said[1].decode("ascii") if said else ""
    marked = raw.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE))
    for one in ("utf-16" if marked else "utf-8-sig", named, "cp1252"):
        with suppress(UnicodeDecodeError, LookupError):
            text = raw.decode(one) if one else ""
            if text and not _NO_TEXT.search(text):
                return plain_text(text)
    return decoded(raw)


def _from_json(text: str) -> list[Found]:
    try:
        data = bounded_json(text)
    except DieteticsError as error:
        raise DieteticsError("recipe-file-none", problem=str(error.params["problem"])) from None
    return [_recipe_text(one) for one in _recipes(data)]


def _from_html(text: str) -> list[Found]:
    found: dict[str, Found] = {}
    recipes = [one for one in _recipes(described(text)) if _ingredients(one)]
    for one in recipes:
        made = _recipe_text(one)
        found.setdefault(made.name, made)
    shown = shown_recipe(text) if not found else None
    if shown is not None:
        title = shown.title or "Untitled"
        lines = [f"# {title}", "", *shown.ingredients]
        lines += ["", "Method:", *shown.steps] if shown.steps else []
        return [Found(title, "\n".join(lines) + "\n")]
    return list(found.values())


def _ingredients(data: Mapping[str, Any]) -> list[str]:
    """The ingredients of a recipe, a line each, however they are put together."""
    given = _single(data.get("recipeIngredient") or data.get("ingredients"))
    found: list[str] = []
    for one in _listed(given):
        if isinstance(one, dict) and (
            inner := one.get("itemListElement") or one.get("ingredients")
        ):
            found += [text for part in _listed(inner) if (text := _plain(part))]
        elif isinstance(one, str):
            parts = re.split(r"</(?:p|li|div|tr)>|<br\s*/?>|\n", one)
            found += [text for part in parts if (text := _plain(part))]
        elif text := _plain(one):
            found.append(text)
    return found


def _recipes(data: Any, depth: int = 0) -> Iterator[Mapping[str, Any]]:
    """Every object whose type is, or includes, Recipe."""
    if depth > 12:
        return
    if isinstance(data, list):
        for one in data:
            yield from _recipes(one, depth + 1)
    elif isinstance(data, dict):
        kinds = data.get("@type", "")
        names = kinds if isinstance(kinds, list) else [kinds]
        if any(re.split(r"[/:#]", str(kind))[-1].lower() == "recipe" for kind in names) or (
            isinstance(data.get("recipeIngredient"), list) and data.get("name")
        ):
            yield data
            return
        for value in data.values():
            if isinstance(value, (dict, list)):
                yield from _recipes(value, depth + 1)


def _plain(value: Any) -> str:
    """A value as one line of words, HTML taken out."""
    if isinstance(value, dict):
        value = _single(value.get("text") or value.get("name") or value.get("@value") or "")
    text = html.unescape(_TAG.sub(" ", html.unescape(str(value))))
    return " ".join(text.split())


def _single(value: Any) -> Any:
    """A value that stands alone in a list, by itself: microdata gives every property as a list."""
    return value[0] if isinstance(value, list) and len(value) == 1 else value


def _listed(value: Any) -> list[Any]:
    if value is None:
        return []
    return value if isinstance(value, list) else [value]


def _recipe_text(data: Mapping[str, Any]) -> Found:
    data = {key: _single(value) for key, value in data.items()}
    name = _plain(data.get("name") or "Untitled")[:120] or "Untitled"
    lines = [f"# {name}", *_makes(data.get("recipeYield") or data.get("yield"))]
    lines += ["", *_ingredients(data)]
    steps = [text for one in _steps(data.get("recipeInstructions")) if (text := _plain(one))]
    return Found(name, "\n".join([*lines, *(["", "Method:", *steps] if steps else [])]) + "\n")


def _makes(value: Any) -> list[str]:
    found = []
    for one in _listed(value):
        text = _plain(one.get("value") if isinstance(one, dict) and "value" in one else one)
        number = re.match(r"^\D{0,12}?(\d+(?:[.,]\d+)?)\s*(?:[-–to]+\s*\d+)?\s*([a-zA-Z]*)", text)
        if number is None:
            continue
        if number[2].lower() in ("g", "kg"):
            found.append(f"Pot weighed {number[1]} {number[2]} when done.")
        elif not found:
            found.append(f"Serves {number[1]}.")
    return found


def _steps(value: Any) -> Iterator[Any]:
    for one in _listed(value):
        if isinstance(one, dict) and "itemListElement" in one:
            yield from _steps(one["itemListElement"])
        elif isinstance(one, str):
            yield from (
                part for part in re.split(r"</(?:p|li|div)>|<br\s*/?>|\n", one) if part.strip()
            )
        else:
            yield one


def _from_csv(text: str) -> Found:
    try:
        rows = list(csv.DictReader(io.StringIO(text)))
    except csv.Error as error:
        raise DieteticsError("recipe-file-none", problem=f"it is not a table ({error})") from None
    if not rows or not {"text"} <= set(rows[0]):
        raise DieteticsError(
            "recipe-file-none", problem=f"the table needs the columns {', '.join(CSV_HEAD)}"
        )

    def by_kind(kind: str) -> list[str]:
        return [
            written_cell((row.get("text") or "").strip())
            for row in rows
            if (row.get("kind") or "ingredient").strip() == kind
        ]

    name = next(iter(by_kind("title")), "Untitled")
    lines = [
        f"# {name}",
        *(f"Serves {n}." for n in by_kind("servings")),
        *(f"Pot weighed {y} when done." for y in by_kind("yield")),
    ]
    steps = by_kind("step")
    lines += ["", *by_kind("ingredient"), *(["", "Method:", *steps] if steps else [])]
    return Found(name, "\n".join(lines) + "\n")
