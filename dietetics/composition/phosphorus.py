"""How much of the phosphorus eaten is likely to be absorbed: shown beside the total, never instead
of it.

Plant phosphorus is mostly phytate: 40-60 % is absorbed, 50 % taken as likely; inorganic phosphate
from additives 90 % and more (common practice; KDOQI 2020 names the difference, from memory). A
label states no phosphorus of its additives apart, so a food with a phosphate additive is taken as
anything between the two.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from dietetics.composition.foods import Food
from dietetics.nutrients import nutrient

PLANT_SHARE = (0.40, 0.50, 0.60)  # low, likely, high
ADDITIVE_SHARE = (0.50, 0.90, 1.00)
PHOSPHATE = "phosphate"


@dataclass(frozen=True)
class AbsorbedPhosphorus:
    """Milligrams likely to be absorbed with low and high, of how many in all, and foods whose
    phosphorus is not known.
    """

    low_mg: float
    likely_mg: float
    high_mg: float
    total_mg: float
    unknown: tuple[str, ...]

    def words(self) -> str:
        """In a sentence: "Of 800 mg phosphorus about 400 mg is likely to be absorbed
        (320–480).".
        """
        one = nutrient("phosphorus_mg")
        if not self.total_mg:
            return f"Phosphorus is unknown in {', '.join(self.unknown)}." if self.unknown else ""
        hidden = f" Unknown in {', '.join(self.unknown)}." if self.unknown else ""
        return (
            f"Of {one.text(self.total_mg)} phosphorus about {one.text(self.likely_mg)} is likely "
            "to be absorbed "
            f"({one.number(self.low_mg)}–{one.number(self.high_mg)}; half of what is in whole "
            "plants, nearly all of additives; "
            f"common practice).{hidden}"
        )


def absorbed_phosphorus(foods: Iterable[tuple[Food, float]]) -> AbsorbedPhosphorus:
    """The phosphorus likely to be absorbed of foods with their grams. Unknown rows are named and
    add nothing.

    A hundred grams of a plant food with 400 mg: 160 to 240 mg, 200 likely. With a phosphate
    additive: 200 to 400, 360 likely.
    """
    sums = [0.0, 0.0, 0.0]
    total, unknown = 0.0, dict[str, None]()
    for food, grams in foods:
        per_100g = food.per_100g.get("phosphorus_mg")
        if per_100g is None:
            if grams > 0:
                unknown[food.name] = None
            continue
        mg = per_100g * grams / 100
        shares = ADDITIVE_SHARE if PHOSPHATE in food.tags else PLANT_SHARE
        total += mg
        for place, share in enumerate(shares):
            sums[place] += mg * share
    return AbsorbedPhosphorus(sums[0], sums[1], sums[2], total, tuple(unknown))
