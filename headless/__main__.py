"""The headless verbs: `evaluate` reads a recipe file, `foods` looks on the shelf, `balance` chooses
portions, `week` plans a week, `shop` lists what to buy, `prep` makes a timetable.

Exit codes of `evaluate`: 0 all lines matched, 3 some were not (JSON still printed), 2 the file or
its figures cannot be used.
"""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from dietetics.amounts.line_reader import LineReader, LineReading
from dietetics.amounts.weighing import Scales
from dietetics.cautions.exclusions import Terms, exclusions
from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.search import index_of
from dietetics.composition.sums import Composition, Figure, FoodContent, Item, compose
from dietetics.dishes.allergens import batch_allergens
from dietetics.dishes.batches import Batch
from dietetics.dishes.portions import read_portion
from dietetics.dishes.recipe_files import decoded
from dietetics.dishes.recipes import Recipe, read_recipe
from dietetics.errors import DieteticsError
from dietetics.labels.checks import check_label
from dietetics.labels.facts import label_food
from dietetics.labels.label_reader import read_label
from dietetics.nutrients import BY_KEY, NUTRIENTS
from dietetics.untrusted_input import bounded_json
from headless.balancing import balance_json
from headless.clients import client_of
from headless.cooking import prep_json, shop_json
from headless.people import targets_json
from headless.planning import week_json
from headless.verdicts import verdict_json

OK, UNUSABLE, SOME_UNMATCHED = 0, 2, 3
MAX_BYTES = 200_000


def _rounded(value: float | None, key: str) -> float | None:
    """A figure with one decimal more than screens show, or null where it is unknown."""
    return None if value is None else round(value, BY_KEY[key].decimals + 1)


def figures(composition: Composition) -> dict[str, float | None]:
    """Every nutrient of a composition by key; null is unknown."""
    return {n.key: _rounded(composition[n.key].amount, n.key) for n in NUTRIENTS}


def line_json(line: LineReading) -> dict[str, Any]:
    """A matched line as JSON values."""
    assert line.food is not None and line.grams is not None
    return {
        "text": line.text,
        "food": line.food.key,
        "food_name": line.food.name,
        "grams": round(line.grams, 1),
        "grams_low": round(line.grams_low or 0.0, 1),
        "grams_high": round(line.grams_high or 0.0, 1),
        "how": line.how,
        "confidence": line.confidence,
        "source": line.food.source,
        "alternatives": [
            {"food": a.food.key, "grams": round(a.grams, 1), "note": a.note}
            for a in line.alternatives
        ],
        "remarks": list(line.remarks),
        "not_understood": list(line.not_understood),
        "words": {"honoured": list(line.honoured), "neutral": list(line.neutral)},
    }


def unmatched_json(line: LineReading) -> dict[str, Any]:
    """A line that was not read as JSON values: why, what was heard, and the nearest rows with what
    would differ.
    """
    return {
        "text": line.text,
        "reason": line.reason,
        "not_understood": list(line.not_understood),
        "words": {"honoured": list(line.honoured), "neutral": list(line.neutral)},
        "choices": [
            {
                "food": c.food.key,
                "food_name": c.food.name,
                "grams": round(c.grams, 1) if c.grams else None,
                "differs": c.note,
            }
            for c in line.choices
        ],
    }


def _coverage(figure: Figure) -> float | None:
    """The known share of the weight; null where lines were not read, for their weight is not
    known.
    """
    return None if figure.unread else round(figure.coverage, 4)


def _yield_from(batch: Batch) -> str:
    if batch.yield_g is not None:
        return "measured"
    return "expected when cooked" if batch.is_expected else "sum of the ingredients"


def evaluation(recipe: Recipe, servings: float | None, yield_g: float | None) -> dict[str, Any]:
    """The whole answer of `evaluate`."""
    batch = recipe.batch(servings, yield_g)
    held = batch_allergens(batch)
    return {
        "title": recipe.title,
        "servings": batch.servings,
        "batch_g": round(batch.weight_g, 1),
        "ingredients_g": round(batch.ingredients_g, 1),
        "serving_g": None if batch.servings is None else round(batch.serving_g, 1),
        "batch_g_low": round(batch.weights_g[0], 1),
        "batch_g_high": round(batch.weights_g[2], 1),
        "yield_from": _yield_from(batch),
        "per_serving": None if batch.servings is None else figures(batch.per_serving),
        "whole": figures(batch.total),
        "per_100g": figures(batch.per_100g),
        "coverage": {n.key: _coverage(batch.total[n.key]) for n in NUTRIENTS},
        "complete": {n.key: batch.total[n.key].complete for n in NUTRIENTS},
        "allergens": list(held.contains),
        "allergens_traces": list(held.traces),
        "allergens_complete": held.complete,
        "lines": [line_json(line) for line in recipe.lines if line.matched],
        "unmatched": [unmatched_json(line) for line in recipe.unmatched],
        "set_aside": list(recipe.asides),
        "remarks": [
            *recipe.makes.remarks,
            *batch.remarks(),
            *([f"Allergens: {held.words()}"] if not held.complete else []),
        ],
    }


def evaluate(path: Path, servings: float | None, yield_g: float | None) -> int:
    """Read a recipe file and print its figures."""
    try:
        raw = path.read_bytes()
    except OSError as error:
        print(f"{path}: {error.strerror}", file=sys.stderr)
        return UNUSABLE
    try:
        if len(raw) > MAX_BYTES:
            raise DieteticsError("recipe-too-long", size=len(raw), limit=MAX_BYTES)
        recipe = read_recipe(decoded(raw), LineReader(load_shelf()))
        if not recipe.items:
            raise DieteticsError("nothing-matched")
        answer = evaluation(recipe, servings, yield_g)
    except DieteticsError as error:
        print(f"{path}: {error}", file=sys.stderr)
        return UNUSABLE
    print(json.dumps(answer, ensure_ascii=False, indent=1))
    return SOME_UNMATCHED if recipe.unmatched else OK


def food_json(food: Food) -> dict[str, Any]:
    """A food as JSON values; null is unknown."""
    return {
        "key": food.key,
        "name": food.name,
        "group": food.group,
        "state": food.state,
        "source": food.source,
        "per_100g": {
            n.key: _rounded(food.per_100g.get(n.key), n.key) for n in NUTRIENTS if n.kind != "ratio"
        },
    }


def foods(query: str, limit: int) -> int:
    """Print the foods found for a query, best first. Exit 3 when there are none."""
    found = index_of(load_shelf()).search(query, limit)
    print(json.dumps([food_json(hit.food) for hit in found], ensure_ascii=False, indent=1))
    for wrong, right in found[0].corrected if found else ():
        print(f"“{wrong}” read as “{right}”", file=sys.stderr)
    return OK if found else SOME_UNMATCHED


def label(path: Path, amount: str, client_path: Path | None = None) -> int:
    """Print a label as read, its checks, what an amount of it holds, and what speaks against it for
    a client.

    Exit 3 when a check is serious or something blocks it.
    """
    try:
        client = client_of(_object_in(client_path, "client-unreadable")) if client_path else None
        reading = read_label(decoded(path.read_bytes()))
        food = label_food(reading.facts, "label", str(path.name))
        portion = read_portion(amount, food, Scales(load_shelf())) if amount else None
    except OSError as error:
        print(f"{path}: {error.strerror}", file=sys.stderr)
        return UNUSABLE
    except DieteticsError as error:
        print(f"{path}: {error}", file=sys.stderr)
        return UNUSABLE
    facts = reading.facts
    checks = check_label(facts)
    against = exclusions(food, Terms(client)) if client else []
    answer: dict[str, Any] = {
        "label": {
            "name": facts.name,
            "basis": facts.basis,
            "serving_g": facts.serving_g,
            "serving": facts.serving_text,
            "servings_per_package": facts.servings_per_package,
            "net_g": facts.net_g,
            "package_g": facts.package_g,
            "values": {k: round(v, 3) for k, v in facts.values.items()},
            "ingredients": facts.ingredients,
            "marks": facts.flags.sentences(),
            "allergens": list(facts.flags.allergens),
            "traces": list(facts.flags.traces),
            "allergens_known": facts.flags.recognised,
        },
        "questions": list(reading.questions),
        "not_understood": list(reading.not_understood),
        "checks": [{"key": c.key, "serious": c.serious, "text": c.text} for c in checks],
    }
    if client is not None:
        answer["verdicts"] = [verdict_json(verdict) for verdict in against]
    if portion is not None:
        item = Item.exact(food.name, FoodContent(food), portion.weight.grams)
        answer["amount"] = {
            "text": amount,
            "grams": round(portion.weight.grams, 2),
            "how": portion.weight.how,
            "nutrients": figures(compose([item])),
        }
    print(json.dumps(answer, ensure_ascii=False, indent=1))
    doubtful = (
        reading.questions
        or any(c.serious for c in checks)
        or any(v.severity == "blocked" for v in against)
    )
    return SOME_UNMATCHED if doubtful else OK


def _object_in(path: Path, code: str) -> dict[str, Any]:
    """The JSON object of a file. Raises DieteticsError with this code for what is none."""
    found = bounded_json(decoded(path.read_bytes()))
    if not isinstance(found, dict):
        raise DieteticsError(code, problem="the file must hold one JSON object")
    return found


def _answered(
    path: Path, code: str, answer_of: Callable[[dict[str, Any]], dict[str, Any]]
) -> dict[str, Any] | None:
    """Print the answer to the question of a file; None, with what is wrong, where there is none."""
    try:
        answer = answer_of(_object_in(path, code))
    except OSError as error:
        print(f"{path}: {error.strerror}", file=sys.stderr)
        return None
    except DieteticsError as error:
        print(f"{path}: {error}", file=sys.stderr)
        return None
    print(json.dumps(answer, ensure_ascii=False, indent=1))
    return answer


def targets(path: Path) -> int:
    """Print a person's targets, meals and cautions."""
    return UNUSABLE if _answered(path, "person-unreadable", targets_json) is None else OK


def balanced(path: Path) -> int:
    """Print the best portions for a question in JSON. Exit 3 when what must be cannot be met."""
    answer = _answered(path, "balance-unreadable", lambda facts: balance_json(facts, load_shelf()))
    if answer is None:
        return UNUSABLE
    return SOME_UNMATCHED if answer["status"] == "impossible" else OK


def planned(path: Path) -> int:
    """Print a week for a question in JSON. Exit 3 when a meal stays empty or a rule is broken."""
    answer = _answered(path, "week-unreadable", week_json)
    if answer is None:
        return UNUSABLE
    lacking = any(row["dish"] is None for row in answer["plan"]) or bool(answer["rules_broken"])
    return SOME_UNMATCHED if lacking else OK


def bought(path: Path) -> int:
    """Print what to buy for a list in JSON. Exit 3 when a line was not read."""
    answer = _answered(path, "shop-unreadable", shop_json)
    if answer is None:
        return UNUSABLE
    return SOME_UNMATCHED if answer["unread"] else OK


def prepared(path: Path) -> int:
    """Print a timetable for an evening in JSON. Exit 3 when it is not proven shortest, something
    comes too late, or a line was not read.
    """
    answer = _answered(path, "prep-unreadable", prep_json)
    if answer is None:
        return UNUSABLE
    doubtful = answer["proof"] != "shortest" or answer["late"] or answer.get("unread")
    return SOME_UNMATCHED if doubtful else OK


def main(arguments: list[str]) -> int:
    """Run one verb; return its exit code."""
    parser = argparse.ArgumentParser(prog="pantry")
    verbs = parser.add_subparsers(dest="verb", required=True)
    recipe = verbs.add_parser("evaluate", help="figures of a plain-text recipe")
    recipe.add_argument("file", type=Path)
    recipe.add_argument("--servings", type=float)
    recipe.add_argument("--yield-grams", type=float, dest="yield_g")
    shelf = verbs.add_parser("foods", help="foods of the shelf by name")
    shelf.add_argument("query")
    shelf.add_argument("--limit", type=int, default=10)
    packed = verbs.add_parser(
        "label", help="a package label, checked, and what an amount of it holds"
    )
    packed.add_argument("file", type=Path)
    packed.add_argument("--amount", default="")
    packed.add_argument(
        "--client", type=Path, help="allergies, never_eats, conditions and school, as JSON"
    )
    aim = verbs.add_parser("targets", help="targets of a person, from a JSON file")
    aim.add_argument("file", type=Path)
    turned = verbs.add_parser("balance", help="the best portions for a question in JSON")
    turned.add_argument("file", type=Path)
    laid = verbs.add_parser("week", help="a week of meals for a question in JSON")
    laid.add_argument("file", type=Path)
    listed = verbs.add_parser("shop", help="what to buy for a list in JSON")
    listed.add_argument("file", type=Path)
    cooked = verbs.add_parser("prep", help="a timetable for an evening's dishes in JSON")
    cooked.add_argument("file", type=Path)
    given = parser.parse_args(arguments)
    of_a_file = {
        "week": planned,
        "balance": balanced,
        "targets": targets,
        "shop": bought,
        "prep": prepared,
    }
    if given.verb in of_a_file:
        return of_a_file[given.verb](given.file)
    if given.verb == "label":
        return label(given.file, given.amount, given.client)
    if given.verb == "evaluate":
        return evaluate(given.file, given.servings, given.yield_g)
    return foods(given.query, given.limit)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
