"""The verb `week`: a week's question in JSON, answered with a plan, its gap, levels and what binds."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from dietetics.errors import DieteticsError
from dietetics.week.anneal import MOVES, good_week
from dietetics.week.exchange import answer_json, question_of
from dietetics.week.proof import improve

MOST_SECONDS, MOST_MOVES = 600.0, 2_000_000


def week_json(data: Mapping[str, Any]) -> dict[str, Any]:
    """Plan a week. `seed` and `moves` make it repeatable; `seconds` above none improves and bounds it. Raises DieteticsError."""
    question = question_of(data)
    seed, moves, seconds = data.get("seed", 1), data.get("moves", MOVES), data.get("seconds", 0)
    for name, value, most in (("seed", seed, 2**31), ("moves", moves, MOST_MOVES), ("seconds", seconds, MOST_SECONDS)):
        if isinstance(value, bool) or not isinstance(value, (int, float)) or not 0 <= value <= most:
            raise DieteticsError("week-unreadable", problem=f"{name} must be a number from 0 to {most:g}")
    answer = good_week(question, int(seed), int(moves))
    if seconds:
        answer = improve(question, answer, float(seconds))
    return answer_json(answer)
