"""One bowl for a whole table: the same parts for several people, each with portions of their
own.
"""

from __future__ import annotations

from typing import Any

from django.urls import reverse

from dietetics.nutrients import nutrient
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.bowls.records import bowl_value, bowls_of, portion_value


def at_the_table(bowl: Bowl) -> list[Bowl]:
    """The bowl and its variants for other eaters, in the order they were made."""
    variants = (
        bowls_of(bowl.client.practitioner).filter(parent=bowl).exclude(eater="").order_by("pk")
    )
    return [bowl, *variants]


def _thing(row: BowlPart) -> tuple[str, int | None]:
    return row.food_key, row.batch_id


def table_page(bowl: Bowl) -> dict[str, Any]:
    """Rows of parts, a column a person, and what must be served in all."""
    bowls = at_the_table(bowl)
    things: dict[tuple[str, int | None], str] = {}
    for one in bowls:
        for row in one.parts.all():
            things.setdefault(_thing(row), portion_value(row).item.label)
    values = [bowl_value(one) for one in bowls]
    heads = [
        {
            "name": one.eater or one.client.name,
            "url": reverse("bowls:bench", args=[one.pk]),
            "first": one.pk == bowl.pk,
            "energy": value.total["energy_kcal"].text(),
            "protein": value.total["protein_g"].text(),
            "grams": f"{value.total.grams:,.0f} g",
            "pk": one.pk,
        }
        for one, value in zip(bowls, values, strict=True)
    ]
    rows = []
    for thing, name in things.items():
        cells = [[row for row in one.parts.all() if _thing(row) == thing] for one in bowls]
        whole = sum(row.grams for cell in cells for row in cell)
        rows.append({"name": name, "cells": cells, "whole": f"{whole:,.0f}"})
    return {
        "bowl": bowl,
        "heads": heads,
        "rows": rows,
        "table_url": reverse("bowls:table", args=[bowl.pk]),
        "whole": f"{sum(v.total.grams for v in values):,.0f}",
        "energy_unit": nutrient("energy_kcal").unit,
    }
