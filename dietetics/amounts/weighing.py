"""From a written amount of a known food to grams, with the honest span and the way it was found."""

from __future__ import annotations

from dataclasses import dataclass, replace

from dietetics.amounts.grammar import Amount, Quantity, Term
from dietetics.amounts.units import (
    LEVELS,
    SIZE_FACTORS,
    UNITS,
    US_HOUSEHOLD,
    Household,
    millilitres,
)
from dietetics.composition.foods import ML_PER_SPOON, Food, Measure, Shelf
from dietetics.errors import DieteticsError

ABSURD_GRAMS = 20_000.0
# Honest span of a measure's weight, ± share, by how it is known.
SPAN_BY_MARK = {
    "table": 0.05,
    "derived": 0.08,
    "from memory": 0.10,
    "stated": 0.0,
    "practitioner": 0.0,
    "density of its group": 0.25,
}
PACKS = frozenset({"pack", "bag", "tub", "box", "jar", "carton", "punnet", "bottle", "tube"})
PACK_SPREAD = (
    0.3  # a package whose weight is not written: makers and countries differ; our judgement
)
HANDFUL_G = (20.0, 30.0, 40.0)  # a handful of leaves or nuts, common practice
CANNED_STATES = ("canned-drained", "canned-rinsed")


@dataclass(frozen=True)
class Weight:
    """Grams as low, likely and high; `how` in words; `mark` how the measure is known; confidence
    high to low.
    """

    low: float
    grams: float
    high: float
    how: str
    mark: str

    def plus(self, other: Weight) -> Weight:
        """Two weights added; the less certain mark is kept."""
        worse = max((self.mark, other.mark), key=lambda m: SPAN_BY_MARK.get(m, 0.3))
        return Weight(
            self.low + other.low,
            self.grams + other.grams,
            self.high + other.high,
            f"{self.how} + {other.how}",
            worse,
        )

    def spread(self, share: float) -> Weight:
        """The same weight with its span at least ± `share`."""
        return replace(
            self,
            low=min(self.low, self.grams * (1 - share)),
            high=max(self.high, self.grams * (1 + share)),
        )


def amount_text(value: float) -> str:
    """A number as a person writes it.

    >>> amount_text(1.5), amount_text(0.4)
    ('1½', '0.4')
    """
    whole = int(value)
    part = value - whole
    for glyph, fraction in (
        ("¼", 0.25),
        ("⅓", 1 / 3),
        ("½", 0.5),
        ("⅔", 2 / 3),
        ("¾", 0.75),
        ("⅛", 0.125),
    ):
        if abs(part - fraction) < 0.005:
            return f"{whole or ''}{glyph}"
    return f"{value:g}" if abs(value - round(value)) < 1e-9 or value < 10 else f"{value:,.1f}"


def _quantity_text(quantity: Quantity) -> str:
    if quantity.low != quantity.high:
        return f"{amount_text(float(quantity.low))}–{amount_text(float(quantity.high))}"
    return ("about " if quantity.rough else "") + amount_text(float(quantity.likely))


def _unit_word(term: Term) -> str:
    """The unit's name with a space behind it, in the right number; nothing where there is no
    unit.
    """
    if term.unit is None:
        return ""
    return f"{term.unit.plural if term.quantity.likely > 1 else term.unit.singular} "


def _spanned(quantity: Quantity, each: tuple[float, float, float], how: str, mark: str) -> Weight:
    weight = Weight(
        float(quantity.low) * each[0],
        float(quantity.likely) * each[1],
        float(quantity.high) * each[2],
        how,
        mark,
    )
    return weight.spread(0.1) if quantity.rough else weight


def _around(grams: float, mark: str) -> tuple[float, float, float]:
    share = SPAN_BY_MARK.get(mark, 0.2)
    return grams * (1 - share), grams, grams * (1 + share)


def _levelled(
    each: tuple[float, float, float], levels: tuple[str, ...]
) -> tuple[float, float, float]:
    low, likely, high = each
    for level in levels:
        factors = LEVELS[level]
        low, likely, high = low * factors[0], likely * factors[1], high * factors[2]
    return low, likely, high


class Scales:
    """Weighs written amounts of foods for one practitioner's cups and spoons."""

    def __init__(self, shelf: Shelf, household: Household = US_HOUSEHOLD) -> None:
        self.shelf = shelf
        self.household = household

    def weigh(self, amount: Amount, food: Food, cut: str = "") -> Weight:
        """Return the weight of `amount` of `food`.

        Raises DieteticsError `amount-not-positive`, `amount-absurd` (over 20 kg) or
        `measure-unknown`.
        """
        weight = self.weigh_term(amount.terms[0], food, cut)
        for term in amount.terms[1:]:
            weight = weight.plus(self.weigh_term(term, food, cut))
        return checked(weight, weight.how)

    def weigh_term(self, term: Term, food: Food, cut: str = "") -> Weight:
        """Return the weight of one term of an amount."""
        unit = term.unit
        if term.container is not None:
            return self._container(term, food)
        if unit is None:
            return self._pieces(replace(term, unit=None), food, "piece")
        if unit.kind == "mass":
            grams = unit.worth
            written = f"{_quantity_text(term.quantity)} {unit.singular}"
            how = written if unit.key in ("g", "kg") else f"{written} × {unit.worth:g} g"
            return _spanned(term.quantity, (grams, grams, grams), how, "stated")
        if unit.kind == "volume" or (
            unit.kind == "vague" and unit.worth and food.measure(unit.key) is None
        ):
            return self._volume(term, food, cut)
        return self._pieces(term, food, unit.key)

    def gram_alternatives(self, term: Term, food: Food) -> Weight | None:
        """Ounces by weight may have been meant by volume: return that reading, or None."""
        if term.unit is None or term.unit.key != "oz" or term.container is not None:
            return None
        fluid = replace(term, unit=UNITS["fl-oz"])
        return self._volume(fluid, food, "")

    def _container(self, term: Term, food: Food) -> Weight:
        content, unit = term.container, term.unit
        assert content is not None and unit is not None and content.unit is not None
        inner = self._can_volume(content, food) or self.weigh_term(content, food)
        count = _quantity_text(term.quantity)
        each = (inner.low, inner.grams, inner.high)
        how = f"{count} {_unit_word(term)}of {inner.how}"
        if food.state in CANNED_STATES:
            of_its_own = self.shelf.yields_of(f"{food.family}-can")
            drained = (of_its_own or self.shelf.yields_of("any-can"))[0]
            each = (each[0] * drained.low, each[1] * drained.likely, each[2] * drained.high)
            how += f" × {drained.likely:.0%} solids ({drained.source.split(':')[0]})"
            return _spanned(term.quantity, each, how, "from memory")
        return _spanned(term.quantity, each, how, inner.mark)

    def _can_volume(self, content: Term, food: Food) -> Weight | None:
        """A can stated by volume ("540 mL") holds about a gram a mL, liquid included; None for
        anything else.
        """
        unit = content.unit
        if unit is None or unit.kind != "volume" or not food.state.startswith("canned"):
            return None
        grams = millilitres(unit, self.household)
        how = f"{_quantity_text(content.quantity)} {unit.singular} at 1 g per mL"
        return _spanned(
            content.quantity, (grams * 0.95, grams, grams * 1.08), how, "common practice"
        )

    def _volume(self, term: Term, food: Food, cut: str) -> Weight:
        unit = term.unit
        assert unit is not None
        volume = millilitres(unit, self.household)
        per_ml, mark, basis, exact_cut = self._density(food, unit.key, cut)
        each = _levelled(_around(per_ml * volume, mark), term.levels)
        if cut and not exact_cut:
            each = (each[0] * 0.9, each[1], each[2] * 1.1)
        if unit.kind == "vague":
            each = (each[0] * 0.5, each[1], each[2] * 1.5)
        level = f"{' '.join(term.levels)} " if term.levels else ""
        how = (
            f"{_quantity_text(term.quantity)} {level}{_unit_word(term)}× {each[1]:.4g} g ({basis})"
        )
        return _spanned(term.quantity, each, how, mark)

    def _density(self, food: Food, unit: str, cut: str) -> tuple[float, str, str, bool]:
        """Grams per mL, its mark, where it comes from, and whether the cut was the one asked
        for.
        """
        wanted = [cut] if cut else []
        for a_cut in [*wanted, ""]:
            order = [unit, *(u for u in ("cup", "tbsp", "tsp") if u != unit)]
            for name in order:
                found = food.measure(name, a_cut)
                if found is not None and name in ML_PER_SPOON:
                    return self._per_ml(found, a_cut, unit)
        loose = [m for m in food.measures if m.unit in ML_PER_SPOON]
        if loose:
            per_ml, mark, basis, _ = self._per_ml(loose[0], loose[0].cut, unit)
            return per_ml, mark, basis, False
        density, mark = food.density_g_per_ml
        return density, mark, f"{density:.2f} g per mL, {mark}", True

    @staticmethod
    def _per_ml(measure: Measure, cut: str, unit: str) -> tuple[float, str, str, bool]:
        per_ml = measure.grams / ML_PER_SPOON[measure.unit]
        name = f"{measure.unit}{', ' + cut if cut else ''} {measure.grams:g} g, {measure.mark}"
        mark = (
            measure.mark
            if measure.unit == unit
            else ("derived" if measure.mark == "table" else measure.mark)
        )
        return per_ml, mark, name, True

    def _pieces(self, term: Term, food: Food, unit_key: str) -> Weight:
        measure, each, mark = self._piece_weight(food, unit_key, term.size)
        each = _levelled(each, term.levels)
        size = f"{term.size} " if term.size else ""
        name = _unit_word(term) or ("" if size else "whole ")
        how = f"{_quantity_text(term.quantity)} {size}{name}× {measure:.4g} g ({mark})"
        weight = _spanned(term.quantity, each, how, mark)
        return weight.spread(PACK_SPREAD) if unit_key in PACKS and mark != "stated" else weight

    def _piece_weight(
        self, food: Food, unit_key: str, size: str
    ) -> tuple[float, tuple[float, float, float], str]:
        exact = food.measure(unit_key, size) if size else None
        if exact is not None:
            low, likely, high = _around(exact.grams, exact.mark)
            return (
                exact.grams,
                (min(low, likely * 0.85), likely, max(high, likely * 1.15)),
                exact.mark,
            )
        base = food.measure(unit_key) or food.measure(unit_key, "medium")
        if base is None:
            sized = [m for m in food.measures if m.unit == unit_key]
            base = sized[0] if sized else None
        if base is None:
            return self._unlisted_piece(food, unit_key, size)
        grams = base.grams * SIZE_FACTORS.get(size, 1.0)
        smallest = food.measure(unit_key, "small")
        largest = food.measure(unit_key, "large")
        low = min(smallest.grams if smallest and not size else grams * 0.8, grams)
        high = max(largest.grams if largest and not size else grams * 1.2, grams)
        return grams, (low, grams, high), base.mark

    def _unlisted_piece(
        self, food: Food, unit_key: str, size: str
    ) -> tuple[float, tuple[float, float, float], str]:
        if unit_key == "handful":
            factor = SIZE_FACTORS.get(size, 1.0)
            return (
                HANDFUL_G[1] * factor,
                (HANDFUL_G[0] * factor, HANDFUL_G[1] * factor, HANDFUL_G[2] * factor),
                "common practice",
            )
        stand_ins = {
            "half": ("piece", 0.5),
            "wedge": ("piece", 1 / 6),
            "head": ("piece", 1.0),
            "piece": ("head", 1.0),
            "stalk": ("piece", 1.0),
            "spear": ("piece", 1.0),
            "ear": ("piece", 1.0),
            "clove": ("piece", 1.0),
            "leaf": ("piece", 0.1),
        }
        other = stand_ins.get(unit_key)
        if other is not None and any(m.unit == other[0] for m in food.measures):
            grams, (low, likely, high), mark = self._piece_weight(food, other[0], size)
            return grams * other[1], (low * other[1], likely * other[1], high * other[1]), mark
        if unit_key == "can" and food.state in (*CANNED_STATES, "canned-undrained"):
            grams = 250.0 if food.state in CANNED_STATES else 400.0
            return grams, (grams * 0.9, grams, grams * 1.1), "common practice"
        raise DieteticsError(
            "measure-unknown", food=food.name, unit=unit_key, known=known_measures(food)
        )


def known_measures(food: Food) -> str:
    """The measures a food has, as a short list in words."""
    names = [
        f"{m.unit}{' ' + m.cut if m.cut else ''} {m.grams:g} g"
        for m in food.measures
        if m.unit != "oz"
    ]
    return ", ".join(names[:6])


def checked(weight: Weight, text: str) -> Weight:
    """Return `weight`, or raise when it is nothing, negative or over 20 kg."""
    if weight.grams <= 0:
        raise DieteticsError("amount-not-positive", text=text)
    if weight.grams > ABSURD_GRAMS:
        raise DieteticsError(
            "amount-absurd", text=text, grams=weight.grams, limit_kg=ABSURD_GRAMS / 1000
        )
    return weight
