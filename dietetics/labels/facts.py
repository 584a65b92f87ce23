"""What a label states, in our units, and the food it makes.

A label's figures hold for its basis (a serving, or 100 g). What it does not list stays unknown.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from dietetics.amounts.grammar import read_amount
from dietetics.amounts.tokens import clean, tokenise
from dietetics.composition.acidload import potential_renal_acid_load_meq
from dietetics.composition.foods import Food, Measure
from dietetics.labels.ingredients import IngredientFlags, read_ingredients
from dietetics.nutrients import ACID_LOAD, TABLE_KEYS

PER_SERVING, PER_100G = "serving", "100 g"


@dataclass(frozen=True)
class LabelFacts:
    """A label as read: name, basis, serving, package, figures per basis, ingredient list as
    pasted.
    """

    name: str
    basis: str = PER_SERVING
    serving_g: float | None = None
    serving_text: str = ""
    servings_per_package: float | None = None
    net_g: float | None = None
    values: Mapping[str, float] = field(default_factory=dict)
    ingredients: str = ""
    group: str = "processed"

    @property
    def flags(self) -> IngredientFlags:
        """What the ingredient list says."""
        return read_ingredients(self.ingredients)

    @property
    def basis_g(self) -> float | None:
        """Grams for which the figures hold; None when the serving's weight is not stated."""
        return 100.0 if self.basis == PER_100G else self.serving_g

    @property
    def package_g(self) -> float | None:
        """Grams of the whole package: servings × serving where both stand, else the net weight."""
        if self.servings_per_package and self.serving_g:
            return self.servings_per_package * self.serving_g
        return self.net_g

    def per_100g(self) -> dict[str, float | None]:
        """Figures per 100 g; unlisted ones are unknown. Empty of values when the basis has no
        weight.
        """
        grams = self.basis_g
        known: dict[str, float | None] = {
            key: self.values[key] * 100 / grams if key in self.values and grams else None
            for key in TABLE_KEYS
        }
        known[ACID_LOAD] = potential_renal_acid_load_meq(known)
        return known


def label_measures(facts: LabelFacts) -> tuple[Measure, ...]:
    """The measures a label gives: its serving, its package, and the household measure its serving
    is stated in.
    """
    found: list[Measure] = []
    if facts.serving_g:
        found.append(Measure("serving", "", facts.serving_g, "stated"))
        amount = read_amount(tokenise(clean(facts.serving_text)))
        if amount is not None and len(amount.terms) == 1:
            term = amount.terms[0]
            unit = term.unit.key if term.unit else "piece"
            if (
                (term.unit is None or term.unit.kind != "mass")
                and term.quantity.likely > 0
                and unit != "serving"
            ):
                found.append(
                    Measure(unit, "", facts.serving_g / float(term.quantity.likely), "stated")
                )
    if facts.package_g and not any(measure.unit == "pack" for measure in found):
        found.append(Measure("pack", "", facts.package_g, "stated"))
    return tuple(found)


def label_food(facts: LabelFacts, key: str, source: str) -> Food:
    """The food a label makes, under a key of its own; `source` says whose label and which
    version.
    """
    flags = facts.flags
    additives = (("phosphate", flags.phosphates), ("potassium-chloride", flags.potassium_chloride))
    return Food(
        key=key,
        name=facts.name,
        synonyms=(),
        family=key,
        group=facts.group,
        state="label",
        default=True,
        salted=flags.added_salt,
        oil_added=flags.added_oil,
        fortified=bool(flags.fortified),
        processing=4,
        allergens=flags.allergens,
        traces=flags.traces,
        allergens_known=flags.recognised,
        edible_share=None,
        dataset="package label",
        source_row=source,
        derivation="",
        tags=frozenset(name for name, held in additives if held),
        proxy="",
        per_100g=facts.per_100g(),
        measures=label_measures(facts),
        names=(facts.name,),
    )
