"""Changes of state of the shelf: labels in versions, corrections, habits, units."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import User
from django.db.models import F

from dietetics.amounts.line_reader import phrase_key
from dietetics.errors import DieteticsError
from dietetics.labels.checks import Check, check_label
from dietetics.labels.facts import LabelFacts
from roundpantry.counter.state_changes import one_change
from roundpantry.shelf.models import (
    Correction,
    FoodUse,
    ImportDraft,
    Label,
    LabelVersion,
    Preferences,
)
from roundpantry.shelf.records import facts_json


@one_change
def keep_label(
    practitioner: User, facts: LabelFacts, label: Label | None = None, seen: int | None = None
) -> tuple[LabelVersion, list[Check]]:
    """Store a label as a new version. One that contradicts itself is stored as a draft, with its
    contradictions. Raises DieteticsError `moved-on` where the newest version is not the one that
    was `seen`.
    """
    checks = check_label(facts)
    draft = any(check.serious for check in checks)
    if label is None:
        label = Label.objects.create(practitioner_id=practitioner.pk)
    last = label.versions.order_by("-number").values_list("number", flat=True).first() or 0
    if seen is not None and seen != last:
        raise DieteticsError("moved-on")
    made = LabelVersion.objects.create(
        label=label,
        number=last + 1,
        name=facts.name[:80] or "Unnamed label",
        facts=facts_json(facts),
        draft=draft,
    )
    label.save(update_fields=["changed_at"])
    return made, checks


@one_change
def keep_labels(practitioner: User, many: Sequence[tuple[LabelFacts, int | None]]) -> int:
    """Store many labels, new or as versions of labels given by number, all or none."""
    own = {label.pk: label for label in Label.objects.filter(practitioner_id=practitioner.pk)}
    for facts, number in many:
        keep_label(practitioner, facts, own.get(number) if number is not None else None)
    return len(many)


@one_change
def retire_label(label: Label, retired: bool) -> None:
    """Take a label off the shelf, or put it back. What was made with it stays as it is."""
    label.retired = retired
    label.save(update_fields=["retired", "changed_at"])


@one_change
def remember(
    practitioner: User,
    phrase: str,
    food_key: str,
    unit: str = "",
    grams_per_unit: float | None = None,
) -> None:
    """Keep what a practitioner means by a phrase, from their correction of a line."""
    words = phrase_key(phrase)[:120]
    if words:
        Correction.objects.update_or_create(
            practitioner_id=practitioner.pk,
            phrase=words,
            unit=unit,
            defaults={"food_key": food_key, "grams_per_unit": grams_per_unit},
        )


@one_change
def forget(practitioner: User, pk: int) -> None:
    """Drop a remembered correction."""
    Correction.objects.filter(practitioner_id=practitioner.pk, pk=pk).delete()


@one_change
def note_use(practitioner_pk: int, food_key: str) -> None:
    """Count that a food was taken."""
    updated = FoodUse.objects.filter(practitioner_id=practitioner_pk, food_key=food_key).update(
        times=F("times") + 1
    )
    if not updated:
        FoodUse.objects.create(practitioner_id=practitioner_pk, food_key=food_key, times=1)


@one_change
def set_preferences(practitioner: User, **chosen: str) -> Preferences:
    """Store a practitioner's units."""
    row, _ = Preferences.objects.update_or_create(practitioner_id=practitioner.pk, defaults=chosen)
    return row


@one_change
def keep_import(practitioner: User, file_name: str, rows: list[dict[str, object]]) -> ImportDraft:
    """Keep the readable rows of an upload until they are confirmed; an earlier upload gives way."""
    ImportDraft.objects.filter(practitioner_id=practitioner.pk).delete()
    return ImportDraft.objects.create(
        practitioner_id=practitioner.pk, file_name=file_name[:120], rows=rows
    )


@one_change
def confirm_import(practitioner: User, draft: ImportDraft) -> int:
    """Store the rows of a confirmed upload; return how many."""
    many = []
    for row in draft.rows:
        number = row.pop("label")
        many.append((LabelFacts(**row), number))
    count = keep_labels(practitioner, many)
    draft.delete()
    return count
