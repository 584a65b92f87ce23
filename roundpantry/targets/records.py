"""Rows of targets to values of the core, and the queries of this app."""

from __future__ import annotations

from dataclasses import replace

from dietetics.cautions.registry import client_cautions
from dietetics.cautions.verdict import Verdict
from dietetics.cautions.week_rules import jump_verdict
from dietetics.targets.proposal import Proposal, propose
from dietetics.targets.windows import Window, on_the_plate
from roundpantry.clients.models import Acknowledgement, Client
from roundpantry.clients.records import acknowledged, person_of_client, school_of
from roundpantry.counter.kept import Kept
from roundpantry.targets.models import Meal, TargetSet


def newest_set(client: Client) -> TargetSet | None:
    """The client's present targets, windows and meals fetched along, or None."""
    return client.target_sets.prefetch_related("windows", "meals").first()


def newest_version(client: Client) -> TargetSet | None:
    """The client's present targets alone, for who keeps windows and meals of a version; or None."""
    return client.target_sets.first()


def windows_of(target_set: TargetSet) -> tuple[Window, ...]:
    """The daily windows of a set."""
    return tuple(Window(w.key, w.low, w.high, w.importance) for w in target_set.windows.all())


def clinicians_keys(target_set: TargetSet) -> frozenset[str]:
    """The nutrients whose windows only a clinician may set or move."""
    return frozenset(w.key for w in target_set.windows.all() if w.needs_clinician)


def given_by_clinician(target_set: TargetSet) -> frozenset[str]:
    """The nutrients whose windows a clinician gave, who is named with a day."""
    if not (target_set.clinician and target_set.clinician_on):
        return frozenset()
    return clinicians_keys(target_set)


_WINDOWS: Kept[tuple[int, str, int], tuple[Window, ...]] = Kept(500)


def windows_of_meal(meal: Meal) -> tuple[Window, ...]:
    """The windows of one meal: the day's, divided by its share. A version never changes, so they
    are kept.
    """
    made = meal.target_set
    protein = meal.protein_percent if meal.protein_percent is not None else meal.share_percent
    key = (made.pk, made.created_at.isoformat(), meal.share_percent * 1000 + protein)

    def windows() -> tuple[Window, ...]:
        return tuple(
            w.for_share((protein if w.key == "protein_g" else meal.share_percent) / 100)
            for w in windows_of(made)
            if on_the_plate(w)
        )

    return _WINDOWS.of(key, windows)


def main_meal(target_set: TargetSet) -> Meal | None:
    """The meal with the largest share, the later one on a tie."""
    meals = list(target_set.meals.all())
    return max(meals, key=lambda m: (m.share_percent, m.pk), default=None)


def proposal_of(client: Client, school_key: str | None = None) -> Proposal:
    """What would be computed for a client, under their school or another. Raises DieteticsError on
    a contradiction.
    """
    person = person_of_client(client)
    key = school_key or client.school
    return propose(replace(person, school=key), school_of(client, key))


def client_cautions_of(client: Client) -> list[tuple[Verdict, Acknowledgement | None]]:
    """The client's cautions, each with its acknowledgement where there is one and it has not got
    worse.
    """
    known = acknowledged(client, "client")
    found = []
    plan = proposal_of(client)
    fibre = plan.target("fibre_g")
    jump = (
        jump_verdict(client.fibre_now_g, fibre.window.low or 0.0)
        if fibre and client.fibre_now_g is not None
        else None
    )
    for caution in [*client_cautions(plan), *([jump] if jump else [])]:
        row = known.get(caution.key)
        found.append((caution, None if row is None or caution.comes_back(row.measure) else row))
    return found
