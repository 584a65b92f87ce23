"""Amino acids: each food's pattern per gram of protein, the score against the adult pattern, and
what would lift it.

Patterns come from one table of raw foods and are used for every state of a food, since cooking
changes amounts far more than proportions. Where another food stands in, it is named.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import Food, cell_number, read_table
from dietetics.nutrients import TABLE_KEYS

# WHO/FAO/UNU TRS 935 (2007), table 23, adults: mg per g protein.
ADULT_PATTERN_MG_PER_G: Mapping[str, float] = {
    "histidine": 15, "isoleucine": 30, "leucine": 59, "lysine": 45, "methionine + cysteine": 22,
    "phenylalanine + tyrosine": 38, "threonine": 23, "tryptophan": 6, "valine": 39,
}  # fmt: skip
PATTERN_SOURCE = "WHO/FAO/UNU TRS 935 (2007), adults"
_COLUMNS: Mapping[str, tuple[str, ...]] = {
    "histidine": ("his",), "isoleucine": ("ile",), "leucine": ("leu",), "lysine": ("lys",),
    "methionine + cysteine": ("met", "cys"), "phenylalanine + tyrosine": ("phe", "tyr"),
    "threonine": ("thr",),
    "tryptophan": ("trp",), "valine": ("val",),
}  # fmt: skip


@dataclass(frozen=True)
class AminoPattern:
    """mg of each essential amino acid per g protein (None unknown), and where it was measured."""

    mg_per_g_protein: Mapping[str, float | None]
    source: str
    proxy: str
    phytate_mg_per_100g_raw: float | None
    oxalate_mg_per_100g_raw: float | None


@dataclass(frozen=True)
class AminoScore:
    """The lowest ratio to the adult pattern and the acid that sets it. `covered` is the share of
    protein known.
    """

    score: float
    limiting: str
    ratios: Mapping[str, float]
    covered: float


@lru_cache(maxsize=1)
def patterns() -> Mapping[str, AminoPattern]:
    """Every family's pattern, read once from the table."""
    found = {}
    for row in read_table("amino_acids.csv"):
        acids: dict[str, float | None] = {}
        for name, columns in _COLUMNS.items():
            parts = [cell_number(row[column]) for column in columns]
            acids[name] = (
                None if any(p is None for p in parts) else sum(p for p in parts if p is not None)
            )
        source = f"Indian Food Composition Tables 2017, {row['code']} “{row['ifct_name']}”"
        found[row["family"]] = AminoPattern(
            acids,
            source,
            row["proxy"],
            cell_number(row["phytate_mg"]),
            cell_number(row["oxalate_mg"]),
        )
    return found


def pattern_of(food: Food) -> AminoPattern | None:
    """The pattern of a food's family, or None where neither it nor a proxy was measured."""
    return patterns().get(food.family)


def score(foods: Sequence[tuple[Food, float]]) -> AminoScore | None:
    """Score the protein of foods given with their grams. None when no protein with a pattern is
    known.

    Score = lowest of (mg per g protein of the mixture ÷ adult pattern); not corrected for
    digestibility.
    """
    protein_total = protein_known = 0.0
    sums = dict.fromkeys(ADULT_PATTERN_MG_PER_G, 0.0)
    for food, grams in foods:
        per_100g = food.per_100g.get("protein_g")
        if not per_100g:
            continue
        protein = per_100g * grams / 100
        protein_total += protein
        pattern = pattern_of(food)
        if pattern is None or any(value is None for value in pattern.mg_per_g_protein.values()):
            continue
        protein_known += protein
        for name, value in pattern.mg_per_g_protein.items():
            sums[name] += (value or 0.0) * protein
    if not protein_known:
        return None
    ratios = {
        name: sums[name] / protein_known / wanted for name, wanted in ADULT_PATTERN_MG_PER_G.items()
    }
    limiting = min(ratios, key=lambda name: (ratios[name], name))
    return AminoScore(ratios[limiting], limiting, ratios, protein_known / protein_total)


def score_of(food: Food) -> AminoScore | None:
    """The score of one food."""
    return score([(food, 100.0)])


def richest_in(
    acid: str, group_order: Sequence[str], foods: Sequence[Food], count: int = 3
) -> list[Food]:
    """Foods of the wanted groups with most of an acid per g protein: what would lift a mixture that
    lacks it.
    """
    best: dict[str, tuple[float, Food]] = {}
    for food in foods:
        pattern = pattern_of(food)
        value = pattern.mg_per_g_protein.get(acid) if pattern else None
        enough = (food.per_100g.get("protein_g") or 0) >= 5
        if value is not None and food.group in group_order and enough and food.family not in best:
            best[food.family] = (value, food)
    ranked = sorted(best.values(), key=lambda pair: (-pair[0], pair[1].key))
    return [food for _, food in ranked[:count]]


@dataclass(frozen=True)
class SecondOpinion:
    """What the other table says of the same raw food, per 100 g."""

    source: str
    values: Mapping[str, float]


@lru_cache(maxsize=1)
def second_opinions() -> Mapping[str, SecondOpinion]:
    """Raw foods that both tables have, by our key."""
    found = {}
    for row in read_table("second_opinion.csv"):
        values = {k: float(v) for k, v in row.items() if k in TABLE_KEYS and v}
        source = f"Indian Food Composition Tables 2017, {row['code']} “{row['ifct_name']}”"
        found[row["food"]] = SecondOpinion(source, values)
    return found
