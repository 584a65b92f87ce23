"""Scoring of the label and recipe cases: figures, allergens contained and allergens as traces;
servings, foods, steps.

`python -m dietetics.tests.corpus_labels` prints the score.
"""

from __future__ import annotations

import json
import re
from pathlib import Path

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.dishes.recipes import read_recipe
from dietetics.labels.checks import check_label
from dietetics.labels.label_reader import read_label

CORPUS = Path(__file__).parent / "corpus"


def label_cases() -> list[tuple[str, dict[str, float], str, str, str]]:
    """(file name, stated figures and basis_g, allergens contained, traces, text) of every label."""
    found = []
    for path in sorted((CORPUS / "labels").glob("*.txt")):
        text = path.read_text(encoding="utf-8")
        answers = [line.removeprefix("#= ") for line in text.splitlines() if line.startswith("#=")]
        body = "\n".join(line for line in text.splitlines() if not line.startswith("#="))
        pieces = [piece.strip().split(" ", 1) for piece in answers[0].split(";")]
        figures = {
            piece[0]: float(piece[1])
            for piece in pieces
            if piece[0] != "layout" and "layout" not in piece[0]
        }
        contains, traces = (
            piece.strip().partition(" ")[2].strip() for piece in answers[1].split(";")
        )
        found.append((path.stem, figures, contains, traces, body))
    return found


def label_problems(
    figures: dict[str, float], contains: str, traces: str, text: str
) -> tuple[list[str], list[str]]:
    """What is wrong with the figures and with the allergens of a label as read; empty lists when
    nothing is.
    """
    facts = read_label(text).facts
    per_100g = facts.per_100g()
    wrong = []
    for key, value in figures.items():
        if key == "basis_g":
            continue
        read = per_100g.get(key)
        wanted = value * 100 / figures["basis_g"]
        if read is None or abs(read - wanted) > max(0.02 * wanted, 0.06 * 100 / figures["basis_g"]):
            wrong.append(f"{key} {read} instead of {wanted:g}")
    flags = facts.flags
    read_contains = set(flags.allergens)
    read_traces = set(getattr(flags, "traces", ()))
    if contains == "unknown":
        return wrong, [] if not getattr(flags, "recognised", True) else [
            "the list was not recognised and does not say so"
        ]
    allergens = []
    if read_contains != set(contains.split()):
        allergens.append(f"contains {sorted(read_contains)} instead of {sorted(contains.split())}")
    if read_traces - read_contains != set(traces.split()) - set(contains.split()):
        allergens.append(f"traces {sorted(read_traces)} instead of {sorted(traces.split())}")
    return wrong, allergens


def recipe_problems(name: str, expected: dict[str, object], reader: LineReader) -> list[str]:
    """What is wrong with a pasted recipe as read; empty when nothing is."""
    recipe = read_recipe((CORPUS / "blogs" / f"{name}.txt").read_text(encoding="utf-8"), reader)
    found: dict[str, object] = {
        "title": recipe.title,
        "servings": recipe.makes.servings,
        "foods": len(recipe.items),
        "unread": len(recipe.unmatched),
        "steps": len(recipe.steps),
    }
    problems = [
        f"{key} {found[key]!r} instead of {expected[key]!r}"
        for key in found
        if expected.get(key) != found[key] and not (key == "title" and expected[key] is None)
    ]
    if recipe.unmatched:
        problems.append("; ".join(f"{line.text}: {line.reason}" for line in recipe.unmatched))
    return problems


def recipe_cases() -> dict[str, dict[str, object]]:
    """Recipe file name -> what it must be read as."""
    cases: dict[str, dict[str, object]] = json.loads(
        (CORPUS / "blogs" / "expected.json").read_text(encoding="utf-8")
    )
    return cases


def main() -> None:
    """Print the score of labels and recipes."""
    right = complete = 0
    for name, figures, contains, traces, text in label_cases():
        wrong, allergens = label_problems(figures, contains, traces, text)
        right += not wrong
        complete += not allergens
        if wrong or allergens:
            print("label", name, "; ".join([*wrong, *allergens]))
    print(f"labels: figures right in {right} of {len(label_cases())}, allergens in {complete}")
    reader = LineReader(load_shelf())
    good = servings = 0
    for name, expected in recipe_cases().items():
        problems = recipe_problems(name, expected, reader)
        good += not problems
        servings += not any(p.startswith("servings") for p in problems)
        if problems:
            print("recipe", name, "; ".join(problems))
    print(f"recipes: servings right in {servings} of {len(recipe_cases())}, everything in {good}")


def labels_of(name: str) -> list[tuple[str, str]]:
    """(what is printed, the text) of a file of labels; "ask" is one that must be asked."""
    text = (CORPUS / name).read_text(encoding="utf-8")
    blocks = (block.partition("\n") for block in re.split(r"(?m)^#= ", text)[1:])
    return [(head.strip(), body.strip()) for head, _, body in blocks]


def figures_apart(head: str, body: str) -> list[str]:
    """What of a label is not read as it is printed; empty where all is, or where it is asked as
    it must be.
    """
    reading = read_label(body)
    facts = reading.facts
    if head == "ask":
        asked = bool(reading.questions) or any(one.serious for one in check_label(facts))
        return [] if asked else [f"{facts.name}: not asked"]
    want = {word.split()[0]: float(word.split()[1]) for word in head.split(";")}
    per_100g, share = facts.per_100g(), want.pop("basis_g") / 100
    stated = {
        "serving": facts.serving_g,
        "servings": facts.servings_per_package,
        "net": facts.net_g,
    }
    found = []
    for key, value in want.items():
        figure = per_100g.get(key)
        read = stated[key] if key in stated else None if figure is None else figure * share
        if read is None or abs(read - value) > max(0.02 * value, 0.06):
            found.append(f"{facts.name}: {key} {read} instead of {value:g}")
    return found


if __name__ == "__main__":
    main()
