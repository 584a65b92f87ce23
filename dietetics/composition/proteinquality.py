"""The protein of a bowl in detail: grams by part, the amino acid score of the whole, and its
digestibility where known.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.aminoacids import ADULT_PATTERN_MG_PER_G, AminoScore, pattern_of, score
from dietetics.composition.foods import Food, read_table

DIGESTIBILITY_SOURCE = "FAO/WHO 1991, from memory"


@dataclass(frozen=True)
class Digestibility:
    """The share of a food's protein that is taken up, of which food that was measured, and whether
    it stands in.
    """

    share: float
    of: str
    stands_in: bool


@lru_cache(maxsize=1)
def _table() -> Mapping[tuple[str, str], Digestibility]:
    return {
        (row["kind"], row["key"]): Digestibility(
            float(row["share"]), row["of"], bool(row["stands_in"])
        )
        for row in read_table("digestibility.csv")
    }


def digestibility_of(food: Food) -> Digestibility | None:
    """True digestibility of a food's protein: its family's, else its group's; None where neither is
    known.
    """
    table = _table()
    return table.get(("family", food.family)) or table.get(("group", food.group))


@dataclass(frozen=True)
class DigestedScore:
    """The amino acid score × digestibility of the mixture. `covered` is the share of the protein
    with a known one.
    """

    score: float
    digestibility: float
    covered: float
    stands_in: tuple[str, ...]


def digested(foods: Sequence[tuple[Food, float]], plain: AminoScore) -> DigestedScore | None:
    """Correct a score by the protein-weighted digestibility of the foods that have one; None when
    none has.

    FAO/WHO 1991: PDCAAS is the score × true digestibility, and not above 1. Foods without a figure
    are left out of the mean, and the share covered says so.
    """
    total = known = weighted = 0.0
    standing: set[str] = set()
    for food, grams in foods:
        protein = (food.per_100g.get("protein_g") or 0.0) * grams / 100
        total += protein
        found = digestibility_of(food)
        if found is None or not protein:
            continue
        known += protein
        weighted += protein * found.share
        if found.stands_in:
            standing.add(food.name)
    if not known:
        return None
    mean = weighted / known
    return DigestedScore(min(1.0, plain.score * mean), mean, known / total, tuple(sorted(standing)))


@dataclass(frozen=True)
class AcidRow:
    """One essential amino acid of the mixture: mg per g protein, what adults need, and the
    ratio.
    """

    name: str
    mg_per_g: float
    wanted: float
    ratio: float


def acid_rows(plain: AminoScore) -> list[AcidRow]:
    """Every acid, the scarcest first."""
    rows = [
        AcidRow(name, plain.ratios[name] * wanted, wanted, plain.ratios[name])
        for name, wanted in ADULT_PATTERN_MG_PER_G.items()
    ]
    return sorted(rows, key=lambda row: (row.ratio, row.name))


def without_pattern(foods: Sequence[tuple[Food, float]]) -> list[str]:
    """Names of foods that bring protein and have no known pattern."""
    return sorted(
        {
            food.name
            for food, grams in foods
            if food.per_100g.get("protein_g") and grams and pattern_of(food) is None
        }
    )


def quality(foods: Sequence[tuple[Food, float]]) -> tuple[AminoScore, DigestedScore | None] | None:
    """The score of a mixture, with and without digestibility; None when no protein has a known
    pattern.
    """
    plain = score(foods)
    return None if plain is None else (plain, digested(foods, plain))
