"""The verb `week`: a week's question in JSON, answered with a plan, its gap, levels and what
binds.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from dietetics.cautions.exclusions import exclusions_of
from dietetics.cautions.facts import Eaten
from dietetics.composition.foods import load_shelf
from dietetics.errors import DieteticsError
from dietetics.json_shapes import shaped
from dietetics.week.question.question_building import NOT_OFFERED
from dietetics.week.question.question_json import question_of_json
from dietetics.week.search.improving import first_week, improve, settle
from dietetics.week.words.week_files import answer_json
from headless.clients import ClientJson, client_facts
from headless.verdicts import verdict_json

MOST_SECONDS = 600.0


class _DishFoods(Struct):
    foods: dict[str, float] = {}


class _WithFoods(Struct):
    """What a question says of its client, and of the foods of its dishes."""

    client: ClientJson | None = None
    dishes: list[_DishFoods] = []


def _for_client(data: Mapping[str, Any]) -> tuple[Mapping[str, Any], list[dict[str, Any]]]:
    """The question without what may not be planned for its client, and what was left out with the
    verdicts.

    A dish may name its foods ("foods": {"tofu-firm": 120}); the client stands under "client".
    """
    plain = {key: value for key, value in data.items() if key != "client"}
    given = shaped(dict(data), _WithFoods, "week-unreadable")
    client, kept, left_out = client_facts(given.client or ClientJson()), [], []
    for dish, foods in zip(data.get("dishes", ()), given.dishes, strict=True):
        eaten = [Eaten(load_shelf().food(key), grams) for key, grams in foods.foods.items()]
        against = exclusions_of(eaten, client)
        if any(verdict.code in NOT_OFFERED for verdict in against):
            left_out.append(
                {
                    "dish": dish.get("key"),
                    "verdicts": [verdict_json(verdict) for verdict in against],
                }
            )
        else:
            kept.append({key: value for key, value in dish.items() if key != "foods"})
    return {**plain, "dishes": kept}, left_out


def week_json(data: Mapping[str, Any]) -> dict[str, Any]:
    """Plan a week, the same one every time; `seconds` above none improves and bounds it. Raises
    DieteticsError.
    """
    data, left_out = _for_client(data)
    question = question_of_json(data)
    seconds = data.get("seconds", 0)
    given = isinstance(seconds, (int, float)) and not isinstance(seconds, bool)
    if not given or not 0 <= seconds <= MOST_SECONDS:
        raise DieteticsError(
            "week-unreadable", problem=f"seconds must be a number from 0 to {MOST_SECONDS:g}"
        )
    settled = settle(question)
    answer = improve(settled, float(seconds)) if seconds else first_week(question, settled)
    return {**answer_json(answer), "left_out": left_out}
