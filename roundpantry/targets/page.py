"""Targets formatted before any template: windows with their meals, what is watched, and two schools
side by side.
"""

from __future__ import annotations

from typing import Any

from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from dietetics.targets.deficit_holds import hold_reasons
from dietetics.targets.proposal import Proposal, clashes
from dietetics.targets.schools import SchoolMeal
from dietetics.targets.windows import IMPORTANCE_WORDS, Window, on_the_plate
from roundpantry.clients.models import Client
from roundpantry.clients.records import person_of_client, school_of
from roundpantry.targets.models import TargetSet
from roundpantry.targets.records import proposal_of, windows_of
from roundpantry.targets.renewal import proposed_changes


def window_text(window: Window) -> str:
    """A window with its unit: "28–34 g"."""
    return f"{window.text()} {nutrient(window.key).unit}"


def watched_rows(plan: Proposal | None) -> list[tuple[str, str, str, str]]:
    """What is watched over the day and not typed: name, window, how, source."""
    if plan is None:
        return []
    return [
        (nutrient(t.window.key).name, window_text(t.window), t.how, t.source)
        for t in plan.targets
        if t.window.importance == "watch"
    ]


def change_rows(client: Client) -> list[tuple[str, str, str]]:
    """What new targets by the record as it is now would change: name, before, after."""
    rows = []
    for before, after in proposed_changes(client):
        key = (before or after).key  # type: ignore[union-attr]  # one of the two is there
        rows.append((nutrient(key).name, _with_importance(before), _with_importance(after)))
    return rows


def _with_importance(window: Window | None) -> str:
    if window is None:
        return "none"
    return f"{window_text(window)}, {IMPORTANCE_WORDS[window.importance]}"


def card_rows(present: TargetSet) -> list[dict[str, Any]]:
    """Every window of a version that a plate is judged by, with what it comes to in each meal."""
    meals = list(present.meals.all())
    rows = []
    stored = {w.key: w for w in present.windows.all()}
    for window in windows_of(present):
        row = stored[window.key]
        if not on_the_plate(window):
            continue
        per_meal = []
        for meal in meals:
            protein = (
                meal.protein_percent if meal.protein_percent is not None else meal.share_percent
            )
            share = (protein if window.key == "protein_g" else meal.share_percent) / 100
            per_meal.append((meal.name, window_text(window.for_share(share))))
        open_question = row.needs_clinician and not (present.clinician and present.clinician_on)
        rows.append(
            {
                "name": nutrient(window.key).name,
                "importance": IMPORTANCE_WORDS[window.importance],
                "day": window_text(window),
                "meals": per_meal,
                "how": row.how,
                "source": row.source,
                "overridden": row.overridden,
                "open": open_question,
            }
        )
    return rows


def open_questions(present: TargetSet) -> list[str]:
    """What a clinician must still set or be named for."""
    named = present.clinician and present.clinician_on
    have = {w.key for w in present.windows.all() if w.importance != "watch"}
    questions = [
        f"{nutrient(key).name}: not set yet; ask the clinician"
        for key in present.asked
        if key not in have
    ]
    unsigned = [nutrient(key).name_in_text for key in present.asked if key in have]
    if unsigned and not named:
        questions.append(f"Who set {', '.join(unsigned)}, and when, is not recorded")
    return questions


def clinician_context(plan: Proposal | None) -> dict[str, Any]:
    """Whether a clinician is asked for, and what of a wanted deficit is not applied."""
    if plan is None:
        return {"needs_clinician": False}
    wanted = nutrient("energy_kcal").text(-plan.energy.wanted_change)
    return {"needs_clinician": bool(plan.asked or hold_reasons(plan.person)), "wanted_kcal": wanted}


def held_words(client: Client) -> str:
    """A wanted deficit that is not applied, in words; "" where there is none."""
    try:
        energy = proposal_of(client).energy
    except DieteticsError:
        return ""
    if not energy.held or energy.required is None:
        return ""
    one = nutrient("energy_kcal")
    return (
        f"Requested: {one.text(-energy.wanted_change)} a day less than the requirement of "
        f"{one.text(energy.required)}; not "
        "applied without a clinician's note (name and date)."
    )


def clash_words(client: Client, present: TargetSet) -> list[str]:
    """What of a version cannot be met, seen at once on the client's page; a record that cannot be
    worked with is said.
    """
    try:
        person, rules = person_of_client(client), school_of(client, client.school)
    except DieteticsError as error:
        return [str(error)]
    meals = [
        SchoolMeal(
            m.name,
            m.kind,
            m.share_percent,
            m.share_percent if m.protein_percent is None else m.protein_percent,
        )
        for m in present.meals.all()
    ]
    return clashes(windows_of(present), meals, person, rules)


def two_schools_page(client: Client, other: str) -> dict[str, Any]:
    """The same client under two dietary approaches: which windows move."""
    mine, theirs = proposal_of(client), proposal_of(client, other)
    keys = list(
        dict.fromkeys([t.window.key for t in mine.targets] + [t.window.key for t in theirs.targets])
    )
    rows = []
    for key in keys:
        a, b = mine.target(key), theirs.target(key)
        left, right = (window_text(t.window) if t else "no target" for t in (a, b))
        rows.append(
            {
                "name": nutrient(key).name,
                "left": left,
                "right": right,
                "moves": left != right,
                "how": b.how if b is not None and left != right else "",
            }
        )
    rows.sort(key=lambda row: not row["moves"])
    return {
        "mine": mine.school,
        "theirs": theirs.school,
        "rows": rows,
        "my_meals": mine.meals,
        "their_meals": theirs.meals,
    }
