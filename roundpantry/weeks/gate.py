"""A week before the gate: what it is held against on its way to the client, gathered from rows."""

from __future__ import annotations

from django.urls import reverse

from dietetics.errors import DieteticsError
from dietetics.handover.gate import (
    CLIENT,
    DISHES,
    NUTRIENTS,
    TARGETS,
    Obstacle,
    Share,
    WeekToHandOver,
)
from dietetics.handover.gate import obstacles as obstacles_of_week
from dietetics.targets.usual_food import usual_food
from roundpantry.clients.records import person_of_client
from roundpantry.targets.records import (
    client_cautions_of,
    given_by_clinician,
    newest_version,
    proposal_of,
)
from roundpantry.targets.renewal import proposed_changes
from roundpantry.weeks.nutrients import verdicts_of
from roundpantry.weeks.week_snapshot import WeekSnapshot, cautions_of


def obstacles(found: WeekSnapshot) -> list[Obstacle]:
    """Everything in the way of a week, what stops it first."""
    client, targets = found.week.client, found.week_targets
    present = newest_version(client)
    try:
        needed = proposal_of(client).before_hand_over
        usual = usual_food(person_of_client(client))
        own = client_cautions_of(client)
    except DieteticsError as error:
        return [Obstacle("record", f"The record cannot be used: {error}", CLIENT, True)]
    pairs = [before or after for before, after in proposed_changes(client)]
    changed = [window.key for window in pairs if window is not None]
    verdicts = [(verdict, known is not None) for verdict, known in (*own, *cautions_of(found))]
    return obstacles_of_week(
        WeekToHandOver(
            plan=found.plan,
            dishes=found.available.dishes,
            days=found.days,
            counted=found.counted,
            windows=targets.windows if targets else None,
            meals=[Share(m.name, m.share_percent / 100) for m in targets.meals] if targets else [],
            set_by_clinician=given_by_clinician(present) if present else frozenset(),
            needed=[(one.key, one.why) for one in needed],
            verdicts=verdicts,
            usual=usual,
            changed=changed,
            nutrients=verdicts_of(found),
        )
    )


def address_of(obstacle: Obstacle, found: WeekSnapshot) -> str:
    """The page where an obstacle is mended."""
    client = found.week.client_id
    if obstacle.place == TARGETS:
        return reverse("targets:edit", args=[client])
    if obstacle.place == CLIENT:
        return reverse("clients:detail", args=[client])
    if obstacle.place == NUTRIENTS:
        return reverse("weeks:nutrients", args=[found.week.pk])
    if obstacle.place == DISHES:
        return _dish_address(obstacle.key.removeprefix("unread-"))
    return reverse("weeks:week", args=[found.week.pk])


def _dish_address(key: str) -> str:
    kind, _, number = key.partition("-")
    if kind == "bowl" and number.isdecimal():
        return reverse("bowls:bench", args=[int(number)])
    if kind == "batch" and number.isdecimal():
        return reverse("batches:detail", args=[int(number)])
    return reverse("batches:list")
