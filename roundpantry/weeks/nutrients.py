"""The vitamins and minerals of a week: what the client needs, what food and supplements bring, and
what would close a gap.
"""

from __future__ import annotations

from dietetics.cautions.exclusions import Terms, keeps_out
from dietetics.composition.foods import Food, load_shelf
from dietetics.errors import DieteticsError
from dietetics.nutrients import TABLE_KEYS
from dietetics.targets.intakes import SODIUM, needs_of
from dietetics.week.nutrient_verdict import NutrientVerdict, nutrient_verdicts
from roundpantry.clients.records import client_facts_of, person_of_client, supplements_of
from roundpantry.weeks.week_snapshot import WeekSnapshot

LIMITED = frozenset(TABLE_KEYS) - {"energy_kcal"}


def short_of(found: WeekSnapshot) -> list[str]:
    """The vitamins and minerals that a week is known to be short of, each with its figures."""
    return [one.brief() for one in verdicts_of(found, with_changes=False) if one.is_gap]


def verdicts_of(found: WeekSnapshot, with_changes: bool = True) -> list[NutrientVerdict]:
    """The verdict of each vitamin and mineral over the days that count, gaps first, with what would
    close a gap; nothing for a record that contradicts itself.
    """
    client = found.week.client
    try:
        person = person_of_client(client)
    except DieteticsError:
        return []
    windows = found.week_targets.windows if found.week_targets else ()
    fixed = found.week_targets.fixed if found.week_targets else frozenset()
    facts = client_facts_of(client)

    terms = Terms(facts, suggesting=True)

    def may_eat(food: Food) -> bool:
        return keeps_out(food, terms) is None

    return nutrient_verdicts(
        [found.days[d].total for d in found.counted],
        [one for one in needs_of(person, windows) if one.key not in fixed or one.key == SODIUM],
        supplements_of(client),
        load_shelf() if with_changes else (),
        may_eat,
        person.conditions,
        _ceilings(found),
    )


def _ceilings(found: WeekSnapshot) -> dict[str, float]:
    """The most of a day by nutrient, energy apart: more of one food takes the place of another."""
    windows = found.week_targets.windows if found.week_targets else ()
    return {
        window.key: window.high
        for window in windows
        if window.high is not None and window.importance != "watch" and window.key in LIMITED
    }
