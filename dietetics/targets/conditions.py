"""Conditions, medicines and kidney stages a client may have, read from one table, and the sets of
them that rules ask for.

A rule never looks into a key: it asks for one of the sets below, each named once.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import read_table

KIDNEY_STAGES = frozenset({"ckd-1", "ckd-2", "ckd-3", "ckd-4", "ckd-5"})
LATE_KIDNEY_STAGES = frozenset({"ckd-3", "ckd-4", "ckd-5"})
ALBUMINURIA = frozenset({"albuminuria-a1", "albuminuria-a2", "albuminuria-a3"})
DIALYSIS = frozenset({"dialysis", "peritoneal-dialysis"})
KIDNEY = KIDNEY_STAGES | DIALYSIS | {"transplant"}
DIABETES = frozenset({"diabetes-1", "diabetes-2", "insulin", "sulphonylurea"})
LOWERS_GLUCOSE = frozenset({"insulin", "sulphonylurea", "diabetes-1"})
POTASSIUM_WATCHED = KIDNEY | {"potassium-raising"}
# With these an ordinary ceiling of sodium would do harm: the amount is prescribed, or must stay
# steady.
NO_SODIUM_CEILING = frozenset({"prescribed-sodium", "lithium"})
THYROID = frozenset({"thyroid-medicine", "hypothyroidism"})
# Held to the same amount every day: the dose is set to it.
HELD_STEADY: Mapping[str, str] = {"warfarin": "vitamin_k_ug", "lithium": "sodium_mg"}
# The nutrients whose targets a condition or medicine asks for: nobody is advised to leave those.
# Our reading of the table, and no complete list.
_MINDED: tuple[tuple[frozenset[str], frozenset[str]], ...] = (
    (KIDNEY, frozenset({"protein_g", "sodium_mg", "potassium_mg", "phosphorus_mg"})),
    (frozenset({"potassium-raising"}), frozenset({"potassium_mg"})),
    *((frozenset({key}), frozenset({steady})) for key, steady in HELD_STEADY.items()),
    (NO_SODIUM_CEILING | {"hypertension", "heart-failure"}, frozenset({"sodium_mg"})),
    (frozenset({"high-ldl"}), frozenset({"saturated_fat_g"})),
    (DIABETES | {"gestational-diabetes"}, frozenset({"carbohydrate_g", "fibre_g"})),
    (frozenset({"iron-deficiency"}), frozenset({"iron_mg"})),
    (frozenset({"low-b12"}), frozenset({"vitamin_b12_ug"})),
    (frozenset({"osteoporosis"}), frozenset({"calcium_mg", "vitamin_d_ug", "protein_g"})),
    (THYROID, frozenset({"iodine_ug"})),
    (frozenset({"bariatric-surgery"}), frozenset({"protein_g"})),
    (frozenset({"eating-disorder"}), frozenset({"energy_kcal"})),
)
# What no person has at once; each group holds at most one.
EXCLUSIVE = (
    tuple(sorted(KIDNEY_STAGES)),
    tuple(sorted(ALBUMINURIA)),
    ("diabetes-1", "diabetes-2", "pre-diabetes"),
    ("dialysis", "peritoneal-dialysis"),
    ("ckd-1", "dialysis"), ("ckd-2", "dialysis"), ("ckd-3", "dialysis"), ("ckd-4", "dialysis"),
    ("ckd-1", "peritoneal-dialysis"), ("ckd-2", "peritoneal-dialysis"), ("ckd-3",
    "peritoneal-dialysis"),
    ("ckd-4", "peritoneal-dialysis"),
)  # fmt: skip


@dataclass(frozen=True)
class Condition:
    """One row: its name, kind (condition, medicine, kidney), and the caution it raises, `code` ""
    for none of its own.
    """

    key: str
    name: str
    kind: str
    code: str
    severity: str
    text: str
    action: str
    ask: str
    source: str


@lru_cache(maxsize=1)
def conditions() -> Mapping[str, Condition]:
    """Every condition by its key, in the table's order."""
    return {row["key"]: Condition(**row) for row in read_table("conditions.csv")}


def nutrients_minded(present: frozenset[str]) -> frozenset[str]:
    """The nutrients whose targets these conditions and medicines ask for."""
    found = (nutrients for having, nutrients in _MINDED if having & present)
    return frozenset().union(*found)


CONDITIONS: Mapping[str, str] = {key: one.name for key, one in conditions().items()}
