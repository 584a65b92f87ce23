"""For whom a verb is asked: allergies, conditions, what is never eaten and the school, from
JSON.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from dietetics.cautions.exclusions import ALLERGIES
from dietetics.cautions.facts import ClientFacts
from dietetics.errors import DieteticsError
from dietetics.targets.conditions import CONDITIONS
from dietetics.targets.schools import school


def _wrong(problem: str) -> DieteticsError:
    return DieteticsError("balance-unreadable", problem=problem)


def client_of(facts: Mapping[str, Any], allergies: str = "allergies") -> ClientFacts:
    """For whom a question is asked; `allergies` names the key of the allergies. Raises
    DieteticsError.
    """
    allergens, conditions = (facts.get(name) or [] for name in (allergies, "conditions"))
    if not isinstance(allergens, list) or not all(
        isinstance(a, str) and a in ALLERGIES for a in allergens
    ):
        raise _wrong(f"“{allergies}” must be a list of: {', '.join(ALLERGIES)}")
    if not isinstance(conditions, list) or not all(
        isinstance(c, str) and c in CONDITIONS for c in conditions
    ):
        raise _wrong(f"“conditions” must be a list of: {', '.join(CONDITIONS)}")
    never = facts.get("never_eats", "")
    if not isinstance(never, str):
        raise _wrong("“never_eats” must be text")
    rules = school(str(facts["school"])) if facts.get("school") else None
    return ClientFacts(frozenset(conditions), tuple(allergens), never, rules)
