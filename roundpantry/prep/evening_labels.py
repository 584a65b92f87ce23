"""Labels for every container that an evening fills, formatted before any template sees them."""

from __future__ import annotations

from datetime import date
from typing import Any

from dietetics.dishes.cooking import KEEPS_DAYS
from dietetics.prep.plain_pots import PlainPot
from roundpantry.batches.portions_page import label_page, labels_of
from roundpantry.batches.records import batch_value, days_kept
from roundpantry.prep.plain_evenings import plain_on
from roundpantry.prep.records import CookedBatch, cooked_on, day_of
from roundpantry.weeks.models import Week

MOST_LABELS = 60  # of a dish


def labels_of_evening(week: Week, day: int) -> list[dict[str, Any]]:
    """The labels of each dish of an evening."""
    cooked, _ = cooked_on(week, day)
    made_on = day_of(week, day)
    found = [_of_batch(one, made_on) for one in cooked]
    found += [_of_plain(pot, made_on) for pot in plain_on(week, day)]
    return [page | {"labels": page["labels"][:MOST_LABELS]} for page in found]


def _of_batch(one: CookedBatch, made_on: date) -> dict[str, Any]:
    """A label for everybody who gets a portion; where nobody is named or some of it is frozen, one
    for each container.
    """
    if one.batch.shares.all() and not one.cooking.frozen:
        return label_page(one.batch, made_on, MOST_LABELS, one.cooking.pots)
    portions = [("", grams) for grams in one.containers_g]
    value, frozen = batch_value(one.batch), one.kept.frozen
    return labels_of(value, portions, made_on, days_kept(one.batch), frozen)


def _of_plain(pot: PlainPot, made_on: date) -> dict[str, Any]:
    """A label for each meal that takes of it, those for the freezer last."""
    portions = [("", grams) for _, grams in sorted(pot.eaten)]
    return labels_of(pot.value(), portions, made_on, KEEPS_DAYS, len(pot.frozen))
