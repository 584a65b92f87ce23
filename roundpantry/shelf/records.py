"""Rows of the shelf to values of the core: own labels as foods, the practitioner's shelf, reader,
scales and units.
"""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.contrib.auth.models import User
from django.db.models import QuerySet

from dietetics.amounts.line_reader import LineReader, Remembered
from dietetics.amounts.units import US_HOUSEHOLD, Household
from dietetics.amounts.weighing import Scales
from dietetics.composition.foods import Food, Shelf, load_shelf
from dietetics.labels.facts import LabelFacts, label_food
from dietetics.nutrients import Display
from roundpantry.counter.dates import day_text
from roundpantry.counter.kept import Kept, Newest, read_once
from roundpantry.counter.typed_numbers import row_number
from roundpantry.shelf.models import Correction, FoodUse, Label, LabelVersion, Preferences

OWN = "own-"
SESSION_DISPLAY = "display"  # the practitioner's units, kept in the session
_VERSIONS: Kept[tuple[str, str], Food] = Kept(2000)
_SHELVES: Newest[Any, Shelf] = Newest(50)
_HOUSEHOLDS = {"us": US_HOUSEHOLD, "metric": Household.metric()}


def changes_of(rows: QuerySet[Any]) -> tuple[tuple[int, datetime], ...]:
    """When each of some rows was changed last, as a stamp of all of them."""
    plain = rows.prefetch_related(None).order_by("pk")
    return tuple(plain.values_list("pk", "changed_at"))


def labels_of(user: User) -> QuerySet[Label]:
    """The labels of a practitioner, versions fetched along, newest first in each."""
    if not user.is_authenticated:
        return Label.objects.none()
    return Label.objects.filter(practitioner_id=user.pk).prefetch_related("versions")


def version_key(version: LabelVersion) -> str:
    """The food key of a version of a label."""
    return f"{OWN}{version.label_id}-{version.number}"


def facts_of(version: LabelVersion) -> LabelFacts:
    """The facts of a version."""
    return LabelFacts(**version.facts)


def facts_json(facts: LabelFacts) -> dict[str, Any]:
    """Facts as they are stored."""
    return {
        "name": facts.name,
        "basis": facts.basis,
        "serving_g": facts.serving_g,
        "serving_text": facts.serving_text,
        "servings_per_package": facts.servings_per_package,
        "net_g": facts.net_g,
        "values": dict(facts.values),
        "ingredients": facts.ingredients,
        "group": facts.group,
    }


def version_food(version: LabelVersion) -> Food:
    """The food a version makes; a version never changes, so it is made once."""
    key = (version_key(version), version.created_at.isoformat())
    day = day_text(version.created_at)
    source = f"label “{version.name}”, version {version.number} of {day}"
    return _VERSIONS.of(key, lambda: label_food(facts_of(version), key[0], source))


def _version(practitioner_pk: int, key: str) -> LabelVersion | None:
    label, _, number = key.removeprefix(OWN).partition("-")
    found = LabelVersion.objects.filter(label__practitioner_id=practitioner_pk)
    return found.filter(label_id=row_number(label), number=row_number(number)).first()


def food_of(practitioner_pk: int, key: str) -> Food | None:
    """The food a practitioner means by a key: of the common shelf, or of a version of a label of
    their own; else None.

    The only way from a key to a food: whatever names another practitioner's label, wherever it
    comes from, names nothing.
    """
    if not key.startswith(OWN):
        return load_shelf().foods.get(key)
    version = _version(practitioner_pk, key)
    return version_food(version) if version is not None else None


def newer_key(practitioner_pk: int, key: str) -> str:
    """The key of a newer usable version of the same label, or nothing."""
    if not key.startswith(OWN):
        return ""
    version = _version(practitioner_pk, key)
    if version is None:
        return ""
    newest = (
        LabelVersion.objects.filter(label_id=version.label_id, draft=False)
        .order_by("-number")
        .first()
    )
    return version_key(newest) if newest is not None and newest.number > version.number else ""


def usable_versions(user: User) -> list[LabelVersion]:
    """The newest version of each label that is neither a draft nor retired."""
    newest = (
        label.versions.all()[0]
        for label in labels_of(user).filter(retired=False)
        if label.versions.all()
    )
    return [version for version in newest if not version.draft]


def shelf_of(user: User) -> Shelf:
    """The common shelf with the practitioner's own labels in front; made anew when a label
    changes.
    """

    def shelf() -> Shelf:
        base = load_shelf()
        own = [version_food(version) for version in usable_versions(user)]
        return Shelf([*own, *base], base.yields)

    def newest() -> Shelf:
        # the time of each, not the latest of all: a clock that was put back would hide a change
        stamp = changes_of(labels_of(user))
        return _SHELVES.of(user.pk, stamp, shelf) if stamp else load_shelf()

    return read_once(("shelf", user.pk), newest)


def preferences_of(user: User) -> Preferences:
    """The practitioner's units; the usual ones until they choose. No query where they were fetched
    along.
    """
    try:
        return user.preferences
    except Preferences.DoesNotExist:
        return Preferences(practitioner_id=user.pk)


def display_of(preferences: Preferences) -> Display:
    """How figures are shown to this practitioner."""
    return Display(preferences.energy == "kj", preferences.density == "lb")


def kept_in_session(preferences: Preferences) -> list[object]:
    """What every request needs of the settings: units, the order of dates, the time zone, the marks
    of numbers.
    """
    shown = display_of(preferences)
    return [
        shown.kilojoules,
        shown.per_pound,
        preferences.dates,
        preferences.time_zone,
        preferences.numbers,
    ]


def scales_of(user: User) -> Scales:
    """The kitchen scales of a practitioner, with their cups and spoons."""
    return Scales(load_shelf(), _HOUSEHOLDS[preferences_of(user).cup])


_LITTLE_SALT_TSP = {"eighth": 0.125, "quarter": 0.25, "half": 0.5}  # of `Preferences.little_salt`


def reader_of(user: User, shelf: Shelf | None = None) -> LineReader:
    """The reader of written lines for a practitioner: their shelf (or the given one), cups, usual
    salt and corrections.
    """
    remembered: dict[str, Remembered] = {}
    for row in Correction.objects.filter(practitioner_id=user.pk):
        remembered[f"{row.phrase}|{row.unit}" if row.unit else row.phrase] = Remembered(
            row.food_key, row.grams_per_unit, row.unit
        )
    preferences = preferences_of(user)
    usual = {"salt-table": "salt-iodised"} if preferences.salt == "iodised" else {}
    return LineReader(
        shelf or shelf_of(user),
        _HOUSEHOLDS[preferences.cup],
        remembered,
        usual,
        _LITTLE_SALT_TSP.get(preferences.little_salt),
    )


def often_used(user: User) -> dict[str, int]:
    """How often the practitioner took each food."""
    return dict(FoodUse.objects.filter(practitioner_id=user.pk).values_list("food_key", "times"))
