"""The verb `targets`: a person in JSON, answered with energy, targets, meals and cautions."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Annotated, Any

from msgspec import Meta, Struct, structs

from dietetics.cautions.registry import client_cautions
from dietetics.json_shapes import shaped
from dietetics.targets.person import ClinicianNote, Person
from dietetics.targets.proposal import Proposal, propose
from dietetics.targets.schools import SchoolMeal
from headless.verdicts import verdict_json

CODE = "person-unreadable"


class NoteJson(Struct, forbid_unknown_fields=True):
    """A clinician's note: a name and a day."""

    by: Annotated[str, Meta(pattern=r"\S")]
    on: date


class PersonJson(Struct, forbid_unknown_fields=True):
    """A person, by the names of `Person`; what is left out or null is usual."""

    sex: str
    age_years: float
    height_cm: float
    weight_kg: float
    activity: str | None = None
    goal: str | None = None
    pace_kg_per_week: float | None = None
    school: str | None = None
    conditions: list[str] | None = None
    pregnant: bool | None = None
    breastfeeding: bool | None = None
    goal_weight_kg: float | None = None
    meals_a_day: int | None = None
    pregnancy_week: float | None = None
    weight_before_kg: float | None = None
    breastfeeding_month: float | None = None
    deficit_note: NoteJson | None = None
    loss_percent: float | None = None
    loss_unintended: bool | None = None
    eats_little_days: float | None = None
    appetite: str | None = None
    babies: int | None = None
    usual_sodium_mg: float | None = None
    usual_vitamin_k_ug: float | None = None
    clinician_energy_kcal: float | None = None
    clinician_energy_note: NoteJson | None = None


def person_of(facts: Mapping[str, Any]) -> Person:
    """The person of a JSON file. Raises DieteticsError for words and figures that cannot be."""
    given = shaped(dict(facts), PersonJson, CODE)
    known = {name: value for name, value in structs.asdict(given).items() if value is not None}
    known["conditions"] = frozenset(given.conditions or ())
    for name in ("deficit_note", "clinician_energy_note"):
        note: NoteJson | None = getattr(given, name)
        known[name] = ClinicianNote(note.by, note.on.isoformat()) if note else None
    return Person(**known)


def targets_json(facts: dict[str, Any]) -> dict[str, Any]:
    """The whole answer of `targets`. Raises DieteticsError for a person that cannot be."""
    plan = propose(person_of(facts))
    required = plan.energy.required
    return {
        "resting_kcal": round(plan.energy.resting, 1),
        "eer_kcal": None if required is None else round(required, 1),
        "targets": {
            t.window.key: {
                "low": t.window.low,
                "high": t.window.high,
                "importance": t.window.importance,
                "how": t.how,
                "source": t.source,
                "needs_clinician": t.needs_clinician,
            }
            for t in plan.targets
        },
        "before_hand_over": [{"key": a.key, "why": a.why} for a in plan.before_hand_over],
        "asked": [{"key": a.key, "why": a.why} for a in plan.asked],
        "meals": [
            {
                "name": m.name,
                "kind": m.kind,
                "energy_percent": m.energy,
                "protein_percent": m.protein,
                "windows": _meal_windows(plan, m),
            }
            for m in plan.meals
        ],
        "deficit_held": plan.energy.held,
        "wanted_change_kcal": round(plan.energy.wanted_change, 1),
        "cautions": [verdict_json(verdict) for verdict in client_cautions(plan)],
    }


def _meal_windows(plan: Proposal, meal: SchoolMeal) -> dict[str, dict[str, float | None]]:
    """The windows of a meal that a plate is judged by; vitamins and minerals are judged over the
    day.
    """
    found = {}
    for target in plan.targets:
        if target.window.importance != "watch" or target.window.key == "fat_g":
            share = (meal.protein if target.window.key == "protein_g" else meal.energy) / 100
            window = target.window.for_share(share)
            found[window.key] = {
                side: None if (v := getattr(window, side)) is None else round(v, 2)
                for side in ("low", "high")
            }
    return found
