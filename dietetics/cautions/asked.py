"""Marks each rule with what it is asked of: a client, a meal, a day or a week.

A rule is written once, with its mark above it; the registry asks every marked rule. So a new
caution is a rule here beside the others and its sentence in `sentences.py`, and nothing else.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any, TypeVar

from dietetics.cautions.verdict import Verdict

CLIENT, MEAL, DAY, WEEK = "client", "meal", "day", "week"
Rule = Callable[[Any], Iterator[Verdict]]
AnyRule = TypeVar("AnyRule", bound=Rule)
RULES: dict[str, list[Rule]] = {CLIENT: [], MEAL: [], DAY: [], WEEK: []}


def asked_of(*scopes: str) -> Callable[[AnyRule], AnyRule]:
    """Have a rule asked of these; rules are asked in the order in which they are written.

    Raises KeyError for a scope that there is not.
    """

    def mark(rule: AnyRule) -> AnyRule:
        for scope in scopes:
            RULES[scope].append(rule)
        return rule

    return mark
