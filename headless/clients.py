"""For whom a verb is asked: allergies, conditions, what is never eaten and the school, from
JSON.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from msgspec import Struct

from dietetics.cautions.exclusions import ALLERGIES
from dietetics.cautions.facts import ClientFacts
from dietetics.errors import DieteticsError
from dietetics.json_shapes import shaped
from dietetics.targets.conditions import CONDITIONS
from dietetics.targets.schools import school

CODE = "client-unreadable"


class ClientJson(Struct):
    """A client as a verb is given one; what is left out or null is none. There may be more in the
    file: it can be an export.
    """

    allergies: list[str] | None = None
    conditions: list[str] | None = None
    never_eats: str | None = None
    school: str | None = None


def client_of(facts: Mapping[str, Any]) -> ClientFacts:
    """For whom a question is asked. Raises `client-unreadable`, `unknown-school`."""
    return client_facts(shaped(dict(facts), ClientJson, CODE))


def client_facts(given: ClientJson) -> ClientFacts:
    """The facts of a client in JSON. Raises `client-unreadable` for a key that is none."""
    allergies, conditions = given.allergies or [], given.conditions or []
    _known("allergies", allergies, ALLERGIES)
    _known("conditions", conditions, CONDITIONS)
    rules = school(given.school) if given.school else None
    return ClientFacts(frozenset(conditions), tuple(allergies), given.never_eats or "", rules)


def _known(name: str, given: Iterable[str], known: Iterable[str]) -> None:
    unknown = [one for one in given if one not in known]
    if unknown:
        problem = f"{name}: “{unknown[0]}” is not known; known: {', '.join(known)}"
        raise DieteticsError(CODE, problem=problem)
